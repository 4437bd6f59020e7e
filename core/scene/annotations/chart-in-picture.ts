import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { chartDrawn, chartLabel } from '../charts/chart-drawn.ts';
import { type PlaceInPicture, placeControls, placeInPicture, sayPlace } from '../things/place-in-picture.ts';
import type { AnnotationKind } from './annotation.ts';
import type { Shape } from './drawing.ts';
import { keptInside, placeAfterMove } from './keep-inside.ts';

export interface ChartInPicture extends PlaceInPicture {
  /** Id of the chart. */
  chart: string;
  /** In shares of the width and the height of the picture. */
  width: number;
  height: number;
  /** Of its letters, in hundredths of the height of the picture. */
  size: number;
  /** Whether curves over steps end at the step on show. */
  upToNow: boolean;
  /** Whether a plate lies beneath it. */
  plate: boolean;
}

const p = phrasesOf<ChartInPicture>();
const plain: ChartInPicture = {
  chart: '',
  x: 0.22,
  y: 0.72,
  width: 0.4,
  height: 0.36,
  size: 2,
  upToNow: true,
  plate: true,
};

const share = () => boundedNumber().min(0.05).max(1);

/** A chart of the scene on its pictures and in its films. */
export const chartInPicture: AnnotationKind<ChartInPicture, 'chart'> = {
  id: 'chart',
  name: 'the chart on the picture',
  offered: 'Chart',
  purpose: 'curves on the picture, drawn up to the step on show',
  schema: z.object({
    chart: z.string().max(200),
    x: placeInPicture(),
    y: placeInPicture(),
    width: share(),
    height: share(),
    size: boundedNumber().min(0.5).max(10),
    upToNow: z.boolean(),
    plate: z.boolean(),
  }),
  plain,
  defaults: (_, scene) => ({ ...plain, chart: scene.charts[0]?.id ?? '' }),
  opening: 'Chart on the picture ',
  phrase: p.styled(
    ({ chart }, s) => [words(`Chart: ${s.charts?.find((c) => c.value === chart)?.text ?? 'none'}`)],
    p.row(
      p.text('of '),
      p.oneOf(p.named('chart', 'charts'), p.row(p.text('none'), p.fixed('chart', ''))),
      p.text(' at '),
      sayPlace<ChartInPicture>(),
      p.suffixes(
        {
          usual: { width: plain.width, height: plain.height },
          phrase: p.row(p.share('width'), p.text(' wide and '), p.share('height'), p.text(' high')),
        },
        { usual: { size: plain.size }, phrase: p.row(p.text('letters of '), p.number('size')) },
        { usual: { upToNow: true }, phrase: p.row(p.text('as a whole'), p.fixed('upToNow', false)) },
        { usual: { plate: true }, phrase: p.row(p.text('without plate'), p.fixed('plate', false)) },
      ),
    ),
  ),
  controls: [
    { kind: 'named', key: 'chart', label: 'Chart', of: 'charts' },
    { kind: 'tick', key: 'upToNow', label: 'Up to the step on show' },
    { kind: 'tick', key: 'plate', label: 'On a plate' },
    { kind: 'share', key: 'width', label: 'Width' },
    { kind: 'share', key: 'height', label: 'Height' },
    { kind: 'number', key: 'size', label: 'Letters', range: () => [1, 4] },
    ...placeControls<ChartInPicture>(),
  ],
  knows: ({ chart }) => ({ ranges: [], attachments: [], charts: chart === '' ? [] : [chart] }),
  layout(o, s) {
    const at = s.scene.charts.findIndex((c) => c.id === o.chart);
    const [width, height] = [o.width * s.width, o.height * s.height];
    const box = keptInside(
      { x: o.x * s.width - width / 2, y: o.y * s.height - height / 2, width, height },
      s,
      2 * s.unit,
    );
    const ground: Shape = { kind: 'ground', box, ground: 'plate', ink: null, pad: 0 };
    const shapes = o.plate ? [ground] : [];
    if (at < 0) return { shapes: [ground, missing(box, o.size * s.unit)], box };
    const chart = s.scene.charts[at];
    const drawn = { ...chartDrawn(chart, s.curves, s.scene, s.run, s.step), upToNow: o.upToNow };
    const title = chart.title === null ? null : chartLabel(chart, at);
    return {
      shapes: [...shapes, { kind: 'chart', box, drawn, title, letters: o.size * s.unit, ink: null }],
      box,
    };
  },
  moved: (_, by, s) => placeAfterMove(by, s),
};

function missing(box: { x: number; y: number; width: number; height: number }, size: number): Shape {
  return {
    kind: 'text',
    letters: 'plain',
    text: 'no chart is chosen',
    x: box.x + box.width / 2,
    y: box.y + box.height / 2,
    size,
    weight: 400,
    align: 'center',
    ink: null,
    halo: false,
  };
}
