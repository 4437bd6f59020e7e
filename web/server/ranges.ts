import { and, desc, eq, isNull, ne } from 'drizzle-orm';
import { runsIn } from '#core/fields/formula/expanded-formula.ts';
import { unmeasured } from '#core/fields/quantity-sources.ts';
import { sayList } from '#core/language/sentence.ts';
import type { RunDescription } from '#core/model/run.ts';
import { migratedRun } from '#core/model/run-migrations.ts';
import {
  isQuantityOf,
  knownAnswer,
  type OtherRun,
  type RunAnswer,
  type RunQuestion,
  withAnswer,
} from '#engine/run-ranges.ts';
import { NotFound } from './answer.ts';
import { database, runs } from './database.ts';
import type { JobContext } from './jobs/job-kind.ts';
import { arraysFolder } from './paths.ts';
import { inReader } from './reading-work.ts';
import { runById } from './run-changes.ts';
import { ensureRoomToSave, inStore } from './store-trouble.ts';

/** Jobs under way, so that two pages that ask the same wait for one work. */
const underWay = new Map<string, Promise<string>>();
const nameOf = (id: string, question: RunQuestion): string => `${id} ${JSON.stringify(question)}`;

/**
 * The range of a quantity, or its quantiles, over a whole run: what is kept, or the job that computes it.
 *
 * @param start puts the work in the queue
 * @throws NotFound when the run has no such quantity, or its files state its range
 */
export async function answerAbout(
  id: string,
  question: RunQuestion,
  start: (order: { run: string; question: RunQuestion }) => Promise<string>,
): Promise<{ range: RunAnswer } | { job: string }> {
  const { kind, key } = question;
  if (kind === 'run') return { range: await runNamed(key, id) };
  const run = await withOthers(await runById(id), key, id);
  const known = knownAnswer(run, question);
  if (known) return { range: known };
  const has =
    kind === 'range' ? unmeasured([key], run).length > 0 : kind === 'number' || isQuantityOf(run, key);
  if (!has) throw new NotFound('The run has no such quantity to be measured.');
  const name = nameOf(id, question);
  let coming = underWay.get(name);
  if (!coming) {
    coming = start({ run: id, question });
    underWay.set(name, coming);
    coming.catch(() => underWay.delete(name));
  }
  return { job: await coming };
}

/** Until what it gives back is called, whoever asks the same is led to the same job. */
export function holdQuestion(id: string, question: RunQuestion): () => Promise<void> {
  return async () => void underWay.delete(nameOf(id, question));
}

/** Computes an answer and keeps it. */
export async function computeAnswer(id: string, question: RunQuestion, at: JobContext): Promise<RunAnswer> {
  const run = await withOthers(await runById(id), question.key, id);
  const range = await inReader<RunAnswer>({ kind: 'range', run, question, arrays: arraysFolder }, at);
  // Why there is none may have another reason the next time, and other runs may change.
  const ofOthers = runsIn(question.key).length > 0;
  if (!('trouble' in range) && !ofOthers) await keep(id, question, range, run.steps.length);
  return range;
}

/** Stores an answer with its run, unless the run has got other steps meanwhile. */
async function keep(id: string, question: RunQuestion, answer: RunAnswer, steps: number): Promise<void> {
  await ensureRoomToSave();
  const db = await database();
  await inStore(() =>
    db.transaction(async (tx) => {
      const [row] = await tx.select().from(runs).where(eq(runs.id, id)).for('update');
      if (!row) return;
      const run = migratedRun(row.description);
      if (run.steps.length !== steps) return;
      await tx
        .update(runs)
        .set({ description: withAnswer(run, question, answer) })
        .where(eq(runs.id, id));
    }),
  );
}

/** A run of the store by its name, another one than the asking; or what there is. */
async function runNamed(name: string, except: string): Promise<OtherRun> {
  const db = await database();
  const other = and(ne(runs.id, except), isNull(runs.removed));
  const [row] = await db
    .select()
    .from(runs)
    .where(and(eq(runs.name, name), other))
    .orderBy(desc(runs.created))
    .limit(1);
  if (row) return migratedRun(row.description);
  const all = await db.select({ name: runs.name }).from(runs).where(other).limit(SAID_RUNS);
  const there = all.length > 0 ? `there are ${sayList(all.map((r) => `“${r.name}”`))}` : 'there is no other';
  return { trouble: `there is no run “${name}” here; ${there}` };
}

/** Of the runs that could be meant more are not told. */
const SAID_RUNS = 8;

/** A run with the others that a quantity looks at. */
async function withOthers(run: RunDescription, key: string, id: string): Promise<RunDescription> {
  const others: Record<string, OtherRun> = {};
  for (const name of runsIn(key)) others[name] = await runNamed(name, id);
  return Object.keys(others).length > 0 ? { ...run, others } : run;
}
