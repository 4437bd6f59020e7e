import { eq } from 'drizzle-orm';
import { statedSchema } from '#core/model/stated-meanings.ts';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import { database, runs } from '#web/server/database.ts';
import { tidyUploads } from '#web/server/intake.ts';
import { stateMeanings } from '#web/server/run-changes.ts';
import { sweepStore } from '#web/server/store-sweep.ts';

export const GET = answer(async ({ params }) => {
  const db = await database();
  const [row] = await db.select().from(runs).where(eq(runs.id, params.id!));
  if (!row) throw new NotFound('There is no such run.');
  return row;
});

/** Names, units and meanings that a person states; everything else stays. */
export const PATCH = answer(async ({ params, request }) =>
  stateMeanings(params.id!, await readBody(request, statedSchema)),
);

/** Removes a run with its scenes, shots and arrays. */
export const DELETE = answer(async ({ params }) => {
  const db = await database();
  const [row] = await db.delete(runs).where(eq(runs.id, params.id!)).returning({ id: runs.id });
  if (!row) throw new NotFound('There is no such run.');
  await sweepStore();
  await tidyUploads();
});
