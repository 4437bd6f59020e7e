import { mkdirSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { demoRuns } from './bench.ts';

/**
 * Computes runs of the bench into the folder given first, those named behind it or all; `--list` says which there are.
 * A file `ID.complete` stands beside the folder of a run once it is whole.
 */
const [where, ...wanted] = process.argv.slice(2);
if (where === '--list') {
  process.stdout.write(
    JSON.stringify(
      demoRuns.map(({ id, name, file, asSet, choices }) => ({ id, name, file, asSet, choices })),
    ),
  );
} else {
  for (const run of demoRuns.filter((r) => wanted.length === 0 || wanted.includes(r.id))) {
    const folder = resolve(where ?? 'data/demo', run.id);
    mkdirSync(folder, { recursive: true });
    const began = Date.now();
    run.compute(
      (name, content) => writeFileSync(join(folder, name), content),
      (done) => {
        if (process.stdout.isTTY)
          process.stdout.write(`\rComputing ${run.name}: ${Math.round(100 * done)} % `);
      },
    );
    writeFileSync(`${folder}.complete`, '');
    console.log(
      `${process.stdout.isTTY ? '\r' : ''}${run.name} took ${((Date.now() - began) / 1000).toFixed(1)} s.`,
    );
  }
}
