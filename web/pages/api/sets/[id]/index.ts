import { answer, readBody } from '#web/server/answer.ts';
import { deleteSet, openSet, saveSet } from '#web/server/run-sets.ts';
import { savedChanges } from '#web/server/saved-documents.ts';
import { forgetWatch, watchAsSaid } from '#web/server/watched-sets.ts';

export const GET = answer(({ params }) => openSet(params.id!));

/** Saves changes; what others changed meanwhile stays, or is told of with 409. */
export const PUT = answer(async ({ params, request }) => {
  const { revision, changes } = await readBody(request, savedChanges);
  const saved = await saveSet(params.id!, revision, changes);
  await watchAsSaid(params.id!);
  return saved;
});

export const DELETE = answer(async ({ params }) => {
  await deleteSet(params.id!);
  await forgetWatch(params.id!);
});
