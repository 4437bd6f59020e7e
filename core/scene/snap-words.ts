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
  const along = (from: number, length: number, whole: number, of: (o: WordsRect) => [number, number]) => {
    const lines = [
      margin,
      whole / 2,
      whole - margin,
      ...others.flatMap((o) => [of(o)[0], of(o)[0] + of(o)[1] / 2, of(o)[0] + of(o)[1]]),
    ];
    const own = [from, from + length / 2, from + length];
    let best: { by: number; line: number } | null = null;
    for (const line of lines)
      for (const place of own) {
        const by = line - place;
        if (Math.abs(by) <= reach && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, line };
      }
    return best;
  };
  const x = along(moved.x, moved.width, picture.width, (o) => [o.x, o.width]);
  const y = along(moved.y, moved.height, picture.height, (o) => [o.y, o.height]);
  return { dx: x?.by ?? 0, dy: y?.by ?? 0, across: x?.line ?? null, down: y?.line ?? null };
}
