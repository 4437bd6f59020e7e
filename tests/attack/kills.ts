import { type ChildProcess, spawn } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openFile } from '#core/formats/registry.ts';
import { arraysOfRun, type RunDescription } from '#core/model/run.ts';
import { buildVtu, hexBlock } from '../vtu-builder.ts';
import { pick, type Random, seeded } from './damage.ts';
import type { Finding } from './readers.ts';
import { Served } from './served.ts';

const block = (hot: number, cells = 12): Uint8Array => {
  const data = Array.from({ length: (cells + 1) ** 3 }, (_, i) => hot + i);
  return new Uint8Array(
    buildVtu(
      hexBlock(cells),
      [{ name: 'temperature', location: 'point', components: 1, type: 'Float64', data }],
      {
        format: 'ascii',
        header: 4,
        big: false,
        zlib: false,
      },
    ),
  );
};

interface Known {
  run: string;
  scene: string;
  /** The name the scene was last told to have; empty while none was confirmed. */
  name: string;
  /** Steps it was last told to have. */
  steps: number;
  /** Where its files lie, and how many were written there. */
  folder: string;
  written: number;
}

interface Attack {
  served: Served;
  known: Known[];
  /** Folder of results the server may read. */
  results: string;
  random: Random;
  n: number;
  wrong(what: string): void;
}

const deeds = { import: reading, upload, swap, extend, edit, shot, delete: deletion, export: exporting };
type Deed = keyof typeof deeds;

/** How long a deed goes on before the power goes, at most, in milliseconds. */
const longest = (deed: Deed): number =>
  deed === 'edit' || deed === 'shot' ? 150 : deed === 'delete' ? 60 : 900;

/**
 * Kills a server in the middle of uploads, imports, swaps, new steps, edits, shots, deletions, and a converter in the
 * middle of an export, and starts it again: what was confirmed is there, what was not is there whole or not at all.
 */
export async function attackWithKills(
  kills: number,
  seed: number,
): Promise<{ inputs: number; findings: Finding[]; deeds: Record<string, number> }> {
  const findings: Finding[] = [];
  const counts: Record<string, number> = {};
  const results = mkdtempSync(join(tmpdir(), 'dresser-results-'));
  const served = await new Served({ DRESSER_FOLDERS: results }).start();
  const known: Known[] = [];
  try {
    for (let n = 0; n < kills; n++) {
      const random = seeded(seed * 3_000_017 + n);
      // Every kind comes as often; the first gives the others something to work on.
      const names = Object.keys(deeds) as Deed[];
      const deed = known.length === 0 ? 'import' : names[n % names.length];
      const input = `${seed}/${n} ${deed}`;
      const wrong = (what: string): void => void findings.push({ input, what });
      counts[deed] = (counts[deed] ?? 0) + 1;
      const work = deeds[deed]({ served, known, results, random, n, wrong }).catch(() => undefined);
      await new Promise((r) => setTimeout(r, random() * longest(deed)));
      await served.kill();
      await work;
      await served.start();
      for (const what of await check(served, known)) wrong(what);
    }
  } finally {
    await served.remove();
    rmSync(results, { recursive: true, force: true });
  }
  return { inputs: kills, findings, deeds: counts };
}

const pathOf = (folder: string, step: number): string => join(folder, `oven_${step}.vtu`);

async function reading({ served, known, results, n }: Attack): Promise<void> {
  const folder = join(results, String(n));
  mkdirSync(folder);
  for (const step of [0, 1]) writeFileSync(pathOf(folder, step), block(n + step / 2));
  const made = await served.importPaths([0, 1].map((step) => pathOf(folder, step)));
  if (made) known.push({ ...made, name: '', steps: 2, folder, written: 2 });
}

/** A large body that does not arrive whole leaves nothing. */
async function upload({ served }: Attack): Promise<void> {
  const { answer } = await served.send<{ id: string }>('POST', '/api/intake');
  for (let k = 0; ; k++) {
    const sent = await served.send(
      'PUT',
      `/api/intake/${answer.id}/files?name=large_${k}.vtu`,
      new Uint8Array(48e6),
    );
    if (sent.status !== 200) return;
  }
}

async function swap({ served, known, n, random }: Attack): Promise<void> {
  const own = pick(known, random);
  const made = await served.importDrop(
    (at) => served.send('PUT', `${at}/files?name=other.vtu`, block(1000 + n)).then(() => undefined),
    own.run,
  );
  // Its files are others from now on, whether that was confirmed or not.
  own.folder = '';
  own.steps = made ? 1 : Math.min(own.steps, 1);
}

async function extend({ served, known, n, random }: Attack): Promise<void> {
  const own = pick(
    known.filter((k) => k.folder !== ''),
    random,
  );
  for (;;) {
    writeFileSync(pathOf(own.folder, own.written), block(n + own.written / 2));
    own.written++;
    const { answer } = await served.send<{ job: string }>('POST', `/api/runs/${own.run}/read`, {
      what: 'new steps',
    });
    const grown = await served.follow<{ steps: number }>(answer.job);
    if (!grown) return;
    own.steps = grown.steps;
  }
}

async function deletion({ served, known, random }: Attack): Promise<void> {
  if (known.length < 3) return;
  const own = pick(known, random);
  known.splice(known.indexOf(own), 1);
  await served.send('DELETE', `/api/runs/${own.run}`);
}

async function edit({ served, known, n, random }: Attack): Promise<void> {
  const own = pick(known, random);
  const at = `/api/scenes/${own.scene}`;
  const { answer } = await served.send<{ revision: number; name: string }>('GET', at);
  for (let k = 0; ; k++) {
    const now = `name ${n}.${k}`;
    const was = k === 0 ? answer.name : `name ${n}.${k - 1}`;
    const revision = answer.revision + k;
    const saved = await served.send('PUT', at, { revision, changes: [{ at: ['name'], was, now }] });
    if (saved.status !== 200) return;
    own.name = now;
  }
}

async function shot({ served, known, random }: Attack): Promise<void> {
  const at = `/api/scenes/${pick(known, random).scene}`;
  const { document } = (await served.send<{ document: unknown }>('GET', at)).answer;
  const kept = { name: 'shot', document, thumbnail: 'data:image/png;base64,AAAA' };
  while ((await served.send('POST', `${at}/shots`, kept)).status === 200);
}

/** A converter that is killed leaves whole files under their names. */
async function exporting({ results, n, random, wrong }: Attack): Promise<void> {
  const [from, out] = ['from', 'out'].map((name) => join(results, `${name}-${n}`));
  mkdirSync(from);
  for (let step = 0; step < 12; step++) writeFileSync(pathOf(from, step), block(step));
  const converter: ChildProcess = spawn(
    process.execPath,
    ['cli/bin.mjs', 'convert', from, '--to', 'vtu', '--out', out],
    { stdio: 'ignore' },
  );
  const gone = new Promise((r) => converter.once('exit', r));
  await new Promise((r) => setTimeout(r, 500 + random() * 1500));
  converter.kill('SIGKILL');
  await gone;
  for (const name of existsSync(out) ? readdirSync(out) : []) {
    if (!name.endsWith('.vtu')) continue;
    const opened = await openFile(new Uint8Array(readFileSync(join(out, name))), name).catch(() => null);
    if (
      opened?.kind !== 'run' ||
      opened.findings.list.length > 0 ||
      opened.parts[0].at(0)?.points !== 13 ** 3
    )
      wrong(`${name} is not whole`);
  }
}

/** What is not as it was promised. */
async function check(served: Served, known: Known[]): Promise<string[]> {
  const wrong: string[] = [];
  for (const { run, scene, name, steps } of known) {
    const found = await served.send<{ description: RunDescription }>('GET', `/api/runs/${run}`);
    const kept = await served.send<{ name: string }>('GET', `/api/scenes/${scene}`);
    if (found.status !== 200 || kept.status !== 200) {
      wrong.push(`a run or scene is lost (${found.status}, ${kept.status})`);
      continue;
    }
    // The change under way when the power went may have arrived as well; an older name may not come back.
    const [at, step] = name.replace('name ', '').split('.').map(Number);
    const [nowAt, nowStep] = kept.answer.name.replace('name ', '').split('.').map(Number);
    if (name && (nowAt < at || (nowAt === at && nowStep < step)))
      wrong.push(`"${name}" was confirmed, "${kept.answer.name}" is there`);
    const { description } = found.answer;
    if (description.steps.length < steps)
      wrong.push(`${steps} steps were confirmed, ${description.steps.length} are there`);
    for (const { hash } of arraysOfRun(description))
      if (!existsSync(join(served.data, 'arrays', hash.slice(0, 2), `${hash}.bin`)))
        wrong.push('an array is lost');
    const page = await served.send<string>('GET', `/scene/${scene}`);
    if (page.status !== 200) wrong.push(`the page of a scene answers ${page.status}`);
  }
  const folder = join(served.data, 'arrays');
  for (const sub of existsSync(folder) ? readdirSync(folder) : [])
    for (const file of readdirSync(join(folder, sub)))
      if (!file.endsWith('.bin')) wrong.push(`half an array is left: ${file}`);
  const uploads = join(served.data, 'uploads');
  if (existsSync(uploads) && readdirSync(uploads).length > 0)
    wrong.push('copies of an unfinished drop are left');
  return wrong;
}
