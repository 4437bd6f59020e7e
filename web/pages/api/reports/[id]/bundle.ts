import { fileName } from '#core/language/file-name.ts';
import { answer } from '#web/server/answer.ts';
import { attachment } from '#web/server/attachment.ts';
import { bundleOf } from '#web/server/reports/bundles.ts';

/** The report as one file, with everything that it is linked to but the runs. */
export const GET = answer(async ({ params }) => {
  const bundle = await bundleOf(params.id!);
  const name = `${fileName(bundle.report.name, 'report')}.json`;
  return attachment(name, 'application/json', JSON.stringify(bundle));
});
