import type { RunDescription } from '../model/run.ts';
import { lengthOf, subtract, type Vector } from '../model/vectors.ts';
import type { Address } from '../scene/addresses.ts';
import type { Camera, Lane, Scene } from '../scene/document.ts';
import { sameAddress } from '../scene/reel/lane.ts';
import { camerasOfFilm } from './scene-at.ts';

/** The way is drawn through so many places, and through its keys. */
const PLACES = 160;

const CAMERA: Address = ['camera'];
const parts = ['position', 'target'] as const;

/** Lanes that move the camera from its place, or what it looks at. */
const lanesOfWay = ({ lanes }: Scene): Lane[] =>
  lanes.filter(
    (lane) =>
      !lane.off && (sameAddress(lane.of, CAMERA) || parts.some((p) => sameAddress(lane.of, [...CAMERA, p]))),
  );

const timesOfWay = (scene: Scene): number[] =>
  lanesOfWay(scene).flatMap((lane) => lane.keys.map(({ at }) => at));

/** Whether the camera of a film moves. */
export const hasWay = (scene: Scene): boolean => new Set(timesOfWay(scene)).size > 1;

/** The camera of a film, from its first key to its last; none where it stands still. */
export function wayOfCamera(scene: Scene, run: RunDescription): Camera[] {
  if (!hasWay(scene)) return [];
  const times = timesOfWay(scene);
  const [from, to] = [Math.min(...times), Math.max(...times)];
  const even = Array.from({ length: PLACES + 1 }, (_, i) => from + ((to - from) * i) / PLACES);
  const through = [...new Set([...even, ...times])].sort((a, b) => a - b);
  return camerasOfFilm(scene, run, through);
}

/** A place of the way that a key holds. */
export interface KeyedPlace {
  lane: string;
  of: Address;
  /** In seconds from the beginning of the film. */
  at: number;
  part: (typeof parts)[number];
  place: Vector;
  /** What the key holds with that place elsewhere. */
  with(place: Vector): unknown;
}

/** Other keys of its lane at the place of one, so that a way that ends where it began goes on doing so. */
export const alsoAt = (key: KeyedPlace, all: readonly KeyedPlace[], near: number): KeyedPlace[] =>
  all.filter(
    (other) =>
      other !== key &&
      other.lane === key.lane &&
      other.part === key.part &&
      lengthOf(subtract(other.place, key.place)) <= near,
  );

/** The places that keys hold: where the camera stands, and what it looks at, of the camera as a whole or by themselves. */
export function placesOfWay(scene: Scene): KeyedPlace[] {
  const lanes = lanesOfWay(scene);
  const apart = (part: string): boolean => lanes.some((l) => sameAddress(l.of, [...CAMERA, part]));
  return lanes.flatMap((lane) =>
    lane.keys.flatMap(({ at, value }): KeyedPlace[] => {
      const base = { lane: lane.id, of: lane.of, at };
      if (lane.of.length > 1)
        return [
          { ...base, part: lane.of[1] as KeyedPlace['part'], place: value as Vector, with: (place) => place },
        ];
      const camera = value as Camera;
      return parts
        .filter((part) => !apart(part))
        .map((part) => ({
          ...base,
          part,
          place: camera[part],
          with: (place) => ({ ...camera, [part]: place }),
        }));
    }),
  );
}
