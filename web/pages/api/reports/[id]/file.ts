import { z } from '#core/model/schema.ts';
import { type ReportFormatId, reportFormats } from '#core/report/report-formats.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { attachment } from '#web/server/attachment.ts';
import { openReport } from '#web/server/reports/kept-reports.ts';
import { fileOfReport, pageAhead } from '#web/server/reports/report-file.ts';

const body = z.object({ format: z.enum(reportFormats.map((f) => f.id) as [ReportFormatId]) });

/** How large its page will be; see `PageAhead`. */
export const GET = answer(async ({ params }) => pageAhead((await openReport(params.id!)).document));

/** The report as a file, as it was last seen. */
export const POST = answer(async ({ params, request }) => {
  const { format: id } = await readBody(request, body);
  const { document } = await openReport(params.id!);
  const { name, format, bytes } = await fileOfReport(document, id, request.signal);
  return attachment(name, format.type, bytes as Uint8Array<ArrayBuffer>);
});
