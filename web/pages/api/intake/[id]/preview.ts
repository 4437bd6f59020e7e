import { answer } from '#web/server/answer.ts';
import { previewJob } from '#web/server/jobs/preview.ts';
import { jobs } from '#web/server/jobs/queue.ts';

export const POST = answer(async ({ params }) => ({
  job: await jobs.start(previewJob, { intake: params.id!, everyStep: false }),
}));
