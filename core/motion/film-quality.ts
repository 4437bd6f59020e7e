import { wholeNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';

/** How good a film is: in words, or by the bits it may take a second. */
export const filmQualitySchema = z.union([
  z.enum(['small', 'good', 'best']),
  z.object({ bits: wholeNumber().min(10_000).max(1_000_000_000) }),
]);

export type FilmQuality = z.infer<typeof filmQualitySchema>;
