import { WORDS_FONT, type WordsPainter } from '#stage/words/lettering.ts';
import { INK, SOFT } from './on-paper.ts';

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * Paints rows of words on paper: the first column from the left, the others from the right. Rows without room are left out.
 *
 * @param letters their height, in pixels
 * @param head whether the first row names the columns
 */
export function paintTable(
  painter: WordsPainter,
  rows: readonly (readonly string[])[],
  box: Box,
  letters: number,
  head = false,
): void {
  const line = 1.6 * letters;
  const columns = rows[0]?.length ?? 0;
  const first = columns > 1 ? 0.42 * box.width : box.width;
  const other = (box.width - first) / Math.max(1, columns - 1);
  for (const [r, row] of rows.entries()) {
    const y = box.y + (r + 0.6) * line;
    if (y > box.y + box.height) break;
    for (const [c, cell] of row.entries()) {
      const isHead = head && r === 0;
      painter.font = `${isHead ? 600 : 400} ${letters}px ${WORDS_FONT}`;
      painter.fillStyle = isHead ? SOFT : INK;
      painter.textBaseline = 'middle';
      painter.textAlign = c === 0 ? 'left' : 'right';
      const x = c === 0 ? box.x : box.x + first + c * other;
      painter.fillText(cell, x, y, (c === 0 ? first : other) - letters);
    }
  }
}
