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
  const box = document.createElement('div');
  const made = echarts.init(box, null, { renderer: kind === 'svg' ? 'svg' : 'canvas', ...SIZE });
  try {
    made.setOption({ ...chartOptions(drawn, TONE, SIZE), backgroundColor: PAPER });
    if (kind === 'svg') return new Blob([made.renderToSVGString()], { type: 'image/svg+xml' });
    await document.fonts.ready;
    const canvas = made.renderToCanvas({ pixelRatio: SHARP, backgroundColor: PAPER });
    return await new Promise((resolve, reject) =>
      canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error('The picture could not be made.')))),
    );
  } finally {
    made.dispose();
  }
}
