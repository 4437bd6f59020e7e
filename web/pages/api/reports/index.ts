import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { listedReports, makeReport } from '#web/server/reports/kept-reports.ts';

const body = z.object({ name: z.string().max(200) });

/** All reports. */
export const GET = answer(listedReports);

export const POST = answer(async ({ request }) => makeReport((await readBody(request, body)).name));
