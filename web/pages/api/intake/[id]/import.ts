import { stepKinds } from '#core/model/run.ts';
import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { importOrder } from '#web/server/intake.ts';
import { importJob } from '#web/server/jobs/import.ts';
import { jobs } from '#web/server/jobs/queue.ts';

const unit = z.string().max(40).nullable();
const vector = z.tuple([z.number(), z.number(), z.number()]);
const body = z.object({
  plan: z.number().int().min(0),
  /** The run that gets these files instead of its own. */
  swap: z.string().nullable().optional(),
  choices: z.object({
    name: z.string().max(200).optional(),
    timeUnit: unit.optional(),
    lengthUnit: unit.optional(),
    units: z.record(z.string(), unit).optional(),
    fields: z.array(z.string()).nullable().optional(),
    parts: z.array(z.string()).nullable().optional(),
    steps: z
      .object({
        from: z.number().int().min(0),
        to: z.number().int().min(0),
        every: z.number().int().min(1),
      })
      .nullable()
      .optional(),
    stepKind: z.enum(stepKinds).nullable().optional(),
    frames: z.record(z.string(), z.object({ point: vector, axis: vector, rate: z.number() })).optional(),
  }),
});

export const POST = answer(async ({ params, request }) => {
  const { plan, choices, swap } = await readBody(request, body);
  return { job: await jobs.start(importJob, importOrder(params.id!, plan, choices, swap ?? null)) };
});
