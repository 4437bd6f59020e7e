import { AXES, phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsCentre, boundsDiagonal, boundsSize } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import { unit, type Vector } from '../model/vectors.ts';
import type { Operation } from './chain/operation.ts';
import { onCircle } from './kernels/around-axis.ts';
import { probedLine } from './kernels/probed-line.ts';

export interface ProbeCircleOptions {
  /** In the coordinates of the files. */
  centre: Vector;
  radius: number;
  normal: Vector;
  count: number;
}

const p = phrasesOf<ProbeCircleOptions>();
const USUAL = 200;

const vector = z.tuple([boundedNumber(), boundedNumber(), boundedNumber()]);

/** A circle through the cells, with the values it meets there; where there is no cell it has gaps. */
export const probeCircle: Operation<ProbeCircleOptions> = {
  id: 'probe-circle',
  name: 'Probe circle',
  purpose: 'values around a circle',
  opening: 'Probe circle in ',
  joining: ', around a probe circle',
  schema: z.object({
    centre: vector,
    radius: boundedNumber().positive(),
    normal: vector.default([0, 0, 1]),
    count: wholeNumber().min(3).max(100_000).default(USUAL),
  }),
  defaults({ bounds, dimension }) {
    const sizes = boundsSize(bounds).filter((s) => s > 0);
    const round = (v: number): number => Number(v.toPrecision(4));
    const size = boundsSize(bounds);
    // Of what is flat in the plane it lies in; else about z.
    const flat = dimension === 2 ? size.indexOf(Math.min(...size)) : 2;
    return {
      centre: boundsCentre(bounds).map(round) as Vector,
      radius: round(0.3 * (Math.min(...sizes) || 1)) || 1,
      normal: [0, 1, 2].map((k) => Number(k === flat)) as Vector,
      count: USUAL,
    };
  },
  phrase: p.row(
    p.text(' of radius '),
    p.number('radius', 'length'),
    p.text(' across '),
    p.oneOf(p.choice('normal', AXES), p.vector('normal')),
    p.text(' around '),
    p.vector('centre', 'length'),
    p.unless('count', USUAL, p.text(' in '), p.number('count'), p.text(' points')),
  ),
  controls: [
    { kind: 'place', key: 'centre', label: 'Around', called: 'centre' },
    {
      kind: 'number',
      key: 'radius',
      label: 'Radius',
      unit: 'length',
      range: (_, { bounds }) => [0, boundsDiagonal(bounds) / 2],
    },
    { kind: 'direction', key: 'normal', label: 'Across' },
    { kind: 'number', key: 'count', label: 'Points', whole: true, range: () => [10, 1000] },
  ],
  // It goes from part to part.
  scope: 'layer',
  reads: 'step',
  gives: () => 1,
  handles: () => [
    { kind: 'place', key: 'centre' },
    { kind: 'radius', centre: 'centre', key: 'radius' },
  ],
  run(input, { centre, radius, normal, count }) {
    const here = centre.map((v, k) => v - input.origin[k]) as Vector;
    return probedLine(input, onCircle(here, unit(normal), radius, count).flat(), true);
  },
};
