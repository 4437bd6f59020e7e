/** Something on a picture, in its pixels from the top left. */
export interface WordsRect {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** How far something moves to lie on a line, and the lines it then lies on. */
export interface Snapped {
  dx: number;
  dy: number;
  /** Places across the picture and down it. */
  across: number | null;
  down: number | null;
}

/** Where a rectangle begins along one direction, and how long it is. */
type Extent = (o: WordsRect) => [from: number, length: number];
const across: Extent = (o) => [o.x, o.width];
const down: Extent = (o) => [o.y, o.height];

/** Edges and middles of the picture and of other things. */
const linesAcross = (others: readonly WordsRect[], whole: number, margin: number, of: Extent): number[] => [
  margin,
  whole / 2,
  whole - margin,
  ...others.map(of).flatMap(([from, length]) => [from, from + length / 2, from + length]),
];

/**
 * How far something moves to the next line in a direction, its edges and middle taken alike; 0 where there is none.
 *
 * @param direction to the right and down, one of them 1 or -1, the other 0
 * @param margin of the picture, in pixels
 */
export function nextLine(
  moved: WordsRect,
  others: readonly WordsRect[],
  picture: { width: number; height: number },
  margin: number,
  direction: readonly [number, number],
): { x: number; y: number } {
  const isAcross = direction[0] !== 0;
  const [of, whole] = isAcross ? [across, picture.width] : ([down, picture.height] as const);
  const sign = isAcross ? direction[0] : direction[1];
  const [from, length] = of(moved);
  const ways = linesAcross(others, whole, margin, of)
    .flatMap((line) => [from, from + length / 2, from + length].map((place) => sign * (line - place)))
    // It stays within the picture.
    .filter((way) => {
      const at = from + sign * way;
      return way > 0.5 && at >= margin - 0.5 && at + length <= whole - margin + 0.5;
    });
  const by = ways.length > 0 ? sign * Math.min(...ways) : 0;
  return isAcross ? { x: by, y: 0 } : { x: 0, y: by };
}

/**
 * Brings what is dragged onto the edges and middles of the picture and of other things, where it is near to one.
 *
 * @param margin of the picture, in pixels
 * @param reach how near is near, in pixels
 */
export function snapWords(
  moved: WordsRect,
  others: readonly WordsRect[],
  picture: { width: number; height: number },
  margin: number,
  reach: number,
): Snapped {
  const along = (from: number, length: number, whole: number, of: Extent) => {
    const own = [from, from + length / 2, from + length];
    let best: { by: number; line: number } | null = null;
    for (const line of linesAcross(others, whole, margin, of))
      for (const place of own) {
        const by = line - place;
        if (Math.abs(by) <= reach && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, line };
      }
    return best;
  };
  const x = along(moved.x, moved.width, picture.width, across);
  const y = along(moved.y, moved.height, picture.height, down);
  return { dx: x?.by ?? 0, dy: y?.by ?? 0, across: x?.line ?? null, down: y?.line ?? null };
}
