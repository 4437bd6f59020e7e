import type { Phrase } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { type Bounds, boundsCentre } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';
import type { Vector } from '../camera.ts';

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

/** `(0, 0, 0), (1, 0, 0)`. */
export const sayPlaces = <O extends { places: Vector[] }>(count: number): Phrase<O> => ({
  say: ({ places }) => [words(places.map((place) => `(${place.join(', ')})`).join(' '))],
  read(reader, into) {
    const places: Vector[] = [];
    for (let i = 0; i < count; i++) {
      const place: number[] = [];
      if (!reader.words('(')) return false;
      for (let k = 0; k < 3; k++) {
        const v = reader.number(null);
        if (v === undefined || !reader.words(k < 2 ? ',' : ')')) return false;
        place.push(v);
      }
      places.push(place as Vector);
    }
    into.places = places as O['places'];
    return true;
  },
});
