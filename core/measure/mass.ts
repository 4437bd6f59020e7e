import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import { unitProduct } from '../model/unit-products.ts';
import { shortUnit } from '../model/units.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import { isLacking, type Lacking, type Measure } from './measure.ts';
import { eachPlace } from './places.ts';
import { type Weighting, weigher, weightedBy, weightingShape, weightNeeds, weightUnit } from './weighting.ts';

/** Sums over volume, area, length or points: of the weight, times the place, and times its products xx yy zz xy yz xz. */
interface Moments {
  weight: number;
  first: number[];
  second: number[];
  dimension: number;
  /** Of a part without a value at some of its places. */
  missing: number;
}

const PAIRS = [
  [0, 0],
  [1, 1],
  [2, 2],
  [0, 1],
  [1, 2],
  [0, 2],
] as const;

function momentsOf(input: OperationInput, o: Weighting): Moments | Lacking {
  const weighed = weigher(input, o);
  if (isLacking(weighed)) return weighed;
  const out: Moments = {
    weight: 0,
    first: [0, 0, 0],
    second: [0, 0, 0, 0, 0, 0],
    dimension: input.dimension,
    missing: 0,
  };
  eachPlace(input, (place) => {
    const w = place.size * weighed(place);
    if (Number.isNaN(w)) {
      out.missing += place.size;
      return;
    }
    out.weight += w;
    const at = place.where();
    for (let k = 0; k < 3; k++) out.first[k] += w * at[k];
    for (let i = 0; i < 6; i++) out.second[i] += w * at[PAIRS[i][0]] * at[PAIRS[i][1]];
  });
  return out;
}

const joined = (a: Moments, b: Moments): Moments => ({
  weight: a.weight + b.weight,
  first: a.first.map((v, k) => v + b.first[k]),
  second: a.second.map((v, k) => v + b.second[k]),
  dimension: Math.max(a.dimension, b.dimension),
  missing: a.missing + b.missing,
});

const NOTHING: Lacking = { lacking: 'cells here: nothing is left of them' };

const c = phrasesOf<Weighting>();

/** The middle of something by its size, or by what it weighs. */
export const centreOfMass: Measure<Weighting, Moments> = {
  id: 'centre of mass',
  name: 'Centre of mass',
  purpose: 'the middle of something by its size or weight',
  schema: z.object(weightingShape),
  phrase: c.oneOf(c.text('centre of mass of '), c.text('center of mass of '), c.text('centroid of ')),
  clauses: weightedBy(),
  asks: 'something',
  example: () => 'centre of mass of everything',
  isVector: () => true,
  needs: weightNeeds,
  ofPart: momentsOf,
  join: joined,
  answer({ weight, first }) {
    if (weight === 0) return NOTHING;
    const place = first.map((v) => v / weight);
    return { value: place, place };
  },
  unit: (_, { lengthUnit }) => lengthUnit,
};

export interface InertiaOptions extends Weighting {
  /** A place on the axis; null for the centre of mass. */
  about: [number, number, number] | null;
  /** The axis; null for all three, one after the other. */
  axis: [number, number, number] | null;
}

const i = phrasesOf<InertiaOptions>();

/** How hard it is to turn something: its weight times the square of the distance from an axis. Of sections the second moment of area. */
export const inertia: Measure<InertiaOptions, Moments> = {
  id: 'moment of inertia',
  name: 'Moment of inertia',
  purpose: 'weight times squared distance from an axis',
  schema: z.object({
    ...weightingShape,
    about: z.tuple([z.number(), z.number(), z.number()]).nullable().default(null),
    axis: z.tuple([z.number(), z.number(), z.number()]).nullable().default(null),
  }),
  phrase: i.text('moment of inertia of '),
  clauses: i.row(
    weightedBy(),
    i.unless('axis', null, i.text(' around '), i.direction('axis')),
    i.unless('about', null, i.text(' about '), i.vector('about', 'length')),
  ),
  asks: 'something',
  example: () => 'moment of inertia of everything around z',
  isVector: ({ axis }) => axis === null,
  positive: ({ axis }) => axis,
  needs: weightNeeds,
  ofPart: momentsOf,
  join: joined,
  answer({ weight, first, second }, { about, axis }) {
    if (weight === 0) return NOTHING;
    const centre = first.map((v) => v / weight);
    const at = about ?? centre;
    // Moved to the place: products of what is left of each coordinate there.
    const moved = second.map((v, n) => {
      const [a, b] = PAIRS[n];
      return v - at[a] * first[b] - at[b] * first[a] + weight * at[a] * at[b];
    });
    const whole = moved[0] + moved[1] + moved[2];
    if (!axis) return { value: [whole - moved[0], whole - moved[1], whole - moved[2]], place: at };
    const length = Math.hypot(...axis) || 1;
    const u = axis.map((v) => v / length);
    const along = PAIRS.reduce((sum, [a, b], n) => sum + (a === b ? 1 : 2) * u[a] * u[b] * moved[n], 0);
    return { value: whole - along, place: at };
  },
  unit(o, s, { dimension }) {
    const unit = unitProduct([weightUnit(o, s), 1], [s.lengthUnit, dimension + 2]);
    return unit && shortUnit(unit);
  },
};
