import type { RotatingFrame } from '#core/model/rotating-frame.ts';
import { z } from '#core/model/schema.ts';
import { stateFrame } from '../run-changes.ts';
import type { JobKind } from './job-kind.ts';

const vector = z.tuple([z.number(), z.number(), z.number()]);

/** States that the velocity of a part is relative to a rotating frame; the absolute one becomes a field. */
export const stateFrameJob: JobKind<{ run: string; part: string; frame: RotatingFrame }> = {
  kind: 'state frame',
  payload: z.object({
    run: z.string(),
    part: z.string(),
    frame: z.object({ point: vector, axis: vector, rate: z.number() }),
  }),
  retries: 0,
  work: ({ run, part, frame }, at) => stateFrame(run, part, frame, at),
};
