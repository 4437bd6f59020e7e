import { mkdirSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { type CollectionRow, writePvd } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { OvenFiles } from './oven-files.ts';
import { OvenFlow } from './oven-flow.ts';

/** Computes the demo run into the folder given as the first argument: `oven-warm-up.pvd` and its files. */
const STEPS = 60;
const SECONDS_A_STEP = 2;
const ROUNDS_A_STEP = 6;

const folder = resolve(process.argv[2] ?? 'data/demo', 'oven-warm-up');
mkdirSync(folder, { recursive: true });

const flow = new OvenFlow();
const files = new OvenFiles(flow);
const entries: CollectionRow[] = [];
const started = Date.now();
for (let step = 1; step <= STEPS; step++) {
  for (let round = 0; round < ROUNDS_A_STEP; round++) flow.advance(SECONDS_A_STEP / ROUNDS_A_STEP);
  for (const [part, [name, bytes]] of Object.entries(files.step()).entries()) {
    const file = `${name.replaceAll(' ', '-')}-${String(step).padStart(2, '0')}.vtu`;
    writeFileSync(join(folder, file), bytes);
    entries.push({ time: Number(flow.time.toFixed(6)), part, name, file });
  }
  if (process.stdout.isTTY) process.stdout.write(`\rComputing the demo oven: step ${step} of ${STEPS} `);
}
// The collection comes last: where it stands, the run is whole.
writeFileSync(join(folder, 'oven-warm-up.pvd'), writePvd(entries));
console.log(`\nThe demo oven took ${((Date.now() - started) / 1000).toFixed(1)} s.`);
