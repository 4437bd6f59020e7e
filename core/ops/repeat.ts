import { phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { boundsCentre } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import { unit, type Vector } from '../model/vectors.ts';
import type { Operation, OperationInput } from './chain/operation.ts';
import { type Placement, placeCopies } from './kernels/copies.ts';
import { boundsSizes, normalSchema, vectorSchema } from './kernels/planes.ts';
import { rotation } from './kernels/rotation.ts';
import { withoutTwins } from './kernels/twin-faces.ts';

export interface RepeatOptions {
  how: 'around' | 'along';
  count: number;
  /** Between one copy and the next, in degrees. */
  angle: number;
  /** How far the first copy is turned itself, in degrees. */
  turned: number;
  axis: Vector;
  centre: Vector;
  /** From one copy to the next. */
  step: Vector;
}

const p = phrasesOf<RepeatOptions>();

/** Copies around an axis, as a sector becomes the whole wheel, or along a line. */
export const repeat: Operation<RepeatOptions> = {
  id: 'repeat',
  name: 'Repeat',
  purpose: 'copies around an axis or along a line',
  opening: 'Repeat of ',
  joining: ', repeated',
  schema: z.object({
    how: z.enum(['around', 'along']).default('around'),
    count: wholeNumber().min(1).max(500),
    angle: boundedNumber().default(90),
    turned: boundedNumber().default(0),
    axis: normalSchema.default([0, 0, 1]),
    centre: vectorSchema.default([0, 0, 0]),
    step: vectorSchema.default([1, 0, 0]),
  }),
  defaults({ bounds }) {
    const [width] = boundsSizes(bounds);
    // An axis through the origin, as sector models have it, unless the origin is far away.
    const far = [0, 1].some(
      (k) => Math.min(Math.abs(bounds[2 * k]), Math.abs(bounds[2 * k + 1])) > 4 * (width || 1),
    );
    return {
      how: 'around',
      count: 4,
      angle: 90,
      turned: 0,
      axis: [0, 0, 1],
      centre: far ? boundsCentre(bounds) : [0, 0, 0],
      step: [Number((width || 1).toPrecision(6)), 0, 0],
    };
  },
  phrase: p.row(
    p.text(' '),
    p.number('count'),
    p.text(' times '),
    p.oneOf(
      p.row(
        p.fixed('how', 'around'),
        p.text('around '),
        p.direction('axis'),
        p.text(' through '),
        p.vector('centre', 'length'),
        p.text(' every '),
        p.number('angle', 'angle'),
        p.unless('turned', 0, p.text(' turned by '), p.number('turned', 'angle')),
      ),
      p.row(p.fixed('how', 'along'), p.text('along '), p.vector('step', 'length')),
    ),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'how',
      label: 'Copies',
      choices: [
        { value: 'around', label: 'around an axis' },
        { value: 'along', label: 'along a line' },
      ],
    },
    { kind: 'number', key: 'count', label: 'How many', whole: true, range: () => [1, 36] },
    {
      kind: 'number',
      key: 'angle',
      label: 'Every',
      called: 'angle',
      unit: 'angle',
      range: () => [-180, 180],
      when: (o) => o.how === 'around',
    },
    {
      kind: 'number',
      key: 'turned',
      label: 'Turned by',
      called: 'turn',
      unit: 'angle',
      range: () => [-180, 180],
      when: (o) => o.how === 'around',
    },
    { kind: 'direction', key: 'axis', label: 'Axis', when: (o) => o.how === 'around' },
    {
      kind: 'place',
      key: 'centre',
      label: 'Through',
      called: 'place of the axis',
      when: (o) => o.how === 'around',
    },
    { kind: 'place', key: 'step', label: 'By', called: 'shift', when: (o) => o.how === 'along' },
  ],
  traits: { turnsBy: ({ how }) => (how === 'around' ? 'turned' : null) },
  scope: 'part',
  reads: 'step',
  gives: (dimension) => dimension,
  run: (input, options) => placeCopies(input.mesh, placements(input, options)),
  outer: (input, options) => {
    const outer = input.outer();
    return [withoutTwins(outer.derive(placeCopies(outer.mesh, placements(outer, options))))];
  },
};

function placements({ origin }: OperationInput, o: RepeatOptions): Placement[] {
  return Array.from({ length: o.count }, (_, k) => {
    if (o.how === 'along') return { turn: [1, 0, 0, 0, 1, 0, 0, 0, 1], shift: o.step.map((v) => v * k) };
    const turn = rotation(unit(o.axis), ((o.turned + o.angle * k) * Math.PI) / 180);
    const c = o.centre.map((v, i) => v - origin[i]);
    const shift = c.map((v, r) => v - (turn[3 * r] * c[0] + turn[3 * r + 1] * c[1] + turn[3 * r + 2] * c[2]));
    return { turn, shift };
  });
}
