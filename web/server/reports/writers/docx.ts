import {
  AlignmentType,
  Bookmark,
  BorderStyle,
  Document,
  ExternalHyperlink,
  HeadingLevel,
  ImageRun,
  InternalHyperlink,
  type IParagraphOptions,
  Packer,
  Paragraph,
  type ParagraphChild,
  Table,
  TableCell,
  TableRow,
  TextRun,
  WidthType,
} from 'docx';
import { sectionTitle } from '#core/report/compose.ts';
import type { ComposedBlock, ComposedReport, Inline, Paragraph as Told } from '#core/report/composed.ts';
import { withoutChance } from './without-chance.ts';
import type { ReportToWrite, WriteReport } from './writer.ts';

/** Width of the text of an A4 page between its margins, in pixels of which 96 make an inch. */
const PAGE_WIDTH = 210;
const A_MILLIMETRE = 96 / 25.4;
/** Twentieths of a point in a millimetre. */
const TWIPS = 1440 / 25.4;
/** Charts are laid out in this shape. */
const CHART_ASPECT = 960 / 540;

type Child = Paragraph | Table;

/** A text document whose headings, tables and captions can be changed (ISO/IEC 29500). */
export const writeDocx: WriteReport = async (what, signal) => {
  const { report, brand } = what;
  const margin = Math.round(brand.margin * TWIPS);
  const children: Child[] = [...frontOf(report)];
  for (const section of report.sections) {
    if (section.id !== null) children.push(headingOf(sectionTitle(section), section.level, section.id));
    for (const block of section.blocks) {
      signal.throwIfAborted();
      children.push(...(await blockOf(block, what)));
    }
  }
  children.push(...endOf(report));
  const colour = brand.ink.slice(1);
  const heading = (size: number) => ({
    run: { size, bold: true, color: colour },
    paragraph: { spacing: { before: 320, after: 120 } },
  });
  const document = new Document({
    title: report.title,
    creator: report.author,
    description: report.subtitle,
    styles: {
      default: {
        document: { run: { font: FONTS[brand.body], size: 22, color: colour } },
        title: { run: { size: 52, bold: true, color: colour, font: FONTS[brand.heading] } },
        heading1: heading(34),
        heading2: heading(26),
      },
    },
    numbering: {
      config: [
        {
          reference: 'ordered',
          levels: [0, 1, 2].map((level) => ({
            level,
            format: 'decimal' as const,
            text: `%${level + 1}.`,
            alignment: AlignmentType.START,
            style: { paragraph: { indent: { left: 480 * (level + 1), hanging: 360 } } },
          })),
        },
      ],
    },
    sections: [
      {
        properties: {
          page: {
            size: { width: Math.round(210 * TWIPS), height: Math.round(297 * TWIPS) },
            margin: { top: margin, bottom: margin, left: margin, right: margin },
          },
        },
        children,
      },
    ],
  });
  return withoutChance(await Packer.toBuffer(document));
};

/** What every office has in place of the fonts of the screen. */
const FONTS = { plain: 'Arial', book: 'Georgia' } as const;

const bookmarked = (id: string, children: ParagraphChild[]): ParagraphChild =>
  new Bookmark({ id: anchor(id), children });
/** Names of bookmarks take forty letters. */
const anchor = (id: string): string => `b_${id.replace(/[^A-Za-z0-9]/g, '').slice(0, 36)}`;

const plain = (text: string, more: Partial<IParagraphOptions> = {}): Paragraph =>
  new Paragraph({ children: runs(text), ...more });

/** Words, with breaks where lines end. */
const runs = (text: string, how: { bold?: boolean; italics?: boolean } = {}): TextRun[] =>
  text.split('\n').map((line, i) => new TextRun({ text: line, ...(i > 0 && { break: 1 }), ...how }));

function headingOf(text: string, level: 1 | 2, id: string): Paragraph {
  const heading = level === 1 ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2;
  return new Paragraph({ heading, children: [bookmarked(id, runs(text))] });
}

function frontOf({ title, subtitle, byline, contents }: ComposedReport): Child[] {
  return [
    new Paragraph({ heading: HeadingLevel.TITLE, children: runs(title) }),
    ...(subtitle ? [plain(subtitle)] : []),
    ...(byline.length > 0 ? [plain(byline.join(' · '))] : []),
    ...listOf('Contents', contents),
  ];
}

function listOf(title: string, entries: readonly { id: string; text: string; level?: number }[]): Child[] {
  if (entries.length === 0) return [];
  return [
    new Paragraph({ children: runs(title, { bold: true }), spacing: { before: 320, after: 80 } }),
    ...entries.map(
      ({ id, text, level = 1 }) =>
        new Paragraph({
          indent: { left: 360 * (level - 1) },
          children: [
            new InternalHyperlink({
              anchor: anchor(id),
              children: [new TextRun({ text, style: 'Hyperlink' })],
            }),
          ],
        }),
    ),
  ];
}

async function blockOf(block: ComposedBlock, what: ReportToWrite): Promise<Child[]> {
  const width = Math.round((PAGE_WIDTH - 2 * what.brand.margin) * A_MILLIMETRE);
  switch (block.kind) {
    case 'text':
      return block.paragraphs.flatMap(paragraphOf);
    case 'figure': {
      const bytes = await what.picture(block.picture);
      const across = block.width === 'half' ? Math.round(width / 2) : width;
      const shown = bytes
        ? pictureOf(bytes, across, block.picture.aspect, block.alt)
        : plain('not drawn yet', { keepNext: true });
      return [shown, captionOf(block)];
    }
    case 'chart':
      return [
        pictureOf(Buffer.from(block.chart.png, 'base64'), width, CHART_ASPECT, block.alt),
        captionOf(block),
      ];
    case 'table':
      return [captionOf(block), tableOf(block), ...block.notes.map((note) => plain(note)), plain('')];
    case 'numbers':
      return block.items.map(
        ({ label, said, note }) =>
          new Paragraph({
            spacing: { after: 80 },
            children: [
              ...runs(`${label}: `),
              ...runs(said, { bold: true }),
              ...(note ? runs(` ${note}`, { italics: true }) : []),
            ],
          }),
      );
    case 'missing':
      return [plain(block.says)];
  }
}

const pictureOf = (data: Buffer, width: number, aspect: number, alt: string): Paragraph =>
  new Paragraph({
    keepNext: true,
    spacing: { before: 200 },
    children: [
      new ImageRun({
        type: 'png',
        data,
        transformation: { width, height: Math.round(width / aspect) },
        altText: { title: '', description: alt, name: '' },
      }),
    ],
  });

const captionOf = ({
  id,
  number,
  caption,
}: {
  id: string;
  number: string | null;
  caption: Inline[];
}): Paragraph =>
  new Paragraph({
    style: 'Caption',
    spacing: { before: 80, after: 200 },
    children: [
      ...(number === null ? [] : [bookmarked(id, runs(`${number}. `, { bold: true }))]),
      ...caption.flatMap(inlineOf),
    ],
  });

function tableOf({ columns, rows }: Extract<ComposedBlock, { kind: 'table' }>): Table {
  const cell = (text: string, column: number, bold: boolean): TableCell =>
    new TableCell({
      margins: { top: 40, bottom: 40, left: 80, right: 80 },
      children: [
        new Paragraph({
          alignment: columns[column].align === 'right' ? AlignmentType.END : AlignmentType.START,
          children: runs(text, { bold }),
        }),
      ],
    });
  const line = { style: BorderStyle.SINGLE, size: 4, color: 'BBB4A8' };
  const none = { style: BorderStyle.NONE, size: 0, color: 'auto' };
  return new Table({
    width: { size: 100, type: WidthType.PERCENTAGE },
    borders: {
      top: line,
      bottom: line,
      insideHorizontal: line,
      left: none,
      right: none,
      insideVertical: none,
    },
    rows: [
      new TableRow({ tableHeader: true, children: columns.map(({ name }, i) => cell(name, i, true)) }),
      ...rows.map(
        (row) => new TableRow({ cantSplit: true, children: row.map((text, i) => cell(text, i, false)) }),
      ),
    ],
  });
}

function paragraphOf(told: Told): Paragraph[] {
  if (told.kind === 'paragraph')
    return [new Paragraph({ spacing: { after: 160 }, children: told.words.flatMap(inlineOf) })];
  return told.items.map(({ depth, words }) => {
    const level = Math.min(depth, 2);
    const mark = told.ordered ? { numbering: { reference: 'ordered', level } } : { bullet: { level } };
    return new Paragraph({ ...mark, children: words.flatMap(inlineOf) });
  });
}

function inlineOf({ text, bold, italic, to, link }: Inline): ParagraphChild[] {
  const said = runs(text, { bold, italics: italic });
  if (to !== undefined) return [new InternalHyperlink({ anchor: anchor(to), children: said })];
  return link === undefined ? said : [new ExternalHyperlink({ link, children: said })];
}

function endOf({ figureList, glossary, provenance }: ComposedReport): Child[] {
  const heading = (text: string): Paragraph =>
    new Paragraph({ heading: HeadingLevel.HEADING_1, children: runs(text) });
  return [
    ...listOf('Figures and tables', figureList),
    ...(glossary.length > 0 ? [heading('Glossary')] : []),
    ...glossary.map(
      ({ term, plain: said, meaning }) =>
        new Paragraph({
          spacing: { after: 80 },
          children: [
            ...runs(`${said === '' ? term : `${said} (${term})`}: `, { bold: true }),
            ...runs(meaning),
          ],
        }),
    ),
    ...(provenance.length > 0 ? [heading('Where it comes from')] : []),
    ...provenance.flatMap(({ source, facts }) => [
      new Paragraph({ heading: HeadingLevel.HEADING_2, children: runs(source) }),
      ...facts.flatMap(({ label, values }) =>
        values.map(
          (value) => new Paragraph({ children: [...runs(`${label}: `, { bold: true }), ...runs(value)] }),
        ),
      ),
    ]),
  ];
}
