import { parseArgs } from 'node:util';
import { ReaderPool } from '#web/server/reader-pool.ts';
import { ovenRun } from '../sample-run.ts';
import { attackDocuments } from './documents.ts';
import { attackWithKills } from './kills.ts';
import { driveEdits } from './many-edits.ts';
import { attackReaders } from './readers.ts';
import { attackRequests } from './requests.ts';

const { values } = parseArgs({
  options: {
    inputs: { type: 'string', default: '10000' },
    kills: { type: 'string', default: '100' },
    seed: { type: 'string', default: '1' },
    edits: { type: 'string', default: '300' },
  },
});
const [inputs, kills, seed, edits] = [values.inputs, values.kills, values.seed, values.edits].map(Number);
let found = 0;

function tell(
  what: string,
  report: { inputs: number; findings: { input: string; what: string }[] },
  more = '',
): void {
  console.log(`${what}: ${report.inputs} inputs, ${report.findings.length} findings${more}`);
  for (const f of report.findings.slice(0, 60)) console.log(`  ${f.input}: ${f.what}`);
  found += report.findings.length;
}

async function attackInputs(): Promise<void> {
  const pool = new ReaderPool('dist/reader-process.mjs', { processes: 2, memory: 900, patience: 6000 });
  const files = await attackReaders(pool, Math.round(inputs * 0.7), seed);
  pool.close();
  tell('files', files, `, ${files.read} read, ${files.refused} refused`);
  tell('scene documents', attackDocuments(Math.round(inputs * 0.2), seed, await ovenRun()));
  tell('requests', await attackRequests(Math.round(inputs * 0.1), seed));
}

if (inputs > 0) await attackInputs();
if (kills > 0) tell('kills', await attackWithKills(kills, seed));
if (edits > 0) tell('edits on the desk', await driveEdits(edits, seed));
process.exit(found > 0 ? 1 : 0);
