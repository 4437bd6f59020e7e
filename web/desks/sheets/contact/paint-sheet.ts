import type { PlacedText, SheetPage } from '#core/sets/sheet-layout.ts';
import { INK, PAPER, SOFT } from '#web/desks/shared/on-paper.ts';

const FONT = "'Inter Variable', sans-serif";

/**
 * Paints a page of a contact sheet.
 *
 * @param picture the address of the picture of a row; null where there is none
 * @param signal cancels it
 */
export async function paintSheet(
  page: SheetPage,
  picture: (row: number) => string | null,
  signal: AbortSignal,
): Promise<Blob> {
  const canvas = new OffscreenCanvas(page.width, page.height);
  const painter = canvas.getContext('2d')!;
  painter.fillStyle = PAPER;
  painter.fillRect(0, 0, page.width, page.height);
  await document.fonts.load(`16px ${FONT}`);
  for (const { row, x, y, width, height } of page.pictures) {
    signal.throwIfAborted();
    const address = picture(row);
    if (address === null) {
      paintText(painter, { ...missing, x: x + width / 2, y: y + height / 2, width });
      continue;
    }
    const answer = await fetch(address, { signal });
    if (!answer.ok) throw new Error('A picture of the sheet is no longer there: open the sheet again.');
    const bitmap = await createImageBitmap(await answer.blob());
    painter.drawImage(bitmap, x, y, width, height);
    bitmap.close();
  }
  for (const text of page.texts) paintText(painter, text);
  return canvas.convertToBlob({ type: 'image/png' });
}

const missing: Omit<PlacedText, 'x' | 'y' | 'width'> = {
  text: 'not drawn',
  size: 14,
  align: 'center',
  bold: false,
  soft: true,
};

function paintText(painter: OffscreenCanvasRenderingContext2D, text: PlacedText): void {
  painter.font = `${text.bold ? 600 : 400} ${text.size}px ${FONT}`;
  painter.fillStyle = text.soft ? SOFT : INK;
  painter.textAlign = text.align;
  painter.textBaseline = 'middle';
  painter.fillText(cut(painter, text.text, text.width), text.x, text.y);
}

/** As much of a text as fits, with dots where something is left out. */
function cut(painter: OffscreenCanvasRenderingContext2D, text: string, width: number): string {
  if (painter.measureText(text).width <= width) return text;
  let kept = text;
  while (kept.length > 1 && painter.measureText(`${kept}…`).width > width) kept = kept.slice(0, -1);
  return `${kept.trimEnd()}…`;
}
