import { eq } from 'drizzle-orm';
import { unmeasured } from '#core/fields/quantity-sources.ts';
import type { MeasuredRange } from '#core/model/run.ts';
import { migratedRun } from '#core/model/run-migrations.ts';
import { NotFound } from './answer.ts';
import { database, runs } from './database.ts';
import { intakeProblem } from './intake-problem.ts';
import { startJob } from './jobs.ts';
import { arraysFolder } from './paths.ts';
import { inReader } from './reading-work.ts';
import { runById } from './run-changes.ts';
import { ensureRoomToSave, inStore } from './store-trouble.ts';

/** Ranges under way, so that two pages that want the same one wait for one work. */
const underWay = new Map<string, string>();

/**
 * The range of a quantity that no file states: what is kept, or the job that computes it.
 *
 * @throws NotFound when the run has no such quantity, or its files state its range
 */
export async function rangeOf(id: string, key: string): Promise<{ range: MeasuredRange } | { job: string }> {
  const run = await runById(id);
  if (Object.hasOwn(run.measured, key)) return { range: run.measured[key] };
  if (unmeasured([key], run).length === 0) throw new NotFound('The run has no such quantity to be measured.');
  const name = `${id} ${run.steps.length} ${key}`;
  const known = underWay.get(name);
  if (known) return { job: known };
  const job = startJob(async (at) => {
    try {
      const range = await inReader<MeasuredRange>({ kind: 'range', run, key, arrays: arraysFolder }, at);
      await keep(id, key, range);
      return range;
    } finally {
      underWay.delete(name);
    }
  }, intakeProblem);
  underWay.set(name, job);
  return { job };
}

/** Stores a range with its run, unless the run has got other steps meanwhile. */
async function keep(id: string, key: string, range: MeasuredRange): Promise<void> {
  await ensureRoomToSave();
  const db = await database();
  await inStore(() =>
    db.transaction(async (tx) => {
      const [row] = await tx.select().from(runs).where(eq(runs.id, id)).for('update');
      if (!row) return;
      const run = migratedRun(row.description);
      if (run.steps.length !== range.perStep.length) return;
      const description = { ...run, measured: { ...run.measured, [key]: range } };
      await tx.update(runs).set({ description }).where(eq(runs.id, id));
    }),
  );
}
