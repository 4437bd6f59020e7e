import { wholeNumber } from '#core/model/bounded-number.ts';
import { LARGEST_SIDE } from '#core/model/largest-side.ts';
import { z } from '#core/model/schema.ts';
import { filmQualitySchema } from '#core/motion/film-quality.ts';
import { type FilmOrder, makeFilm } from '../make-film.ts';
import type { JobKind } from './job-kind.ts';

/** What is asked of a run. */
export const filmOrder = z.object({
  scene: z.unknown(),
  width: wholeNumber().min(16).max(LARGEST_SIDE),
  height: wholeNumber().min(16).max(LARGEST_SIDE),
  passes: wholeNumber().min(1).max(4096),
  films: z
    .array(
      z.union([
        z.object({ format: z.string().max(20), quality: filmQualitySchema }),
        z.object({ pictures: z.string().max(20) }),
      ]),
    )
    .min(1)
    .max(10),
});

/** Films of a scene, drawn without a screen and in the background. */
export const filmJob: JobKind<FilmOrder> = {
  kind: 'film',
  payload: filmOrder.extend({ run: z.string() }),
  // Pictures that are whole are not drawn again.
  retries: 5,
  work: makeFilm,
};
