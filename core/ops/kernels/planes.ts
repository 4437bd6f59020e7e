import { type Phrase, phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { type Bounds, boundsCentre } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import { dot, unit, type Vector } from '../../model/vectors.ts';

export const vectorSchema = z.tuple([boundedNumber(), boundedNumber(), boundedNumber()]);

export const normalSchema = vectorSchema.refine((n) => Math.hypot(...n) > 1e-12, {
  message: 'The direction has no length.',
});

export const boundsSizes = (b: Bounds): Vector => [b[1] - b[0], b[3] - b[2], b[5] - b[4]];

/** A plane through the middle, across the shortest side of a body or the longest side of a flat run. */
export function middlePlane(bounds: Bounds, dimension: number): { normal: Vector; offset: number } {
  const size = boundsSizes(bounds);
  const axis = dimension === 2 ? (size[0] >= size[1] ? 0 : 1) : size.indexOf(Math.min(...size));
  const normal: Vector = [0, 0, 0];
  normal[axis] = 1;
  return { normal, offset: boundsCentre(bounds)[axis] };
}

/** Smallest and largest distance of a plane across this direction that still meets a box. */
export function planeRange(b: Bounds, normal: readonly number[]): [number, number] {
  const n = unit(normal);
  let low = 0;
  let high = 0;
  for (let k = 0; k < 3; k++) {
    const ends = [n[k] * b[2 * k], n[k] * b[2 * k + 1]];
    low += Math.min(...ends);
    high += Math.max(...ends);
  }
  return [low, high];
}

/**
 * How far a plane may be moved: to its own limits, without one as far as it meets the box.
 *
 * @param limits names of the options that hold the limits, which are null for none
 */
export function movingRange<O>(
  b: Bounds,
  normal: readonly number[],
  limits: { low?: keyof O; high?: keyof O },
  options: O,
): [number, number] {
  const limit = (key: keyof O | undefined): number | null =>
    key === undefined ? null : (options[key] as number | null);
  const [least, most] = planeRange(b, normal);
  return [limit(limits.low) ?? least, limit(limits.high) ?? most];
}

/** The plane of three points; null when they lie on a line. */
export function planeOfPoints(a: Vector, b: Vector, c: Vector): { normal: Vector; offset: number } | null {
  const u = b.map((v, k) => v - a[k]);
  const w = c.map((v, k) => v - a[k]);
  const n = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
  if (Math.hypot(...n) < 1e-9 * Math.hypot(...u) * Math.hypot(...w)) return null;
  // Turned so that its largest entry is positive: the same plane whichever way round the points were picked.
  const largest = n.reduce((best, v, k) => (Math.abs(v) > Math.abs(n[best]) ? k : best), 0);
  const normal = unit(n.map((v) => v * Math.sign(n[largest])));
  return { normal, offset: dot(normal, a) };
}

/** The plane that lies on a face at a place. Along an axis it is said by its letter, whichever way the face looks. */
export function planeOnFace(place: Vector, face: readonly number[]): { normal: Vector; offset: number } {
  const n = unit(face.map((v) => Math.round(v * 1e5) / 1e5));
  const turned = n.filter((v) => v !== 0).length === 1 && Math.min(...n) < 0;
  const normal = turned ? (n.map((v) => (v === 0 ? 0 : -v)) as Vector) : n;
  return { normal, offset: dot(normal, place) };
}

/** How far along a direction a point lies, from the origin of the files. */
export const distanceAlong = (normal: readonly number[], point: readonly number[]): number =>
  dot(unit(normal), point);

/**
 * A plane said by its distance, or by a point on it instead: ` at 0.2 m`, ` through (0.1, 0.2, 0) m`. The direction is
 * read before.
 */
export function planePlace<O>(normal: keyof O & string, offset: keyof O & string): Phrase<O> {
  const p = phrasesOf<O>();
  const distance = p.row(p.text(' at '), p.number(offset, 'length'));
  const point = p.row(p.text(' through '), p.vector(offset, 'length'));
  return {
    say: distance.say,
    read(reader, into, setting) {
      if (!p.oneOf(distance, point).read(reader, into, setting)) return false;
      const read = into[offset] as number | Vector;
      if (typeof read !== 'number')
        into[offset] = distanceAlong(into[normal] as Vector, read) as O[keyof O & string];
      return true;
    },
  };
}

/**
 * Options of a plane as they were once stored: its lengths counted in those of its normal.
 *
 * @param lengths of them, which ones
 */
export const inTrueLengths =
  (...lengths: string[]) =>
  (old: Record<string, unknown>): Record<string, unknown> => {
    const size = Math.hypot(...((old.normal as number[] | undefined) ?? [1])) || 1;
    const scaled = lengths
      .filter((k) => typeof old[k] === 'number')
      .map((k) => [k, (old[k] as number) / size]);
    return { ...old, ...Object.fromEntries(scaled) };
  };

/** The axis a normal points along, or -1 when the plane is free. */
export function axisOf(normal: readonly number[]): number {
  return normal.findIndex((v, k) => v > 0 && normal.every((w, j) => j === k || w === 0));
}
