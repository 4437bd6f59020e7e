import { z } from '#core/model/schema.ts';
import { reportSchema } from '#core/report/report.ts';
import { type SeeOrder, seeSources } from '../reports/see-sources.ts';
import { pictureQualities } from '../reports/seen-store.ts';
import type { JobKind } from './job-kind.ts';

const source = reportSchema.shape.sources.element;

export const seeOrder: z.ZodType<SeeOrder> = z.object({
  sources: z
    .array(
      source.pick({ id: true, of: true, run: true }).extend({ pictured: z.boolean(), living: z.boolean() }),
    )
    .max(1000),
  pictures: reportSchema.shape.pictures,
  quality: z.enum(pictureQualities),
});

/** Looks at the sources of a report as they are now: their numbers, their charts and their pictures. */
export const seeJob: JobKind<SeeOrder> = {
  kind: 'see',
  payload: seeOrder,
  // What was seen is kept.
  retries: 2,
  work: seeSources,
};
