import { eq } from 'drizzle-orm';
import { answer, NotFound } from '#web/server/answer.ts';
import { database, runs } from '#web/server/database.ts';
import { tidyUploads } from '#web/server/intake.ts';
import { sweepStore } from '#web/server/store-sweep.ts';

export const GET = answer(async ({ params }) => {
  const db = await database();
  const [row] = await db.select().from(runs).where(eq(runs.id, params.id!));
  if (!row) throw new NotFound('There is no such run.');
  return row;
});

/** Removes a run with its scenes, shots and arrays. */
export const DELETE = answer(async ({ params }) => {
  const db = await database();
  const [row] = await db.delete(runs).where(eq(runs.id, params.id!)).returning({ id: runs.id });
  if (!row) throw new NotFound('There is no such run.');
  await sweepStore();
  await tidyUploads();
});
