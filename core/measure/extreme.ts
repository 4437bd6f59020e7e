import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import type { MeshField } from '../model/field.ts';
import { z } from '../model/schema.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import { lineRuns } from '../ops/kernels/line-runs.ts';
import { splineExtreme, splineThrough } from './curves/spline.ts';
import type { Lacking, Measure } from './measure.ts';
import {
  exampleOf,
  type MeasuredQuantity,
  measuredAt,
  measuredQuantity,
  measuredQuantityShape,
  needOf,
  unitOf,
} from './measured-quantity.ts';
import { usedPoints } from './summed.ts';

export interface ExtremeOptions extends MeasuredQuantity {
  which: 'maximum' | 'minimum';
  /** Along lines, between the points as well, where a spline through them is highest. */
  spline: boolean;
}

/** Null where nothing has a value. */
interface Found {
  best: { value: number; place: number[] } | null;
}

const p = phrasesOf<ExtremeOptions>();

/** The largest or smallest value, of vectors by their length, at points or cells as the field stands, and where it is. */
export const extreme: Measure<ExtremeOptions, Found> = {
  id: 'extreme',
  name: 'Extreme',
  purpose: 'the largest or smallest value, and where it is',
  schema: z.object({
    ...measuredQuantityShape,
    which: z.enum(['maximum', 'minimum']),
    spline: z.boolean().default(false),
  }),
  phrase: p.row(
    p.choice('which', [
      { text: 'maximum', value: 'maximum' },
      { text: 'minimum', value: 'minimum' },
      { text: 'highest', value: 'maximum' },
      { text: 'largest', value: 'maximum' },
      { text: 'lowest', value: 'minimum' },
      { text: 'smallest', value: 'minimum' },
    ]),
    p.text(' of '),
    measuredQuantity(),
    p.text(' over '),
  ),
  clauses: p.flag('spline', ', through a spline'),
  asks: 'something',
  example: (s) => exampleOf('maximum', s),
  needs: needOf,
  ofPart(input, o) {
    const field = input.field({ field: o.field });
    if (!field) return { lacking: ownName(o.field) };
    if (o.spline) return alongLines(input, o, field);
    const { points, offsets, connectivity } = input.mesh;
    const sign = o.which === 'maximum' ? 1 : -1;
    const value = new Float64Array(1);
    const quantity = { ...o, whole: false };
    let [best, at] = [Number.NaN, -1];
    const look = (index: number): void => {
      measuredAt(quantity, field, index, value);
      if (Number.isNaN(value[0]) || (at >= 0 && sign * value[0] <= sign * best)) return;
      [best, at] = [value[0], index];
    };
    // Points that no cell uses are not there.
    if (field.location === 'cell') for (let c = 0; c + 1 < offsets.length; c++) look(c);
    else for (const node of usedPoints(input.mesh)) look(node);
    if (at < 0) return { best: null };
    const nodes = field.location === 'cell' ? connectivity.subarray(offsets[at], offsets[at + 1]) : [at];
    const place = [0, 1, 2].map(
      (k) =>
        Array.from(nodes).reduce((sum, n) => sum + points[3 * n + k], 0) / nodes.length + input.origin[k],
    );
    return { best: { value: best, place } };
  },
  join(a, b, { which }) {
    if (!a.best || !b.best) return a.best ? a : b;
    return a.best.value >= b.best.value === (which === 'maximum') ? a : b;
  },
  answer: ({ best }) => best ?? { lacking: 'value anywhere' },
  unit: unitOf,
};

function alongLines(input: OperationInput, o: ExtremeOptions, field: MeshField): Found | Lacking {
  const { mesh, origin } = input;
  if (mesh.types.length === 0) return { best: null };
  if (input.dimension !== 1)
    return {
      lacking: 'line for a spline to run along: choose edges, a probe line, or the cut through a surface',
    };
  if (field.location === 'cell')
    return { lacking: `${ownName(o.field)} at points, which a spline runs through` };
  const sign = o.which === 'maximum' ? 1 : -1;
  let best: Found['best'] = null;
  const value = new Float64Array(1);
  for (const { points: nodes } of lineRuns(mesh)) {
    const [ways, values, places]: [number[], number[], number[][]] = [[], [], []];
    for (const node of nodes) {
      measuredAt({ ...o, whole: false }, field, node, value);
      const place = [0, 1, 2].map((k) => mesh.points[3 * node + k]);
      const before = places.at(-1);
      const gap = before ? Math.hypot(...place.map((v, k) => v - before[k])) : 0;
      if (Number.isNaN(value[0]) || (before && gap === 0)) continue;
      ways.push((ways.at(-1) ?? 0) + gap);
      values.push(value[0]);
      places.push(place);
    }
    if (ways.length === 0) continue;
    const { at, value: most } = splineExtreme(splineThrough(ways, values), sign);
    if (best && sign * most <= sign * best.value) continue;
    const i = Math.max(
      0,
      Math.min(
        ways.length - 2,
        ways.findLastIndex((w) => w <= at),
      ),
    );
    const share = ways.length > 1 ? (at - ways[i]) / (ways[i + 1] - ways[i]) : 0;
    const next = places[Math.min(i + 1, places.length - 1)];
    best = { value: most, place: places[i].map((v, k) => v + share * (next[k] - v) + origin[k]) };
  }
  return { best };
}
