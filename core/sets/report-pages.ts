import { inPieces } from '../model/in-pieces.ts';
import type { PlacedText, SheetPage } from './sheet-layout.ts';

/** A picture of a batch, with what is said of it. */
export interface ReportedPicture {
  /** Id of its shot. */
  shot: string;
  run: string;
  /** Width by height. */
  aspect: number;
  /** Inputs and outputs of the run, the step, where its scales end: each in a few words. */
  facts: readonly string[];
  /** What the shot asks for and the run does not have. */
  notes: readonly string[];
}

/** What a report of a batch tells. */
export interface BatchReport {
  title: string;
  /** What was made, when, with which scales: a line each. */
  statements: readonly string[];
  shots: readonly { id: string; name: string; statement: string }[];
  /** In the order of the batch; pages show them by their index. */
  pictures: readonly ReportedPicture[];
  /** The runs with their inputs and outputs. */
  table: { columns: readonly string[]; rows: readonly (readonly string[])[] };
  /** What was not made, and why. */
  failures: readonly string[];
}

/** Pages are as screens are, in pixels. */
const WIDTH = 1600;
const HEIGHT = 900;
const MARGIN = 64;
const INNER = WIDTH - 2 * MARGIN;
const LETTERS = 19;
const LINE = 30;
/** Where what stands below the heading of a page begins. */
const BELOW_HEADING = 156;
/** Share of a letter's height that it is wide, at the usual mixture of letters. */
const LETTER_WIDTH = 0.52;
/** Rows of a table on a page. */
const TABLE_ROWS = 22;
const TABLE_COLUMNS = 9;
/** Most pictures on a page where all of a shot are shown. */
const TOGETHER = 12;
const GAP = 20;
/** Height of what stands below each of them. */
const LABEL = 30;

/** The pages of a report: what was made, the runs, each shot of all runs together and each picture large, and what failed. */
export function reportPages(report: BatchReport): SheetPage[] {
  return [
    ...frontPages(report),
    ...report.shots.flatMap((shot) => {
      const own = report.pictures.flatMap((picture, row) =>
        picture.shot === shot.id ? [{ picture, row }] : [],
      );
      const together = own.length > 1 ? overview(shot, own) : [];
      return [...together, ...own.map(({ picture, row }) => picturePage(shot, picture, row))];
    }),
    ...textPages('What was not made', report.failures),
  ];
}

const line = (text: string, y: number, more: Partial<PlacedText> = {}): PlacedText => ({
  text,
  x: MARGIN,
  y,
  size: LETTERS,
  align: 'left',
  bold: false,
  soft: false,
  width: INNER,
  ...more,
});

const heading = (title: string, statement: string): PlacedText[] => [
  line(title, MARGIN + 16, { size: 34, bold: true }),
  line(statement, MARGIN + 58, { soft: true }),
];

const page = (texts: PlacedText[], pictures: SheetPage['pictures'] = []): SheetPage => ({
  width: WIDTH,
  height: HEIGHT,
  pictures,
  texts,
});

function frontPages({ title, statements, table }: BatchReport): SheetPage[] {
  const front = page([
    line(title, 300, { size: 60, bold: true }),
    ...statements.map((text, i) => line(text, 380 + i * LINE * 1.2, { soft: true, size: 22 })),
  ]);
  const columns = table.columns.slice(0, TABLE_COLUMNS);
  const left = table.columns.length - columns.length;
  const said = left > 0 ? `; ${left} more ${left === 1 ? 'column is' : 'columns are'} not shown` : '';
  return [
    front,
    ...inPieces(table.rows, TABLE_ROWS).map((rows, i, { length }) => {
      // The first column holds names, which are longer.
      const first = columns.length > 1 ? (2 * INNER) / (columns.length + 1) : INNER;
      const other = columns.length > 1 ? (INNER - first) / (columns.length - 1) : 0;
      const cell = (text: string, column: number, y: number, more: Partial<PlacedText>): PlacedText =>
        column === 0
          ? line(text, y, { width: first - 16, ...more })
          : line(text, y, { x: MARGIN + first + column * other, width: other - 16, align: 'right', ...more });
      return page([
        ...heading(numbered('Runs', i, length), `${table.rows.length} in all${said}`),
        ...columns.map((name, c) => cell(name, c, BELOW_HEADING + LINE / 2, { bold: true })),
        ...rows.flatMap((row, r) =>
          columns.map((_, c) => cell(row[c], c, BELOW_HEADING + (r + 1.7) * LINE, {})),
        ),
      ]);
    }),
  ];
}

interface Shot {
  name: string;
  statement: string;
}

function overview(
  { name, statement }: Shot,
  own: readonly { picture: ReportedPicture; row: number }[],
): SheetPage[] {
  const onPage = Math.min(own.length, TOGETHER);
  const across = columnsFor(onPage, own[0].picture.aspect);
  const { width, height } = cellOf(onPage, across);
  return inPieces(own, TOGETHER).map((some, i, { length }) => {
    const places = some.map(({ picture, row }, k) => {
      const x = MARGIN + (k % across) * (width + GAP);
      const y = BELOW_HEADING + Math.floor(k / across) * (height + LABEL);
      return { text: picture.run, at: fitted({ x, y, width, height }, picture.aspect, row) };
    });
    return page(
      [
        ...heading(numbered(`${name}, all runs`, i, length), statement),
        ...places.map(({ text, at }) =>
          line(text, at.y + at.height + LABEL / 2, {
            x: at.x + at.width / 2,
            width: at.width,
            align: 'center',
            size: 17,
          }),
        ),
      ],
      places.map(({ at }) => at),
    );
  });
}

/** Room for each of some pictures that fill a page together. */
const cellOf = (count: number, across: number): { width: number; height: number } => ({
  width: (INNER - (across - 1) * GAP) / across,
  height: (HEIGHT - BELOW_HEADING - MARGIN / 2) / Math.ceil(count / across) - LABEL,
});

/** So many beside each other make pictures of a shape as large as they can be on a page. */
function columnsFor(count: number, aspect: number): number {
  const widthAt = (across: number): number => {
    const { width, height } = cellOf(count, across);
    return Math.min(width, height * aspect);
  };
  const all = Array.from({ length: count }, (_, i) => i + 1);
  return all.reduce((best, across) => (widthAt(across) > widthAt(best) ? across : best), 1);
}

function picturePage({ name, statement }: Shot, picture: ReportedPicture, row: number): SheetPage {
  const facts = wrapped(picture.facts.join('; '), 2);
  const notes = wrapped(picture.notes.join('; '), 1);
  const below = (facts.length + notes.length) * LINE + 20;
  const room = {
    x: MARGIN,
    y: BELOW_HEADING,
    width: INNER,
    height: HEIGHT - BELOW_HEADING - MARGIN / 2 - below,
  };
  const at = fitted(room, picture.aspect, row);
  const words = [
    ...facts.map((text) => ({ text, soft: false })),
    ...notes.map((text) => ({ text, soft: true })),
  ];
  const from = at.y + at.height + LINE;
  return page(
    [
      ...heading(`${name}: ${picture.run}`, statement),
      ...words.map(({ text, soft }, i) =>
        line(text, from + i * LINE, { x: WIDTH / 2, align: 'center', soft }),
      ),
    ],
    [at],
  );
}

function textPages(title: string, lines: readonly string[]): SheetPage[] {
  const all = lines.flatMap((text) => wrapped(text, 3));
  return inPieces(all, TABLE_ROWS).map((some, i, { length }) =>
    page([
      ...heading(
        numbered(title, i, length),
        `${lines.length === 1 ? 'One picture' : `${lines.length} pictures`}`,
      ),
      ...some.map((text, k) => line(text, BELOW_HEADING + (k + 1) * LINE)),
    ]),
  );
}

const numbered = (title: string, i: number, of: number): string =>
  of > 1 ? `${title}, ${i + 1} of ${of}` : title;

/** The largest box of a shape within another, at its top, in its middle. */
function fitted(
  room: { x: number; y: number; width: number; height: number },
  aspect: number,
  row: number,
): SheetPage['pictures'][number] {
  const width = Math.min(room.width, room.height * aspect);
  return { row, x: room.x + (room.width - width) / 2, y: room.y, width, height: width / aspect };
}

/** A text in lines that fit a page by their usual width; what goes beyond the last one stays on it, to be cut off. */
function wrapped(text: string, most: number): string[] {
  const letters = Math.floor(INNER / (LETTERS * LETTER_WIDTH));
  const lines: string[] = [];
  for (const word of text.split(' ').filter(Boolean)) {
    const last = lines.at(-1);
    const isLast = lines.length === most;
    if (last !== undefined && (isLast || last.length + 1 + word.length <= letters))
      lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines;
}
