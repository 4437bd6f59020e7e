import { boundedNumber } from '../../model/bounded-number.ts';
import { type Bounds, boundsCentre } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import type { Vector } from '../../model/vectors.ts';

/** So many places, in the coordinates of the files. */
export const placesSchema = (count: number) =>
  z.array(z.tuple([boundedNumber(), boundedNumber(), boundedNumber()])).length(count);

/** Places across what is shown, until others are chosen: the ends of a way, or three on a turn. */
export function usualPlaces(bounds: Bounds, count: 2 | 3): Vector[] {
  const [x, y, z] = boundsCentre(bounds);
  const low: Vector = [bounds[0], y, z];
  const high: Vector = [bounds[1], y, z];
  return count === 2 ? [low, high] : [low, [x, y, bounds[5]], high];
}
