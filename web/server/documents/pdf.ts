import { setImmediate } from 'node:timers/promises';
import PDFDocument from 'pdfkit';
import { cutText } from '#core/language/cut-text.ts';
import { notDrawn, type PlacedText, type SheetPage, saidOfPicture } from '#core/sets/sheet-layout.ts';
import { INK, PAPER, SOFT } from '#web/desks/shared/on-paper.ts';
import { fontRuns, type PageFonts, pageFonts, widthOfRun, widthOfText } from './page-fonts.ts';
import type { PagesToWrite, WriteDocument } from './pages-to-write.ts';

/** A pixel of a page in points, as style sheets have it: 96 of them make an inch. */
const POINTS = 0.75;
/** No reader takes a page with a longer side (ISO 32000-1, annex C). */
const LONGEST = 14_400;

/** Pages with words as words, fonts within, a bookmark each, and tagged pictures that say what they show (PDF 1.7, ISO 32000-1). */
export const writePdf: WriteDocument = async (what, signal) => {
  const fonts = await pageFonts();
  const pdf = new PDFDocument({
    autoFirstPage: false,
    pdfVersion: '1.7',
    tagged: true,
    lang: 'en',
    displayTitle: true,
    info: { Title: what.title },
  });
  for (const { name, bytes } of [...fonts.plain, ...fonts.bold])
    pdf.registerFont(name, bytes as unknown as ArrayBuffer);
  const pieces: Buffer[] = [];
  pdf.on('data', (piece: Buffer) => pieces.push(piece));
  const ended = new Promise<void>((done, failed) => {
    pdf.on('end', done);
    pdf.on('error', failed);
  });
  const root = pdf.struct('Document');
  pdf.addStructure(root);
  for (const page of what.pages) {
    signal.throwIfAborted();
    await writePage(pdf, root, page, what, fonts);
    // Others are served between two pages.
    await setImmediate();
  }
  root.end();
  pdf.end();
  await ended;
  return Buffer.concat(pieces);
};

async function writePage(
  pdf: PDFKit.PDFDocument,
  root: PDFKit.PDFStructureElement,
  page: SheetPage,
  { picture }: PagesToWrite,
  fonts: PageFonts,
): Promise<void> {
  const scale = Math.min(POINTS, LONGEST / Math.max(page.width, page.height));
  pdf.addPage({ size: [page.width * scale, page.height * scale], margin: 0 });
  pdf.outline.addItem(page.texts[0]?.text ?? '');
  pdf.scale(scale);
  pdf.markContent('Artifact', { type: 'Layout' });
  pdf.rect(0, 0, page.width, page.height).fill(PAPER);
  pdf.endMarkedContent();
  const text = (one: PlacedText, tag: string): void => {
    root.add(pdf.struct(tag, {}, () => writeText(pdf, one, fonts)));
  };
  const [heading, ...others] = page.texts;
  if (heading) text(heading, 'H1');
  for (const at of page.pictures) {
    const image = await picture(at.row);
    if (image === null) {
      text(notDrawn(at), 'P');
      continue;
    }
    const draw = () => pdf.image(image.bytes as unknown as ArrayBuffer, at.x, at.y, at);
    root.add(pdf.struct('Figure', { alt: saidOfPicture(page, at) || 'A picture' }, draw));
  }
  for (const one of others) text(one, 'P');
}

/** Words in one line, each part in the font that has its letters. */
function writeText(pdf: PDFKit.PDFDocument, { text, x, y, ...how }: PlacedText, fonts: PageFonts): void {
  const own = fonts[how.bold ? 'bold' : 'plain'];
  pdf.fontSize(how.size).fillColor(how.soft ? SOFT : INK);
  const shown = cutText(text, how.width, (part) => widthOfText(part, how.size, own));
  const share = { left: 0, center: 0.5, right: 1 }[how.align];
  let from = x - share * widthOfText(shown, how.size, own);
  for (const run of fontRuns(shown, own)) {
    pdf.font(run.font).text(run.text, from, y, { lineBreak: false, baseline: 'middle' });
    from += widthOfRun(run, how.size, own);
  }
}
