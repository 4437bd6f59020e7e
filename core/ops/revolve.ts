import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsDiagonal } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import { unit, type Vector } from '../model/vectors.ts';
import type { Operation, OperationInput } from './chain/operation.ts';
import type { Placement } from './kernels/copies.ts';
import { normalSchema, vectorSchema } from './kernels/planes.ts';
import { rotation } from './kernels/rotation.ts';
import { sweep, sweptOuter, type Way } from './kernels/sweep.ts';

export interface RevolveOptions {
  axis: Vector;
  /** A place on the axis, in the coordinates of the files. */
  centre: Vector;
  /** In degrees. */
  start: number;
  sweep: number;
  /** Flat pieces in a full turn. */
  segments: number;
}

const p = phrasesOf<RevolveOptions>();

/**
 * A flat, axisymmetric run turned about its axis. Vectors turn with their place: components in the plane become
 * radial and axial, the third, where the file has one, circumferential (along the normal of the plane at the start).
 */
export const revolve: Operation<RevolveOptions> = {
  id: 'revolve',
  name: 'Revolve',
  purpose: 'an axisymmetric run turned about its axis',
  opening: 'Revolve of ',
  joining: ', revolved',
  schema: z.object({
    axis: normalSchema,
    centre: vectorSchema.default([0, 0, 0]),
    start: boundedNumber().default(0),
    sweep: boundedNumber().min(0.1).max(360),
    segments: wholeNumber().min(3).max(720).default(72),
  }),
  defaults({ bounds }) {
    // The axis is the border through the origin, where there is one; else the y axis.
    const near = (k: number): boolean => Math.abs(bounds[2 * k]) < 1e-6 * boundsDiagonal(bounds);
    const aboutX = near(1) && !near(0);
    return { axis: aboutX ? [1, 0, 0] : [0, 1, 0], centre: [0, 0, 0], start: 0, sweep: 270, segments: 72 };
  },
  phrase: p.row(
    p.text(' by '),
    p.number('sweep', 'angle'),
    p.text(' about '),
    p.direction('axis'),
    p.unless('centre', [0, 0, 0], p.text(' through '), p.vector('centre', 'length')),
    p.unless('start', 0, p.text(' from '), p.number('start', 'angle')),
    p.unless('segments', 72, p.text(' in '), p.number('segments'), p.text(' pieces a turn')),
  ),
  controls: [
    { kind: 'number', key: 'sweep', label: 'By', called: 'angle', unit: 'angle', range: () => [1, 360] },
    {
      kind: 'number',
      key: 'start',
      label: 'From',
      called: 'first angle',
      unit: 'angle',
      range: () => [-180, 180],
    },
    { kind: 'direction', key: 'axis', label: 'Axis' },
    { kind: 'place', key: 'centre', label: 'Through', called: 'place of the axis' },
    { kind: 'number', key: 'segments', label: 'Pieces a turn', whole: true, range: () => [6, 180] },
  ],
  scope: 'part',
  reads: 'step',
  gives: (dimension) => Math.min(3, dimension + 1),
  fits: ({ dimension }) => dimension < 3,
  run: (input, options) => sweep(input.mesh, wayAround(input, options)),
  outer: (input, options) => (input.dimension === 2 ? sweptOuter(input, wayAround(input, options)) : null),
};

function wayAround({ origin, mesh }: OperationInput, o: RevolveOptions): Way {
  const axis = unit(o.axis);
  const centre = o.centre.map((v, k) => v - origin[k]);
  const count = Math.max(1, Math.ceil((o.segments * o.sweep) / 360 - 1e-9));
  const at = (share: number): Placement => {
    const turn = rotation(axis, ((o.start + share * o.sweep) * Math.PI) / 180);
    const shift = centre.map(
      (v, r) => v - (turn[3 * r] * centre[0] + turn[3 * r + 1] * centre[1] + turn[3 * r + 2] * centre[2]),
    );
    return { turn, shift };
  };
  let reach = 0;
  for (const v of mesh.points) reach = Math.max(reach, Math.abs(v));
  return {
    stations: Array.from({ length: count + 1 }, (_, k) => at(k / count)),
    middles: Array.from({ length: count }, (_, k) => at((k + 0.5) / count)),
    closed: o.sweep > 360 - 1e-9,
    stays(x, y, z) {
      const d = [x - centre[0], y - centre[1], z - centre[2]];
      const away = Math.hypot(
        d[1] * axis[2] - d[2] * axis[1],
        d[2] * axis[0] - d[0] * axis[2],
        d[0] * axis[1] - d[1] * axis[0],
      );
      return away <= 1e-7 * reach;
    },
  };
}
