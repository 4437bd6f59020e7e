import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import { boundsDiagonal } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Operation, OperationInput } from './chain/operation.ts';
import { emptyResult } from './chain/results.ts';
import { lineRuns } from './kernels/line-runs.ts';
import { sweptLines } from './kernels/swept-lines.ts';
import { usualVector } from './tracing/usual-vector.ts';

export interface RibbonOptions {
  /** In the unit of length of the run. */
  width: number;
  /** The flow whose curl turns them; empty for ribbons that do not turn. */
  field: string;
  component: 'magnitude';
}

const p = phrasesOf<RibbonOptions>();
/** Of the diagonal of the body. Common practice, no source. */
const USUAL_SHARE = 0.014;

/** Key of the quantity that turns ribbons. */
const curlOf = (field: string): string => `curl:${field}`;

/** Lines as flat bands that turn as the flow turns about them. */
export const ribbons: Operation<RibbonOptions> = {
  id: 'ribbons',
  name: 'Ribbons',
  purpose: 'lines as bands that turn with the flow',
  opening: 'Ribbons of ',
  joining: ', as ribbons',
  schema: z.object({
    width: boundedNumber().positive(),
    field: z.string().default(''),
    component: z.literal('magnitude').default('magnitude'),
  }),
  defaults: (setting) => ({
    width: Number((USUAL_SHARE * (boundsDiagonal(setting.bounds) || 1)).toPrecision(2)),
    field: usualVector(setting)?.field ?? '',
    component: 'magnitude',
  }),
  phrase: p.row(
    p.maybe(p.text(' of width '), p.number('width', 'length')),
    p.oneOf(
      p.row(p.text(' without turning'), p.fixed('field', '')),
      p.maybe(p.text(' turned by the curl of '), p.vectorQuantity('field', 'component')),
    ),
  ),
  controls: [
    {
      kind: 'number',
      key: 'width',
      label: 'Width',
      unit: 'length',
      range: (_, { bounds }) => [boundsDiagonal(bounds) / 1000, boundsDiagonal(bounds) / 10],
    },
    {
      kind: 'quantity',
      key: 'field',
      component: 'component',
      label: 'Turned by',
      called: 'turning',
      vectors: true,
    },
  ],
  traits: { within: true, showsValues: true, ofLines: true },
  scope: 'part',
  reads: 'step',
  gives: () => 2,
  needs: ({ field }) => (field === '' ? [] : [{ field: curlOf(field) }]),
  run(input, { width, field }) {
    if (input.dimension !== 1)
      return emptyResult({ lacking: 'lines: put a step that makes lines before the ribbons' });
    const half = width / 2;
    const turn = field === '' ? null : turnsAlong(input, field);
    return sweptLines(
      input.mesh,
      [
        [-half, 0],
        [half, 0],
      ],
      false,
      turn,
    );
  },
};

/**
 * By how much a small cross that drifts along a line has turned about it: the integral over time of half the curl along the
 * line (Batchelor, An Introduction to Fluid Dynamics, 2.3: a fluid element turns at half its vorticity; from memory).
 *
 * @returns an angle for each point in radians; null where lines do not say how long things travel along them
 */
function turnsAlong(input: OperationInput, field: string): Float64Array | null {
  const curl = input.field({ field: curlOf(field) });
  const time = input.field({ field: ALONG_LINE.time });
  if (!curl || !time || curl.location !== 'point') return null;
  const { points } = input.mesh;
  const out = new Float64Array(points.length / 3);
  for (const { points: list } of lineRuns(input.mesh)) {
    let angle = 0;
    for (let i = 1; i < list.length; i++) {
      const [a, b] = [list[i - 1], list[i]];
      const way = [0, 1, 2].map((k) => points[3 * b + k] - points[3 * a + k]);
      const length = Math.hypot(...way);
      let rate = 0;
      for (let k = 0; k < 3; k++) rate += ((curl.data[3 * a + k] + curl.data[3 * b + k]) / 2) * way[k];
      if (length > 0 && Number.isFinite(rate)) angle += 0.5 * (rate / length) * (time.data[b] - time.data[a]);
      out[b] = angle;
    }
  }
  return out;
}
