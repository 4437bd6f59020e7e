import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { arrangeJob } from '#web/server/jobs/arrange.ts';
import { jobs } from '#web/server/jobs/queue.ts';

const column = z.number().int().min(0);
const reading = z.discriminatedUnion('as', [
  z.object({ as: z.literal('history'), time: column }),
  z.object({
    as: z.literal('points'),
    x: column,
    y: column,
    z: column.nullable(),
    vectors: z.array(
      z.object({ name: z.string().min(1), columns: z.tuple([column, column, column.nullable()]) }),
    ),
    diameter: column.nullable(),
    step: column.nullable(),
    id: column.nullable(),
  }),
  z.object({ as: z.literal('runs'), file: column.nullable() }),
]);
const body = z.object({
  plans: z.array(z.number().int().min(0)).min(1),
  as: z.enum(['steps', 'parts', 'pieces', 'steps of pieces', 'runs']).nullable(),
  times: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('stated') }),
    z.object({ kind: z.literal('names') }),
    z.object({ kind: z.literal('typed'), start: z.number(), interval: z.number() }),
  ]),
  reading: reading.nullable(),
  apart: z.array(z.string().max(300)).max(1000).default([]),
  same: z.boolean().optional(),
  lengthUnits: z.array(z.string().max(40).nullable()).max(1000).optional(),
});

/** Puts the files of proposed runs together in another way. */
export const POST = answer(async ({ params, request }) => {
  const { plans, ...wish } = await readBody(request, body);
  return { job: await jobs.start(arrangeJob, { intake: params.id!, plans, wish }) };
});
