import { answer, readBody } from '#web/server/answer.ts';
import { deleteSet, openSet, saveSet } from '#web/server/run-sets.ts';
import { savedChanges } from '#web/server/saved-documents.ts';

export const GET = answer(({ params }) => openSet(params.id!));

/** Saves changes; what others changed meanwhile stays, or is told of with 409. */
export const PUT = answer(async ({ params, request }) => {
  const { revision, changes } = await readBody(request, savedChanges);
  return saveSet(params.id!, revision, changes);
});

export const DELETE = answer(({ params }) => deleteSet(params.id!));
