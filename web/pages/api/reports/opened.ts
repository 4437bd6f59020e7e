import { z } from '#core/model/schema.ts';
import { reportBundleSchema } from '#core/report/report-bundle.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { openBundle } from '#web/server/reports/bundles.ts';
import { listedRuns } from '#web/server/run-sets.ts';

const body = z.object({
  bundle: reportBundleSchema,
  /** Ids of the runs it is to tell of; null for all there are. */
  runs: z.array(z.string().max(200)).max(5000).nullable(),
});

/** Opens a report file on runs. */
export const POST = answer(async ({ request }) => {
  const { bundle, runs: ids } = await readBody(request, body);
  const all = await listedRuns();
  const byId = new Map(all.map((r) => [r.id, r]));
  return openBundle(bundle, ids === null ? all : ids.flatMap((id) => byId.get(id) ?? []));
});
