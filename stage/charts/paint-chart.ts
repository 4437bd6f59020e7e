import { LRUCache } from 'lru-cache';
import type { Shape } from '#core/scene/annotations/drawing.ts';
import type { ChartDrawn } from '#core/scene/charts/chart-drawn.ts';
import type { WordsPainter } from '../words/lettering.ts';
import { chartOptions } from './chart-options.ts';

type Library = typeof import('./chart-library.ts')['echarts'];
type ChartShape = Extract<Shape, { kind: 'chart' }>;

let library: Library | null = null;

/** Brings the library that draws charts, for whoever paints some: nobody waits for it who has none. */
export async function loadChartLibrary(): Promise<void> {
  library ??= (await import('./chart-library.ts')).echarts;
}

interface Painted {
  data: readonly object[];
  canvas: HTMLCanvasElement;
}

/** Charts as they were painted last: a picture that turns paints the same one again and again. */
const painted = new LRUCache<string, Painted>({ max: 8 });

const keyOf = (shape: ChartShape, ink: string): string => {
  const { look, curves, now, stretch, upToNow } = shape.drawn;
  const { width, height } = shape.box;
  return JSON.stringify([
    Math.round(width),
    Math.round(height),
    shape.title,
    shape.letters,
    ink,
    { ...look, curves: null },
    now,
    stretch,
    upToNow,
    curves.map((c) => [
      c.id,
      c.name,
      c.look.ink,
      c.look.width,
      c.look.line,
      c.look.axis,
      c.colours?.scale.colours,
      c.colours?.unit,
    ]),
  ]);
};

const sameData = (a: readonly object[], b: readonly object[]): boolean =>
  a.length === b.length && a.every((v, i) => v === b[i]);

/** Paints a chart into its box; nothing before `loadChartLibrary` is through. */
export function paintChart(painter: WordsPainter, shape: ChartShape, ink: string, font: string): void {
  const { box, drawn } = shape;
  const [width, height] = [Math.round(box.width), Math.round(box.height)];
  if (!library || width < 8 || height < 8) return;
  const key = keyOf(shape, ink);
  const data = drawn.curves.map((c) => c.data);
  let found = painted.get(key);
  if (!found || !sameData(found.data, data)) {
    found = { data, canvas: canvasOf(library, shape, drawn, ink, font) };
    painted.set(key, found);
  }
  // On whole pixels its letters stay sharp.
  painter.drawImage(found.canvas, Math.round(box.x), Math.round(box.y), width, height);
}

function canvasOf(
  charts: Library,
  { box, title, letters }: ChartShape,
  drawn: ChartDrawn,
  ink: string,
  font: string,
): HTMLCanvasElement {
  const [width, height] = [Math.round(box.width), Math.round(box.height)];
  const head = title === null ? 0 : Math.round(1.8 * letters);
  const made = charts.init(document.createElement('div'), null, {
    renderer: 'canvas',
    width,
    height: height - head,
    devicePixelRatio: 1,
  });
  try {
    made.setOption(chartOptions(drawn, { ink, soft: ink, font, letters }, { width, height: height - head }));
    const chart = made.renderToCanvas({ pixelRatio: 1 });
    const canvas = document.createElement('canvas');
    canvas.width = width;
    canvas.height = height;
    const painter = canvas.getContext('2d')!;
    if (title !== null) {
      painter.font = `600 ${1.15 * letters}px ${font}`;
      painter.fillStyle = ink;
      painter.textAlign = 'center';
      painter.textBaseline = 'middle';
      painter.fillText(title, width / 2, head / 2 + 0.3 * letters, width - letters);
    }
    painter.drawImage(chart, 0, head);
    return canvas;
  } finally {
    made.dispose();
  }
}
