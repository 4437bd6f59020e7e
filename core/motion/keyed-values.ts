import type { RunDescription } from '../model/run.ts';
import { type Address, type Keyable, keyable } from '../scene/addresses.ts';
import type { Scene } from '../scene/document.ts';
import { placeOf, placesOf } from './time-map.ts';

/** The time of the run that is shown: its keys are places along the steps, see `placesOf`. */
export const TIME: Address = ['time'];
/** The look that is worn; its keys are whole looks. */
export const LOOK: Address = ['look'];

export const addressKey = (address: Address): string => JSON.stringify(address);

const known = new WeakMap<Scene, Map<string, Keyable>>();

/** Every value of a scene that can have keys, by its address: those of the scene, the time and the look. */
export function keyedValues(scene: Scene, run: RunDescription): ReadonlyMap<string, Keyable> {
  const found = known.get(scene);
  if (found) return found;
  const all: Keyable[] = [
    {
      address: TIME,
      name: 'the time of the run',
      value: placeOf(placesOf(run), scene),
      between: (a, b, share) => (a as number) + share * ((b as number) - (a as number)),
    },
    // One look gives way to another at once.
    { address: LOOK, name: 'the look', value: null, between: (a, b, share) => (share < 1 ? a : b) },
    ...keyable(scene),
  ];
  const made = new Map(all.map((k) => [addressKey(k.address), k]));
  known.set(scene, made);
  return made;
}
