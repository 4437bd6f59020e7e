import type { ECharts } from 'echarts/core';
import type { ChartDrawn } from '#core/scene/charts/chart-drawn.ts';
import { echarts } from '#stage/charts/chart-library.ts';
import { chartOptions } from '#stage/charts/chart-options.ts';

const SIZE = { width: 960, height: 540 };
const PAPER = '#ffffff';
const TONE = { ink: '#2a2622', soft: '#6a6259', font: "'Inter Variable', Inter, sans-serif", letters: 16 };

/** How many dots a PNG has for each of the size it is laid out in. */
const SHARP = 2;

/** A chart as a file: on white, in letters that are legible on a slide. */
export async function chartFile(drawn: ChartDrawn, kind: 'svg' | 'png'): Promise<Blob> {
  if (kind === 'svg') return new Blob([chartSvg(drawn)], { type: 'image/svg+xml' });
  await document.fonts.ready;
  return withChart(drawn, 'canvas', (made) => {
    const canvas = made.renderToCanvas({ pixelRatio: SHARP, backgroundColor: PAPER });
    return new Promise((resolve, reject) =>
      canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The picture could not be made.')))),
    );
  });
}

/** The same as one SVG element. */
export const chartSvg = (drawn: ChartDrawn): string =>
  withChart(drawn, 'svg', (made) => made.renderToSVGString());

function withChart<T>(drawn: ChartDrawn, renderer: 'svg' | 'canvas', use: (made: ECharts) => T): T {
  const made = echarts.init(document.createElement('div'), null, { renderer, ...SIZE });
  try {
    made.setOption({ ...chartOptions(drawn, TONE, SIZE), backgroundColor: PAPER });
    return use(made);
  } finally {
    made.dispose();
  }
}
