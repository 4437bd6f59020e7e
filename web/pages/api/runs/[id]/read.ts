import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { addFieldsJob } from '#web/server/jobs/add-fields.ts';
import { newStepsJob } from '#web/server/jobs/new-steps.ts';
import { jobs } from '#web/server/jobs/queue.ts';
import { stateFrameJob } from '#web/server/jobs/state-frame.ts';

const vector = z.tuple([z.number(), z.number(), z.number()]);

const body = z.discriminatedUnion('what', [
  z.object({ what: z.literal('new steps') }),
  z.object({ what: z.literal('fields'), fields: z.array(z.string()).min(1) }),
  z.object({
    what: z.literal('frame'),
    part: z.string(),
    frame: z.object({
      point: vector,
      axis: vector.refine((a) => Math.hypot(...a) > 0, { message: 'The axis has no length.' }),
      rate: z.number(),
    }),
  }),
]);

/** Reads more of the files of a run: steps that came later, fields that were left out, an absolute velocity. */
export const POST = answer(async ({ params, request }) => {
  const asked = await readBody(request, body);
  const run = params.id!;
  if (asked.what === 'new steps') return { job: await jobs.start(newStepsJob, { run }) };
  if (asked.what === 'fields') return { job: await jobs.start(addFieldsJob, { run, keys: asked.fields }) };
  return { job: await jobs.start(stateFrameJob, { run, part: asked.part, frame: asked.frame }) };
});
