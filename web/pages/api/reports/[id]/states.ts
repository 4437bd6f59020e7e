import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { keepVersion, versionOf, versionsOf } from '#web/server/reports/kept-reports.ts';

const body = z.object({ note: z.string().max(1000) });

/** Earlier states of a report, or the document of one of them with `?revision=`. */
export const GET = answer(async ({ params, url }) => {
  const revision = url.searchParams.get('revision');
  if (revision === null) return { states: await versionsOf(params.id!) };
  return { document: await versionOf(params.id!, Number.parseInt(revision, 10) || 0) };
});

/** Keeps the report as it is now under a note. */
export const POST = answer(async ({ params, request }) =>
  keepVersion(params.id!, (await readBody(request, body)).note),
);
