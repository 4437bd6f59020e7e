import PptxGenJS from 'pptxgenjs';
import { inPieces } from '#core/model/in-pieces.ts';
import { plainWords, sectionTitle } from '#core/report/compose.ts';
import type { ComposedBlock, Paragraph } from '#core/report/composed.ts';
import type { FactChart, FactSeries } from '#core/report/facts.ts';
import { withoutChance } from './without-chance.ts';
import type { ReportToWrite, WriteReport } from './writer.ts';

/** A slide, in inches: as wide screens are. */
const WIDTH = 40 / 3;
const HEIGHT = 7.5;
const MARGIN = 0.6;
const INNER = WIDTH - 2 * MARGIN;
/** Where what stands below a title begins, and the caption below that. */
const TOP = 1.25;
const CAPTION = 0.75;
/** Letters of a text, in points, and how many of them make a line and lines a slide at that size. */
const LETTERS = 18;
const LETTERS_A_LINE = 100;
const LINES = 15;
/** Of what is there to be looked up. */
const SMALL = 12;
const TABLE_ROWS = 13;
const TABLE_COLUMNS = 8;
/** What every office has in place of the fonts of the screen. */
const FONTS = { plain: 'Arial', book: 'Georgia' } as const;

/** Presentation with titles, texts, tables and charts that can be changed, and notes for whoever speaks (ISO/IEC 29500). */
export const writeSlides: WriteReport = async (what, signal) => {
  const { report } = what;
  const deck = new Deck(what);
  deck.front();
  if (report.contents.length > 0)
    deck.texts(
      'Contents',
      report.contents.map((c) => ({ text: c.text, depth: c.level - 1 })),
    );
  for (const section of report.sections) {
    const title = sectionTitle(section);
    const isEmpty = section.blocks.length === 0;
    if (isEmpty && section.id !== null) deck.section(title);
    for (const block of section.blocks) {
      signal.throwIfAborted();
      await deck.block(block, title || report.title);
    }
  }
  if (report.glossary.length > 0)
    deck.texts(
      'Glossary',
      report.glossary.map(({ term, plain, meaning }) => ({
        text: `${plain === '' ? term : `${plain} (${term})`}: ${meaning}`,
        depth: 0,
      })),
    );
  deck.leftOut();
  deck.provenance();
  return withoutChance(await deck.bytes());
};

const colour = (css: string): string => css.slice(1);

class Deck {
  private readonly slides = new PptxGenJS();
  private readonly missing: string[] = [];

  constructor(private readonly what: ReportToWrite) {
    const { report } = what;
    this.slides.title = report.title;
    this.slides.author = report.author;
    this.slides.defineLayout({ name: 'wide', width: WIDTH, height: HEIGHT });
    this.slides.layout = 'wide';
    const { brand } = what;
    this.slides.theme = { headFontFace: FONTS[brand.heading], bodyFontFace: FONTS[brand.body] };
    this.defineMaster(FRONT, brand.backdrop, { y: 2.2, h: 1.5, fontSize: 44 });
    this.defineMaster(MASTER, brand.paper, { y: 0.35, h: 0.75, fontSize: 28 });
  }

  /** Slides with a title that the outline of the office knows as one, and that is edited as one. */
  private defineMaster(name: string, paper: string, title: { y: number; h: number; fontSize: number }): void {
    const { brand } = this.what;
    const ink = colour(brand.ink);
    this.slides.defineSlideMaster({
      title: name,
      background: { color: colour(paper) },
      objects: [
        {
          placeholder: {
            options: {
              name: 'title',
              type: 'title',
              x: MARGIN,
              w: INNER,
              ...title,
              bold: true,
              fontFace: FONTS[brand.heading],
              color: ink,
              align: 'left',
              valign: 'middle',
              margin: 0,
            },
            text: '',
          },
        },
      ],
      slideNumber: { x: WIDTH - MARGIN - 0.4, y: HEIGHT - 0.4, fontSize: 10, color: ink },
    });
  }

  bytes(): Promise<Uint8Array> {
    return this.slides.write({ outputType: 'nodebuffer', compression: false }) as Promise<Uint8Array>;
  }

  front(): void {
    const { report, brand } = this.what;
    const slide = this.slides.addSlide({ masterName: FRONT });
    slide.addText(report.title, { placeholder: 'title' });
    const own = { x: MARGIN, w: INNER, color: colour(brand.ink), fontFace: FONTS[brand.body], margin: 0 };
    if (report.subtitle) slide.addText(report.subtitle, { ...own, y: 3.8, h: 0.6, fontSize: 22 });
    if (report.byline.length > 0)
      slide.addText(report.byline.join(' · '), { ...own, y: 4.5, h: 0.5, fontSize: 16 });
    if (brand.logo)
      slide.addImage({
        data: brand.logo,
        altText: 'Logo',
        x: MARGIN,
        y: 0.6,
        w: 2.2,
        h: 0.8,
        sizing: { type: 'contain', w: 2.2, h: 0.8 },
      });
  }

  /** A slide that says no more than that a section begins. */
  section(title: string): void {
    this.slide(title);
  }

  private slide(title: string): PptxGenJS.Slide {
    const slide = this.slides.addSlide({ masterName: MASTER });
    slide.addText(title, { placeholder: 'title' });
    return slide;
  }

  private get words() {
    const { brand } = this.what;
    return { color: colour(brand.ink), fontFace: FONTS[brand.body], margin: 0 };
  }

  async block(block: ComposedBlock, title: string): Promise<void> {
    switch (block.kind) {
      case 'text':
        return this.paragraphs(title, block.paragraphs);
      case 'figure':
        return this.figure(block, title);
      case 'chart':
        return this.chart(block, title);
      case 'table':
        return this.table(block, title);
      case 'numbers':
        return this.numbers(block.items, title);
      case 'missing':
        this.missing.push(block.says);
    }
  }

  private paragraphs(title: string, paragraphs: readonly Paragraph[]): void {
    this.texts(
      title,
      paragraphs.flatMap((p) =>
        p.kind === 'paragraph'
          ? [{ text: plainWords(p.words), depth: 0 }]
          : p.items.map((item) => ({ text: plainWords(item.words), depth: item.depth, listed: true })),
      ),
    );
  }

  /** Words on as many slides as they take. */
  texts(
    title: string,
    lines: readonly { text: string; depth: number; listed?: boolean }[],
    letters = LETTERS,
  ): void {
    const smaller = LETTERS / letters;
    const pages: (typeof lines)[number][][] = [];
    let room = 0;
    for (const line of lines) {
      const height = Math.ceil(line.text.length / (LETTERS_A_LINE * smaller)) + 0.4;
      if (pages.length === 0 || height > room) {
        pages.push([]);
        room = LINES * smaller;
      }
      pages.at(-1)!.push(line);
      room -= height;
    }
    for (const [i, page] of pages.entries()) {
      const slide = this.slide(pages.length > 1 ? `${title} (${i + 1} of ${pages.length})` : title);
      slide.addText(
        page.map(({ text, depth, listed }) => ({
          text,
          options: {
            breakLine: true,
            paraSpaceAfter: 6,
            ...(listed && { bullet: true }),
            indentLevel: depth,
          },
        })),
        {
          ...this.words,
          x: MARGIN,
          y: TOP,
          w: INNER,
          h: HEIGHT - TOP - 0.6,
          fontSize: letters,
          valign: 'top',
        },
      );
    }
  }

  private caption(
    slide: PptxGenJS.Slide,
    block: { number: string | null; caption: { text: string }[] },
  ): void {
    const said = `${block.number === null ? '' : `${block.number}. `}${plainWords(block.caption)}`;
    slide.addText(said, {
      ...this.words,
      x: MARGIN,
      y: HEIGHT - CAPTION - 0.3,
      w: INNER - 0.6,
      h: CAPTION,
      fontSize: 12,
      valign: 'top',
      fit: 'shrink',
    });
  }

  private async figure(block: Extract<ComposedBlock, { kind: 'figure' }>, title: string): Promise<void> {
    const slide = this.slide(title);
    const bytes = await this.what.picture(block.picture);
    const room = { w: INNER, h: HEIGHT - TOP - CAPTION - 0.4 };
    const w = Math.min(room.w, room.h * block.picture.aspect);
    const place = { x: (WIDTH - w) / 2, y: TOP, w, h: w / block.picture.aspect };
    if (bytes)
      slide.addImage({
        ...place,
        data: `data:image/png;base64,${bytes.toString('base64')}`,
        altText: block.alt,
      });
    else slide.addText('not drawn yet', { ...this.words, ...place, align: 'center', valign: 'middle' });
    this.caption(slide, block);
    slide.addNotes(`${plainWords(block.caption)}\n\n${block.alt}`);
  }

  private chart(block: Extract<ComposedBlock, { kind: 'chart' }>, title: string): void {
    const slide = this.slide(title);
    const { chart } = block;
    const place = { x: MARGIN, y: TOP, w: INNER, h: HEIGHT - TOP - CAPTION - 0.4 };
    if (chart.series.length > 0)
      slide.addChart(this.slides.ChartType.scatter, scatterData(chart), {
        ...place,
        ...scatterLook(chart),
        altText: block.alt,
        catAxisLabelFontFace: this.words.fontFace,
        valAxisLabelFontFace: this.words.fontFace,
      });
    else
      slide.addImage({
        data: `data:image/png;base64,${chart.png}`,
        altText: block.alt,
        ...place,
        sizing: { type: 'contain', w: place.w, h: place.h },
      });
    this.caption(slide, block);
    slide.addNotes(`${plainWords(block.caption)}\n\n${block.alt}`);
  }

  private table(block: Extract<ComposedBlock, { kind: 'table' }>, title: string): void {
    const { columns, rows, notes } = block;
    // The first column tells which row it is, on every slide.
    const others = inPieces([...columns.keys()].slice(1), TABLE_COLUMNS - 1);
    const pages = (others.length > 0 ? others : [[]]).flatMap((some) =>
      inPieces(rows, TABLE_ROWS).map((part) => ({ shown: [0, ...some], part })),
    );
    for (const [i, { shown, part }] of pages.entries()) {
      const slide = this.slide(pages.length > 1 ? `${title} (${i + 1} of ${pages.length})` : title);
      const cell = (text: string, column: number, bold: boolean) => ({
        text,
        options: { bold, align: columns[column].align },
      });
      slide.addTable(
        [
          shown.map((c) => cell(columns[c].name, c, true)),
          ...part.map((row) => shown.map((c) => cell(row[c] ?? '', c, false))),
        ],
        {
          x: MARGIN,
          y: TOP,
          w: INNER,
          fontSize: 13,
          fontFace: this.words.fontFace,
          color: this.words.color,
          border: { type: 'solid', pt: 0.5, color: 'BBB4A8' },
        },
      );
      this.caption(slide, block);
      if (notes.length > 0) slide.addNotes(notes.join('\n'));
    }
  }

  private numbers(items: Extract<ComposedBlock, { kind: 'numbers' }>['items'], title: string): void {
    const ACROSS = 3;
    for (const some of inPieces(items, 2 * ACROSS)) {
      const slide = this.slide(title);
      for (const [i, { label, said, note }] of some.entries()) {
        const w = INNER / ACROSS;
        const place = {
          x: MARGIN + (i % ACROSS) * w,
          y: TOP + 0.4 + Math.floor(i / ACROSS) * 2.5,
          w: w - 0.3,
        };
        slide.addText(said, { ...this.words, ...place, h: 0.9, fontSize: 34, bold: true, fit: 'shrink' });
        const below = { ...place, y: place.y + 0.9, h: 1.1 };
        slide.addText(note ? `${label}: ${note}` : label, {
          ...this.words,
          ...below,
          fontSize: 16,
          valign: 'top',
        });
      }
    }
  }

  /** What could not be shown, in one place: a slide for each would say nothing. */
  leftOut(): void {
    if (this.missing.length > 0)
      this.texts(
        'Not in these slides',
        this.missing.map((text) => ({ text, depth: 0, listed: true })),
      );
  }

  provenance(): void {
    for (const { source, facts } of this.what.report.provenance)
      this.texts(
        `Where it comes from: ${source}`,
        facts.flatMap(({ label, values }) =>
          values.map((value) => ({ text: `${label}: ${value}`, depth: 0 })),
        ),
        SMALL,
      );
  }
}

const FRONT = 'front';
const MASTER = 'report';

type ChartData = { name: string; values: (number | null)[] }[];

/** Curves over one axis, which charts of offices must share: every place that any of them has. */
function scatterData({ series }: FactChart): PptxGenJS.OptsChartData[] {
  const places = [...new Set(series.flatMap((s) => s.x))].sort((a, b) => a - b);
  const values = (one: FactSeries): (number | null)[] => {
    const at = new Map(one.x.map((x, i) => [x, one.y[i]]));
    return places.map((x) => at.get(x) ?? null);
  };
  const data: ChartData = [
    { name: 'along', values: places },
    ...series.map((s) => ({ name: s.name, values: values(s) })),
  ];
  return data as unknown as PptxGenJS.OptsChartData[];
}

const scatterLook = ({ series, along, up, logAlong, logUp }: FactChart): PptxGenJS.IChartOpts => ({
  lineSize: series.every((s) => s.joined) ? 2 : 0,
  lineDataSymbolSize: series.some((s) => s.x.length <= 30) ? 6 : 0,
  lineDataSymbol: series.some((s) => s.x.length <= 30) ? 'circle' : 'none',
  chartColors: series.map((s) => colour(s.ink)),
  displayBlanksAs: 'span',
  showLegend: series.length > 1,
  legendPos: 'b',
  showCatAxisTitle: true,
  catAxisTitle: along,
  showValAxisTitle: true,
  valAxisTitle: up,
  ...(logUp && { valAxisLogScaleBase: 10 }),
  ...(logAlong && { catAxisLogScaleBase: 10 }),
});
