import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { listedSets, makeSet } from '#web/server/run-sets.ts';

const body = z.object({ name: z.string().max(200), runs: z.array(z.string().max(200)).min(1).max(20_000) });

/** All sets of runs. */
export const GET = answer(listedSets);

/** Makes a set of some runs. */
export const POST = answer(async ({ request }) => {
  const { name, runs } = await readBody(request, body);
  return makeSet(name, runs);
});
