import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { jobs } from '#web/server/jobs/registry.ts';
import { seeJob, seeOrder } from '#web/server/jobs/see.ts';
import { seenByKeys } from '#web/server/reports/kept-reports.ts';

const keys = z.string().max(40).array().max(2000);

/** What was seen by the keys of `?keys=`, with commas between them. */
export const GET = answer(({ url }) =>
  seenByKeys(keys.parse((url.searchParams.get('keys') ?? '').split(',').filter(Boolean))),
);

/** Begins to look at sources of a report as they are now. */
export const POST = answer(async ({ request }) => ({
  job: await jobs.start(seeJob, await readBody(request, seeOrder)),
}));
