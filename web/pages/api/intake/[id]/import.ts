import { z } from 'zod';
import { answer, readBody } from '#web/server/answer.ts';
import { startImport } from '#web/server/intake.ts';

const unit = z.string().max(40).nullable();
const body = z.object({
  plan: z.number().int().min(0),
  choices: z.object({
    name: z.string().max(200).optional(),
    timeUnit: unit.optional(),
    lengthUnit: unit.optional(),
    units: z.record(z.string(), unit).optional(),
  }),
});

export const POST = answer(async ({ params, request }) => {
  const { plan, choices } = await readBody(request, body);
  return { job: startImport(params.id!, plan, choices) };
});
