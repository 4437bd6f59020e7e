import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { startAddFields, startReadNewSteps, startStateFrame } from '#web/server/run-changes.ts';

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
  const id = params.id!;
  if (asked.what === 'new steps') return { job: startReadNewSteps(id) };
  if (asked.what === 'fields') return { job: startAddFields(id, asked.fields) };
  return { job: startStateFrame(id, asked.part, asked.frame) };
});
