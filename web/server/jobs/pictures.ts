import { wholeNumber } from '#core/model/bounded-number.ts';
import { z } from '#core/model/schema.ts';
import { type PicturesOrder, renderPictures } from '../render-pictures.ts';
import type { JobKind } from './job-kind.ts';

/** Largest side of a picture. */
const LARGEST = 7680;

/** What is asked of a run. */
export const picturesOrder = z.object({
  scene: z.unknown(),
  steps: z.array(wholeNumber().min(0)).min(1).max(100_000),
  width: wholeNumber().min(16).max(LARGEST),
  height: wholeNumber().min(16).max(LARGEST),
  transparent: z.boolean(),
  passes: wholeNumber().min(1).max(4096),
});

/** Pictures of a scene at some steps, drawn without a screen; each is fetched as soon as it is there. */
export const picturesJob: JobKind<PicturesOrder> = {
  kind: 'pictures',
  payload: picturesOrder.extend({ run: z.string() }),
  // Pictures that are whole are not drawn again.
  retries: 2,
  work: renderPictures,
};
