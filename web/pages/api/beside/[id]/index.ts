import { answer, readBody } from '#web/server/answer.ts';
import { savedChanges } from '#web/server/saved-documents.ts';
import { deleteSideBySide, openSideBySide, saveSideBySide } from '#web/server/side-by-sides.ts';

export const GET = answer(({ params }) => openSideBySide(params.id!));

/** Saves changes; what others changed meanwhile stays, or is told of with 409. */
export const PUT = answer(async ({ params, request }) => {
  const { revision, changes } = await readBody(request, savedChanges);
  return saveSideBySide(params.id!, revision, changes);
});

export const DELETE = answer(({ params }) => deleteSideBySide(params.id!));
