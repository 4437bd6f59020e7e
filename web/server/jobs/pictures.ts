import { wholeNumber } from '#core/model/bounded-number.ts';
import { LARGEST_SIDE } from '#core/model/largest-side.ts';
import { z } from '#core/model/schema.ts';
import { pictureAtSchema } from '#core/motion/picture-at.ts';
import { type PicturesOrder, renderPictures } from '../render-pictures.ts';
import type { JobKind } from './job-kind.ts';

/** What is asked of a run. */
export const picturesOrder = z.object({
  scene: z.unknown(),
  pictures: z.array(pictureAtSchema).min(1).max(100_000),
  width: wholeNumber().min(16).max(LARGEST_SIDE),
  height: wholeNumber().min(16).max(LARGEST_SIDE),
  transparent: z.boolean(),
  passes: wholeNumber().min(1).max(4096),
  format: z.string().max(20).optional(),
  layers: z.boolean().optional(),
});

/** Pictures of a scene at some steps and phases, drawn without a screen; each is fetched as soon as it is there. */
export const picturesJob: JobKind<PicturesOrder> = {
  kind: 'pictures',
  payload: picturesOrder.extend({ run: z.string() }),
  // Pictures that are whole are not drawn again.
  retries: 2,
  work: renderPictures,
};
