import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { NumberArray } from '#core/model/arrays.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import type { ArrayRef, RunDescription } from '#core/model/run.ts';
import { importRun, localHost } from '#engine/import-run.ts';
import { refOf } from '#web/server/array-store.ts';
import { anywhere, FileOpener, understandFiles } from '#web/server/reading.ts';
import { withFolders } from '#web/server/walk-folders.ts';

/** Runs read from files, folders and archives, with their arrays kept in memory by name. */
export interface ReadRuns {
  runs: RunDescription[];
  problems: FileProblem[];
  array(ref: ArrayRef): NumberArray;
}

export async function readRuns(paths: string[]): Promise<ReadRuns> {
  const scratch = mkdtempSync(join(tmpdir(), 'dresser-test-'));
  const arrays = new Map<string, NumberArray>();
  const out: ReadRuns = { runs: [], problems: [], array: (ref) => arrays.get(ref.hash)! };
  try {
    const named = await withFolders(paths.map((name) => ({ name, path: resolve(name) })));
    const { plans, base, problems } = await understandFiles(named, anywhere, scratch);
    out.problems.push(...problems);
    for (const plan of plans) {
      const opener = new FileOpener(base);
      const host = localHost({
        open: (name) => opener.open(name, plan.reading),
        bytes: opener.bytes,
        sink: {
          put: async (data) => {
            const ref = refOf(data);
            arrays.set(ref.hash, data.slice());
            return ref;
          },
        },
      });
      const { run, problems: found } = await importRun(plan, {}, host);
      out.runs.push(run);
      out.problems.push(...found);
    }
    return out;
  } finally {
    rmSync(scratch, { recursive: true, force: true });
  }
}
