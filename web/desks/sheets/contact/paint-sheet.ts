import { cutText } from '#core/language/cut-text.ts';
import { notDrawn, type PlacedText, type SheetPage } from '#core/sets/sheet-layout.ts';
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
  for (const at of page.pictures) {
    const { row, x, y, width, height } = at;
    signal.throwIfAborted();
    const address = picture(row);
    if (address === null) {
      paintText(painter, notDrawn(at));
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

function paintText(painter: OffscreenCanvasRenderingContext2D, text: PlacedText): void {
  painter.font = `${text.bold ? 600 : 400} ${text.size}px ${FONT}`;
  painter.fillStyle = text.soft ? SOFT : INK;
  painter.textAlign = text.align;
  painter.textBaseline = 'middle';
  const shown = cutText(text.text, text.width, (part) => painter.measureText(part).width);
  painter.fillText(shown, text.x, text.y);
}
