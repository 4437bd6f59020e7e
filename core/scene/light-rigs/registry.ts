import { daylight } from './daylight.ts';
import { even } from './even.ts';
import type { LightRig } from './light-rig.ts';
import { night } from './night.ts';
import { overcast } from './overcast.ts';
import { own } from './own.ts';
import { lightsPlaced, type PlacedLamp, placed } from './placed.ts';
import { product } from './product.ts';
import { rim } from './rim.ts';
import { studio } from './studio.ts';
import { tent } from './tent.ts';
import { workshop } from './workshop.ts';

/** Every light rig; the first is the usual one. */
export const lightRigs: readonly LightRig[] = [
  studio,
  product,
  rim,
  daylight,
  overcast,
  tent,
  workshop,
  night,
  placed,
  own,
  even,
];

export const lightRigById = (id: string): LightRig => lightRigs.find((r) => r.id === id) ?? lightRigs[0];

/** The rig a scene is lit by, with the lights that were placed by hand where it is one of those; without any the room lights alone. */
export function rigOf({ rig, lights }: { rig: string; lights: readonly PlacedLamp[] }): LightRig {
  if (rig !== placed.id) return lightRigById(rig);
  return { ...placed, lights: lightsPlaced(lights), ...(lights.length === 0 ? { sky: 1 } : {}) };
}
