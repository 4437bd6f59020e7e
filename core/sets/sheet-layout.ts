import { z } from '../model/schema.ts';

const length = z.number().finite().min(0).max(1e6);

const placedPicture = z.object({
  /** What is shown: for a contact sheet the row of the table of its set. */
  row: z.number().int().min(0),
  x: length,
  y: length,
  width: length,
  height: length,
});

/** A picture on a page, in pixels from its upper left corner. */
export type PlacedPicture = z.infer<typeof placedPicture>;

const placedText = z.object({
  text: z.string().max(2000),
  x: length,
  y: length,
  /** Of the letters. */
  size: length,
  align: z.enum(['left', 'center', 'right']),
  bold: z.boolean(),
  soft: z.boolean(),
  /** They are cut off where they would be wider. */
  width: length,
});

/** Words on a page: `y` is that of their middle. */
export type PlacedText = z.infer<typeof placedText>;

export const sheetPageSchema = z.object({
  width: length,
  height: length,
  pictures: z.array(placedPicture),
  texts: z.array(placedText),
});

/** One page of a contact sheet, or of a report of a batch. */
export type SheetPage = z.infer<typeof sheetPageSchema>;

/** What stands in the place of a picture that is not there. */
export const notDrawn = ({ x, y, width, height }: PlacedPicture): PlacedText => ({
  text: 'not drawn',
  x: x + width / 2,
  y: y + height / 2,
  width,
  size: 14,
  align: 'center',
  bold: false,
  soft: true,
});

/** What it shows in words, for those who cannot see it: what stands below it. */
export function saidOfPicture(page: SheetPage, { x, y, width, height }: PlacedPicture): string {
  const below = page.texts.filter((t) => t.x >= x && t.x <= x + width && t.y > y + height);
  return below.sort((a, b) => a.y - b.y)[0]?.text ?? '';
}

interface SheetWords {
  title: string;
  /** What is stated of the pictures: the shot, and where colour scales end. */
  statement: string;
}

interface PictureSize {
  width: number;
  height: number;
}

/** Lengths as shares of the width of a picture, within bounds that stay legible. */
const lettersFor = (width: number): number => Math.max(11, Math.min(28, Math.round(width / 22)));

interface Measures extends PictureSize {
  letters: number;
  gap: number;
  margin: number;
  /** Below each picture, for its label. */
  below: number;
  /** Above the pictures, for title and statement. */
  above: number;
}

function measuresOf({ width, height }: PictureSize): Measures {
  const letters = lettersFor(width);
  const margin = 2 * letters;
  return {
    width,
    height,
    letters,
    margin,
    gap: letters,
    below: 1.9 * letters,
    above: margin + 4.2 * letters,
  };
}

function heading({ title, statement }: SheetWords, m: Measures, width: number): PlacedText[] {
  const text = { x: m.margin, align: 'left' as const, width: width - 2 * m.margin };
  return [
    { ...text, text: title, y: m.margin + 0.8 * m.letters, size: 1.6 * m.letters, bold: true, soft: false },
    { ...text, text: statement, y: m.margin + 2.7 * m.letters, size: m.letters, bold: false, soft: true },
  ];
}

/**
 * Rows of pictures on a page of a strip that make its shape come nearest to a wished one, at least one.
 *
 * @param shape width by height of the page
 */
export function rowsForShape(across: number, picture: PictureSize, shape: number): number {
  const m = measuresOf(picture);
  const width = 2 * m.margin + across * m.width + (across - 1) * m.gap;
  return Math.max(1, Math.round((width / shape - m.above - m.margin) / (m.height + m.below)));
}

interface StripWish extends SheetWords {
  items: readonly { row: number; label: string }[];
  picture: PictureSize;
  /** Pictures beside each other. */
  across: number;
  /** Rows of pictures on a page; all of them where it is null. */
  down: number | null;
}

/** Pictures one after the other, in rows, on as many pages as they take. */
export function stripPages({ items, picture, across, down, ...words }: StripWish): SheetPage[] {
  const m = measuresOf(picture);
  const columns = Math.max(1, Math.min(across, items.length));
  const onPage = down === null ? Math.max(1, items.length) : columns * down;
  const pages: SheetPage[] = [];
  for (let from = 0; from === 0 || from < items.length; from += onPage) {
    const own = items.slice(from, from + onPage);
    const rows = down ?? Math.ceil(own.length / columns);
    const width = Math.round(2 * m.margin + columns * m.width + (columns - 1) * m.gap);
    const height = Math.round(m.above + rows * (m.height + m.below) + m.margin);
    const place = (i: number) => ({
      x: m.margin + (i % columns) * (m.width + m.gap),
      y: m.above + Math.floor(i / columns) * (m.height + m.below),
    });
    const labels = own.map(({ label }, i): PlacedText => {
      const { x, y } = place(i);
      return labelBelow(label, x, y, m);
    });
    const all = Math.ceil(items.length / onPage);
    const title = all > 1 ? `${words.title}, ${pages.length + 1} of ${all}` : words.title;
    pages.push({
      width,
      height,
      pictures: own.map(({ row }, i) => ({ row, ...place(i), width: m.width, height: m.height })),
      texts: [...heading({ ...words, title }, m, width), ...labels],
    });
  }
  return pages;
}

const labelBelow = (text: string, x: number, y: number, m: Measures): PlacedText => ({
  text,
  x: x + m.width / 2,
  y: y + m.height + 0.8 * m.letters,
  size: m.letters,
  align: 'center',
  bold: false,
  soft: false,
  width: m.width,
});

interface MatrixLayoutWish extends SheetWords {
  /** Of each place, down and across: its runs with what is said below each. */
  cells: readonly (readonly (readonly { row: number; label: string }[])[])[];
  across: readonly string[];
  down: readonly string[];
  /** What goes down. */
  corner: string;
  picture: PictureSize;
}

/** Pictures by two parameters, on one page. A place with several runs has them below each other. */
export function matrixPage({ cells, across, down, corner, picture, ...words }: MatrixLayoutWish): SheetPage {
  const m = measuresOf(picture);
  const side = 5 * m.letters;
  const head = 2 * m.letters;
  const rowHeights = cells.map(
    (row) => Math.max(1, ...row.map((cell) => cell.length)) * (m.height + m.below),
  );
  const left = m.margin + side;
  const top = m.above + head;
  const width = Math.round(left + across.length * (m.width + m.gap) - m.gap + m.margin);
  const height = Math.round(top + rowHeights.reduce((a, b) => a + b, 0) + m.margin);
  const pictures: PlacedPicture[] = [];
  const texts = heading(words, m, width);
  const plain = { size: m.letters, bold: true, soft: false };
  texts.push({
    ...plain,
    text: corner,
    soft: true,
    bold: false,
    x: left - m.gap,
    y: top - m.letters,
    align: 'right',
    width: side,
  });
  for (const [j, text] of across.entries()) {
    const x = left + j * (m.width + m.gap) + m.width / 2;
    texts.push({ ...plain, text, x, y: top - m.letters, align: 'center', width: m.width });
  }
  let y = top;
  for (const [i, row] of cells.entries()) {
    texts.push({
      ...plain,
      text: down[i],
      x: left - m.gap,
      y: y + m.height / 2,
      align: 'right',
      width: side,
    });
    for (const [j, cell] of row.entries())
      for (const [k, { row: run, label }] of cell.entries()) {
        const x = left + j * (m.width + m.gap);
        const at = y + k * (m.height + m.below);
        pictures.push({ row: run, x, y: at, width: m.width, height: m.height });
        texts.push(labelBelow(label, x, at, m));
      }
    y += rowHeights[i];
  }
  return { width, height, pictures, texts };
}
