import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import { cross, dot, lengthOf, subtract } from '../model/vectors.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import type { Lacking, Measure } from './measure.ts';
import { placeOfSpot, type Spot, spot, spotSchema } from './spot.ts';

/** Where each of the spots is, as far as the parts so far have it. */
interface Found {
  places: (number[] | null)[];
}

const found = (input: OperationInput, spots: readonly Spot[]): Found => ({
  places: spots.map((s) => placeOfSpot(s, input)),
});

const joined = (a: Found, b: Found): Found => ({ places: a.places.map((p, i) => p ?? b.places[i]) });

function lackingOf(places: Found['places'], spots: readonly Spot[]): Lacking | null {
  const at = places.indexOf(null);
  const missing = spots[at];
  if (!missing || missing.kind === 'place') return null;
  return { lacking: `${missing.kind} ${missing.index} of "${missing.part}"` };
}

export interface DistanceOptions {
  from: Spot;
  to: Spot;
}

const d = phrasesOf<DistanceOptions>();

/** How far two places, nodes or cells are from each other; what moves is where it is at the step. */
export const distanceBetween: Measure<DistanceOptions, Found> = {
  id: 'distance',
  name: 'Distance',
  purpose: 'from one place, node or cell to another',
  schema: z.object({ from: spotSchema, to: spotSchema }),
  phrase: d.row(
    d.oneOf(d.text('distance from '), d.text('distance of ')),
    spot('from'),
    d.oneOf(d.text(' to '), d.text(' and ')),
    spot('to'),
  ),
  asks: 'everything',
  example({ bounds: [x0, x1, y0, y1, z0, z1] }) {
    const said = (p: number[]): string => `(${p.map((v) => Number(v.toPrecision(4))).join(', ')})`;
    return `distance from ${said([x0, y0, z0])} to ${said([x1, y1, z1])}`;
  },
  needs: () => [],
  ofPart: (input, { from, to }) => found(input, [from, to]),
  join: joined,
  answer({ places }, { from, to }) {
    const lacking = lackingOf(places, [from, to]);
    if (lacking) return lacking;
    const [begin, end] = places as number[][];
    return { value: lengthOf(subtract(end, begin)), place: end, between: [begin, end] };
  },
  unit: (_, { lengthUnit }) => lengthUnit,
};

export interface AngleOptions {
  at: Spot;
  from: Spot;
  to: Spot;
}

const a = phrasesOf<AngleOptions>();

/** The angle at a place between two others. */
export const angleBetween: Measure<AngleOptions, Found> = {
  id: 'angle',
  name: 'Angle',
  purpose: 'at a place, node or cell between two others',
  schema: z.object({ at: spotSchema, from: spotSchema, to: spotSchema }),
  phrase: a.row(
    a.text('angle at '),
    spot('at'),
    a.oneOf(a.text(' between '), a.text(' from ')),
    spot('from'),
    a.oneOf(a.text(' and '), a.text(' to ')),
    spot('to'),
  ),
  asks: 'everything',
  example({ bounds: [x0, x1, y0, y1, z0] }) {
    const said = (p: number[]): string => `(${p.map((v) => Number(v.toPrecision(4))).join(', ')})`;
    return `angle at ${said([x0, y0, z0])} between ${said([x1, y0, z0])} and ${said([x1, y1, z0])}`;
  },
  needs: () => [],
  ofPart: (input, { at, from, to }) => found(input, [at, from, to]),
  join: joined,
  answer({ places }, { at, from, to }) {
    const lacking = lackingOf(places, [at, from, to]);
    if (lacking) return lacking;
    const [p, q, r] = places as number[][];
    const [u, v] = [subtract(q, p), subtract(r, p)];
    // By both products: good for angles of any size (Kahan, Miscalculating area and angles of a needle-like triangle; from memory).
    if (lengthOf(u) === 0 || lengthOf(v) === 0)
      return { lacking: 'angle there: two of the places are the same' };
    const value = (Math.atan2(lengthOf(cross(u, v)), dot(u, v)) * 180) / Math.PI;
    return { value, place: p, between: [q, p, r] };
  },
  unit: () => '°',
};
