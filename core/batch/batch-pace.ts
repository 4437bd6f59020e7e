import { z } from '../model/schema.ts';
import type { BatchEntry } from './batch-log.ts';
import type { BatchPlan } from './batch-plan.ts';

/** How fast pictures were made last, and how large their files became. */
export const batchPaceSchema = z.object({
  /** For a million pixels in one pass of light. */
  secondsPerPass: z.number(),
  /** A pixel, by the ids of formats. */
  bytes: z.record(z.string(), z.number()),
});

export type BatchPace = z.infer<typeof batchPaceSchema>;

const MEGA = 1e6;

/** What the files that were made tell of the coming ones; null where none was. */
export function paceOf(
  entries: Iterable<BatchEntry>,
  passes: number,
  before: BatchPace | null,
): BatchPace | null {
  const made = [...entries].filter((e) => e.state === 'made');
  if (made.length === 0) return before;
  // A drawing is told of once for each of its files.
  const first = (isFilm: boolean) => made.find((e) => isOfFilm(e) === isFilm)?.format;
  const drawn = made.filter((e) => e.format === first(isOfFilm(e)));
  const work = drawn.reduce((sum, e) => sum + (pixelsOf(e) * passes) / MEGA, 0);
  const seconds = drawn.reduce((sum, e) => sum + e.seconds, 0);
  const bytes = { ...before?.bytes };
  for (const format of new Set(made.map((e) => e.format))) {
    const own = made.filter((e) => e.format === format);
    const pixels = own.reduce((sum, e) => sum + pixelsOf(e), 0);
    bytes[format] = own.reduce((sum, e) => sum + e.bytes, 0) / pixels;
  }
  return { secondsPerPass: seconds / work, bytes };
}

const isOfFilm = ({ pictures }: BatchEntry): boolean => pictures !== undefined;

const pixelsOf = ({ width, height, pictures = 1 }: BatchEntry): number => width * height * pictures;

/** What a plan may take, in seconds and bytes; null where nothing is known of it. */
export function estimateOf(
  { drawings, pixels }: Pick<BatchPlan, 'drawings' | 'pixels'>,
  passes: number,
  pace: BatchPace | null,
): { seconds: number | null; bytes: number | null } {
  if (!pace) return { seconds: null, bytes: null };
  let bytes: number | null = 0;
  for (const { size, film = 1, files } of drawings)
    for (const { format } of files) {
      const each: number | undefined = pace.bytes[format];
      bytes = bytes === null || each === undefined ? null : bytes + each * size.width * size.height * film;
    }
  return { seconds: (pixels / MEGA) * passes * pace.secondsPerPass, bytes };
}
