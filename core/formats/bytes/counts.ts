import { CutOffError, ReadError } from '../../model/read-error.ts';

/** Most points or values that a few numbers of a file may stand for: lattices, constants, ranges. */
const MOST_BY_RULE = 2 ** 27;

/**
 * A count as a file states it, believed only when the bytes there are could hold so many.
 *
 * @param bytes what is there to hold them
 * @param each the fewest bytes one of them takes
 * @throws ReadError when it is no count, or too large for the file
 */
export function fittingCount(count: number, bytes: number, each: number, where: string): number {
  if (Number.isInteger(count) && count >= 0 && count * each <= bytes) return count;
  throw new CutOffError(
    Number.isInteger(count) && count >= 0
      ? `a count of ${count} cannot fit in the ${bytes} bytes that are there`
      : Number.isFinite(count)
        ? `"${count}" is no count`
        : 'a count is missing or is no number',
    where,
  );
}

/**
 * A number of points, cells or values that a rule of the file gives rather than its bytes.
 *
 * @throws ReadError when it is too large to be made
 */
export function countByRule(count: number, where: string): number {
  if (Number.isInteger(count) && count >= 0 && count <= MOST_BY_RULE) return count;
  throw new ReadError(
    `${count} values out of a few numbers are too many to be read`,
    where,
    'Write a part of it, or every other point; if this was not meant, the file is damaged.',
  );
}

/**
 * Starts of lists that lie one behind the other in an array of `length` entries: rising, and within it.
 *
 * @throws ReadError naming the first that is not
 */
export function checkStarts(starts: ArrayLike<number>, length: number, where: string): void {
  let before = 0;
  for (let i = 0; i < starts.length; i++) {
    const at = starts[i];
    if (!(at >= before && at <= length))
      throw new CutOffError(
        `the start ${at} does not lie between ${before} and the end ${length}`,
        `${where}, entry ${i}`,
      );
    before = at;
  }
}
