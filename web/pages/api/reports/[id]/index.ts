import { answer, readBody } from '#web/server/answer.ts';
import { deleteReport, openReport, saveReport } from '#web/server/reports/kept-reports.ts';
import { savedChanges } from '#web/server/saved-documents.ts';

export const GET = answer(({ params }) => openReport(params.id!));

/** Saves changes; what others changed meanwhile stays, or is told of with 409. */
export const PUT = answer(async ({ params, request }) => {
  const { revision, changes } = await readBody(request, savedChanges);
  return saveReport(params.id!, revision, changes);
});

export const DELETE = answer(({ params }) => deleteReport(params.id!));
