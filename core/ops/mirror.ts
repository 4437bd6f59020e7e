import { AXES, phrasesOf } from '../language/phrase.ts';
import { boundedNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';
import { dot, unit, type Vector } from '../model/vectors.ts';
import type { Operation, OperationInput, OperationResult } from './chain/operation.ts';
import { placeCopies } from './kernels/copies.ts';
import { inTrueLengths, middlePlane, normalSchema, planePlace } from './kernels/planes.ts';
import { withoutTwins } from './kernels/twin-faces.ts';

export interface MirrorOptions {
  normal: Vector;
  offset: number;
  /** The original stays beside its mirror image. */
  both: boolean;
  locked: boolean;
}

const p = phrasesOf<MirrorOptions>();

/**
 * The mirror image at a plane, with or without the original: a half model becomes whole. Vectors are reflected,
 * `v - 2 (n . v) n`, tensors on both sides; axial vectors (curls, torques) are also reversed.
 */
export const mirror: Operation<MirrorOptions> = {
  id: 'mirror',
  name: 'Mirror',
  purpose: 'complete a half or quarter model',
  opening: 'Mirror of ',
  joining: ', mirrored',
  schema: z.object({
    normal: normalSchema,
    offset: boundedNumber(),
    both: z.boolean().default(true),
    locked: z.boolean().default(false),
  }),
  version: 2,
  migrations: { 1: inTrueLengths('offset') },
  defaults({ bounds, dimension }) {
    // A half model most often ends at a plane through the origin.
    const axis = [0, 1, 2].find(
      (k) =>
        bounds[2 * k + 1] > bounds[2 * k] &&
        Math.abs(bounds[2 * k]) <= 1e-6 * (bounds[2 * k + 1] - bounds[2 * k]),
    );
    if (axis === undefined) {
      const { normal } = middlePlane(bounds, dimension);
      return { normal, offset: dot(normal, [bounds[0], bounds[2], bounds[4]]), both: true, locked: false };
    }
    const normal = [0, 1, 2].map((k) => Number(k === axis)) as Vector;
    return { normal, offset: 0, both: true, locked: false };
  },
  phrase: p.row(
    p.text(' at '),
    p.oneOf(
      p.row(p.choice('normal', AXES), p.text(' = '), p.number('offset', 'length')),
      p.row(p.vector('normal'), planePlace('normal', 'offset')),
    ),
    p.flag('both', ' without the original', false, true),
    p.flag('locked', ' (locked)'),
  ),
  controls: [
    { kind: 'plane', key: 'normal', offset: 'offset', label: 'Plane' },
    { kind: 'tick', key: 'both', label: 'Keep the original' },
    { kind: 'tick', key: 'locked', label: 'Locked on the stage' },
  ],
  handles: () => [{ kind: 'plane', normal: 'normal', offset: 'offset' }],
  scope: 'part',
  reads: 'step',
  gives: (dimension) => dimension,
  run: reflected,
  outer: (input, options) => {
    const outer = input.outer();
    return [withoutTwins(outer.derive(reflected(outer, options)))];
  },
};

function reflected(
  { mesh, origin }: OperationInput,
  { normal, offset, both }: MirrorOptions,
): OperationResult {
  const n = unit(normal);
  const o = offset - dot(n, origin);
  const image = {
    turn: Float64Array.from(
      { length: 9 },
      (_, i) => Number(i % 4 === 0) - 2 * n[Math.floor(i / 3)] * n[i % 3],
    ),
    shift: n.map((v) => 2 * o * v),
  };
  const self = { turn: [1, 0, 0, 0, 1, 0, 0, 0, 1], shift: [0, 0, 0] };
  return placeCopies(mesh, both ? [self, image] : [image]);
}
