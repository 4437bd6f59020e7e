import { unit, type Vector } from '../../model/vectors.ts';

type Rgb = readonly [number, number, number];

/**
 * Lights and what shines around them. The stage shines by what is said here; a new rig is a file beside this and a line in the
 * registry.
 *
 * Directions are in a frame with x towards whoever looks (or, of rigs that stay where they are, towards +x), y to his right
 * and z up.
 */
export interface LightRig {
  id: string;
  /** As sentences call it. */
  name: string;
  /** What it is, in a few words for the chooser. */
  purpose: string;
  /** Each with its own shadow; the first throws it in drafts too. */
  lights: readonly Lamp[];
  /**
   * What shines from everywhere else, in any unit; null where nothing is shaded and colours are exactly those of the legend.
   *
   * @param sun where the first lamp stands
   */
  surroundings: ((direction: Vector, sun: Vector) => Rgb) | null;
  /** Share of the light of a place that sees all of it that comes from the surroundings; lights share the rest. */
  sky: number;
  /** Whether it goes round with the camera, so that no view is a view from behind. */
  follows: boolean;
  /** Times as bright as a picture usually is. */
  exposure: number;
}

/** A lamp, far away. */
export interface Lamp {
  /** Where it stands; only the direction counts. */
  right: number;
  up: number;
  towards: number;
  /** Sine of half the angle it is wide, seen from the model. */
  size: number;
  /** Its share of the light of all lights. */
  strength: number;
  /** See `lampColour`. */
  warmth: number;
}

/** Where a lamp of a rig stands in the frame of the rig, raised by so many degrees. */
export function lampDirection(lamp: Pick<Lamp, 'right' | 'up' | 'towards'>, rise = 0): Vector {
  const to = unit([lamp.towards, lamp.right, lamp.up]);
  if (rise === 0) return to;
  const level = Math.hypot(to[0], to[1]);
  const height = Math.min(
    Math.PI / 2,
    Math.max(-Math.PI / 2, Math.atan2(to[2], level) + (rise * Math.PI) / 180),
  );
  const scale = level > 1e-9 ? Math.cos(height) / level : 0;
  return [to[0] * scale, to[1] * scale, Math.sin(height)];
}

/** Whether it lights everything alike. */
export const isEven = ({ surroundings }: LightRig): boolean => surroundings === null;

/** From 0 to 1 between two values, softly. */
export function soft(low: number, high: number, value: number): number {
  const t = Math.min(1, Math.max(0, (value - low) / (high - low)));
  return t * t * (3 - 2 * t);
}

/** Whether, or how far, a direction points at a soft-edged rectangle around a middle; angles in radians. */
export function panel(
  [x, y, z]: Vector,
  middle: { turn: number; rise: number },
  halfWidth: number,
  halfHeight: number,
  edge = 0.06,
): number {
  const turn = Math.atan2(y, x) - middle.turn;
  const across = Math.abs(Math.atan2(Math.sin(turn), Math.cos(turn)));
  const rise = Math.abs(Math.asin(Math.min(1, Math.max(-1, z))) - middle.rise);
  return soft(halfWidth + edge, halfWidth - edge, across) * soft(halfHeight + edge, halfHeight - edge, rise);
}

export const mixed = (a: Rgb, b: Rgb, share: number): Rgb => [
  a[0] + share * (b[0] - a[0]),
  a[1] + share * (b[1] - a[1]),
  a[2] + share * (b[2] - a[2]),
];
export const brighter = (a: Rgb, by: number): Rgb => [a[0] * by, a[1] * by, a[2] * by];
