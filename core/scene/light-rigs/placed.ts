import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { dot, subtract, times, unit, type Vector } from '../../model/vectors.ts';
import { levelAxes } from '../things/upright.ts';
import type { Lamp, LightRig } from './light-rig.ts';

/** A lamp placed by hand; it stays where it is in the world, however the camera turns. */
export interface PlacedLamp {
  /** Where it stands, counterclockwise around what is up, and how high; in degrees. */
  turn: number;
  rise: number;
  /** How wide it is seen from the model, in degrees: the wider, the softer its shadow. */
  wide: number;
  /** Its share of the light, beside the others. */
  share: number;
  /** See `lampColour`. */
  warmth: number;
}

/** As many as there may be. */
export const MOST_PLACED = 8;

export const placedLightsSchema = z
  .array(
    z.object({
      turn: boundedNumber().min(-180).max(180),
      rise: boundedNumber().min(-90).max(90),
      wide: boundedNumber().min(0).max(120),
      share: boundedNumber().min(0).max(100),
      warmth: boundedNumber().min(-1).max(1),
    }),
  )
  .max(MOST_PLACED);

/** The one there is to begin with, and each that is added. */
export const firstLamp: PlacedLamp = { turn: -60, rise: 45, wide: 16, share: 1, warmth: 0 };

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** Lights as rigs have them. Shares are of all light: one lamp more is no more light. */
export function lightsPlaced(lights: readonly PlacedLamp[]): Lamp[] {
  const whole = lights.reduce((sum, l) => sum + l.share, 0) || 1;
  return lights.map(({ turn, rise, wide, share, warmth }) => ({
    towards: Math.cos(radians(turn)) * Math.cos(radians(rise)),
    right: Math.sin(radians(turn)) * Math.cos(radians(rise)),
    up: Math.sin(radians(rise)),
    size: Math.sin(radians(wide / 2)),
    strength: share / whole,
    warmth,
  }));
}

/** Lights placed by hand in a softly lit room. */
export const placed: LightRig = {
  id: 'placed',
  name: 'Lights of your own',
  purpose: 'lights you place by their highlights',
  lights: lightsPlaced([firstLamp]),
  surroundings: () => [1, 1, 1],
  sky: 0.45,
  follows: false,
  exposure: 1.15,
};

/**
 * Where a lamp must stand so that its highlight lies at a place: what is mirrored there towards whoever looks.
 *
 * @param normal of the surface there, of length one
 * @param toEye from the place towards whoever looks, of length one
 * @param up of the world
 * @param turned how far all lights are turned and raised beside that, in degrees
 */
export function lampForHighlight(
  normal: Vector,
  toEye: Vector,
  up: Vector,
  turned: { turn: number; rise: number } = { turn: 0, rise: 0 },
): Pick<PlacedLamp, 'turn' | 'rise'> {
  const to = unit(subtract(times(normal, 2 * dot(normal, toEye)), toEye));
  const [across, along] = levelAxes(up);
  const turn = (Math.atan2(dot(to, along), dot(to, across)) * 180) / Math.PI - turned.turn;
  const rise = (Math.asin(Math.min(1, Math.max(-1, dot(to, up)))) * 180) / Math.PI - turned.rise;
  return { turn: ((((turn + 180) % 360) + 360) % 360) - 180, rise: Math.min(90, Math.max(-90, rise)) };
}
