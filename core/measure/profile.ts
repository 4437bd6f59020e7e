import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import { anglesAround } from '../ops/kernels/around-axis.ts';
import { lineRuns } from '../ops/kernels/line-runs.ts';
import type { Measure } from './measure.ts';
import {
  type MeasuredQuantity,
  measuredAt,
  measuredQuantity,
  measuredQuantityShape,
  needOf,
  quantityNameOf,
  unitOf,
} from './measured-quantity.ts';

export interface ProfileOptions extends MeasuredQuantity {
  /** What it is drawn over: the way along the line, a coordinate, or the angle around the middle of its circle. */
  by: (typeof WAYS)[number];
}

const WAYS = ['x', 'y', 'z', 'distance', 'angle'] as const;

interface Runs {
  length: number;
  x: number[];
  y: number[];
}

const p = phrasesOf<ProfileOptions>();

/** A quantity along lines, as they are walked from end to end; one line behind the other. */
export const profile: Measure<ProfileOptions, Runs> = {
  id: 'profile',
  name: 'Profile',
  purpose: 'a quantity along a line, an edge or a cut through a surface',
  schema: z.object({ ...measuredQuantityShape, by: z.enum(WAYS).default('distance') }),
  phrase: p.row(p.text('profile of '), measuredQuantity(), p.text(' along ')),
  clauses: p.unless(
    'by',
    'distance',
    p.text(' over '),
    p.choice(
      'by',
      WAYS.map((value) => ({ text: value, value })),
    ),
  ),
  asks: 'something',
  givesCurve: true,
  example({ preferred, bounds: b }) {
    const middle = [0, 1, 2].map((k) => Number(((b[2 * k] + b[2 * k + 1]) / 2).toPrecision(3)));
    const ends = [0, 1].map(
      (side) => `(${[Number(b[side].toPrecision(3)), middle[1], middle[2]].join(', ')})`,
    );
    return (
      preferred && `profile of ${preferred.name} along probe line in everything through ${ends.join(', ')}`
    );
  },
  needs: needOf,
  ofPart(input, o) {
    const field = input.field({ field: o.field });
    if (!field) return { lacking: ownName(o.field) };
    const { mesh, origin } = input;
    if (mesh.types.length > 0 && input.dimension !== 1)
      return { lacking: 'line to go along: choose edges, a probe line, or the cut through a surface' };
    const { points } = mesh;
    const out: Runs = { length: 0, x: [], y: [] };
    const value = new Float64Array(1);
    const quantity = { ...o, whole: false };
    const runs = lineRuns(mesh).sort((a, b) => b.points.length - a.points.length);
    for (const run of runs) {
      const turned = o.by === 'angle' ? anglesAround(run.points, points) : null;
      const begin = out.x.length;
      if (out.x.length > 0) {
        // Nothing is drawn from one line to the next.
        out.x.push(out.x.at(-1)!);
        out.y.push(Number.NaN);
      }
      for (const [i, node] of run.points.entries()) {
        if (i > 0) {
          const before = run.points[i - 1];
          out.length += Math.hypot(...[0, 1, 2].map((k) => points[3 * node + k] - points[3 * before + k]));
        }
        const cell = run.cells[Math.min(i, run.cells.length - 1)];
        measuredAt(quantity, field, field.location === 'cell' ? cell : node, value);
        const k = 'xyz'.indexOf(o.by);
        out.x.push(turned ? turned[i] : k < 0 ? out.length : points[3 * node + k] + origin[k]);
        out.y.push(value[0]);
      }
      if (turned) inOrder(out, begin === 0 ? 0 : begin + 1, run.points[0] === run.points.at(-1));
    }
    return out;
  },
  join: (a, b, { by }) => ({
    length: a.length + b.length,
    x: [...a.x, a.length, ...(by === 'distance' ? b.x.map((v) => v + a.length) : b.x)],
    y: [...a.y, Number.NaN, ...b.y],
  }),
  answer: ({ length, x, y }) =>
    x.length > 1 ? { value: length, curve: { x, y } } : { lacking: 'line there' },
  unit: (_, s) => s.lengthUnit,
  axes: (o, s) => ({
    along: {
      name: o.by === 'distance' ? 'way along it' : o.by,
      unit: o.by === 'angle' ? '°' : s.lengthUnit,
    },
    up: { name: quantityNameOf(o, s), unit: unitOf(o, s) },
  }),
};

/** Puts places around a circle from one on in rising order, with what belongs to them; all around it ends where it begins. */
function inOrder(out: Runs, from: number, closed: boolean): void {
  // A closed line names its first node twice.
  const count = out.x.length - from - (closed ? 1 : 0);
  const order = Array.from({ length: count }, (_, i) => from + i).sort((i, j) => out.x[i] - out.x[j]);
  const [x, y] = [order.map((i) => out.x[i]), order.map((i) => out.y[i])];
  if (closed) {
    x.push(x[0] + 360);
    y.push(y[0]);
  }
  out.x.splice(from, x.length, ...x);
  out.y.splice(from, y.length, ...y);
}
