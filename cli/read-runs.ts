import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { filesOfPlan } from '#core/formats/series.ts';
import type { NumberArray } from '#core/model/arrays.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import type { ArrayRef, RunDescription } from '#core/model/run.ts';
import { ArraySource } from '#engine/array-source.ts';
import { importRun, localHost } from '#engine/import-run.ts';
import { refOf } from '#web/server/array-store.ts';
import { anywhere, blamed, FileOpener, understandFiles } from '#web/server/reading.ts';
import { withFolders } from '#web/server/walk-folders.ts';

/**
 * The first run that files hold, with what else they say told to the person.
 *
 * @returns null, which is told as well, where there is none
 */
export async function readFirstRun(
  files: string[],
  keep?: Map<string, NumberArray>,
): Promise<RunDescription | null> {
  const { runs, errors } = await readRuns(files, keep);
  for (const e of errors)
    console.error(`${e.file}: ${e.reason}\n  where: ${e.where}\n  what to do: ${e.remedy}`);
  const [first] = runs;
  if (!first && errors.length === 0) console.error('The files hold no run. Give result files.');
  return first ? withOfferedQuantities(first) : null;
}

/**
 * The first run that files hold, with the arrays it is made of; null, which is told, where there is none.
 *
 * @param beside files of other runs that formulas look at, each a run
 */
export async function openFirstRun(
  files: string[],
  beside: readonly string[] = [],
): Promise<{ run: RunDescription; source: ArraySource } | null> {
  const arrays = new Map<string, NumberArray>();
  const first = await readFirstRun(files, arrays);
  const others: NonNullable<RunDescription['others']> = {};
  for (const file of beside) {
    const other = await readFirstRun([file], arrays);
    if (!other) return null;
    others[other.name] = other;
  }
  const run = first && { ...first, others };
  const source = new ArraySource(async ({ hash }: ArrayRef) => {
    const data = arrays.get(hash)!;
    return data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength) as ArrayBuffer;
  });
  return run && { run, source };
}

/**
 * Reads every step of the runs that files hold, in this process.
 *
 * @param keep gets every array, by the name the runs know it by; without it nothing of them is kept
 */
export async function readRuns(
  files: string[],
  keep?: Map<string, NumberArray>,
): Promise<{ runs: RunDescription[]; errors: FileProblem[] }> {
  const scratch = await mkdtemp(join(tmpdir(), 'dresser-'));
  try {
    const named = files.map((name) => ({ name, path: resolve(name) }));
    const { plans, base, problems } = await understandFiles(await withFolders(named), anywhere, scratch);
    const runs: RunDescription[] = [];
    const errors = [...problems];
    for (const plan of plans) {
      const opener = new FileOpener(base);
      try {
        const { run, problems: found } = await importRun(
          plan,
          {},
          localHost({
            open: (name) => opener.open(name, plan.reading),
            bytes: opener.bytes,
            sink: {
              put: async (data) => {
                const ref = refOf(data);
                keep?.set(ref.hash, data.slice());
                return ref;
              },
            },
          }),
        );
        runs.push(run);
        errors.push(...found);
      } catch (error) {
        errors.push(...(await blamed(plan.collection ?? plan.name, filesOfPlan(plan), opener, error)));
      }
    }
    return { runs, errors };
  } finally {
    await rm(scratch, { recursive: true, force: true });
  }
}
