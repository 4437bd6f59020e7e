import type { RunDescription } from '../model/run.ts';
import type { Address } from '../scene/addresses.ts';
import type { Scene } from '../scene/document.ts';
import { calledInList, isList, keyedLists, type ListName } from '../scene/keyed-lists.ts';
import { sayAddress } from '../scene/reel/reel-script.ts';
import { addressKey, keyedValues } from './keyed-values.ts';

/** What a value belongs to: an element of a list, a part, or a thing of which a scene has one. */
export const holderOf = (address: Address): Address =>
  isList(address[0]) || address[0] === 'parts' ? address.slice(0, 2) : address.slice(0, 1);

/** What that is called: `line 2`, or `a deleted line`. */
export function holderName(scene: Scene, address: Address): string {
  const [list, id] = address;
  if (!isList(list) || isThere(scene, list, id)) return sayAddress(scene, holderOf(address));
  return `${list === 'annotations' || list === 'scenery' ? '' : 'a '}deleted ${calledInList[list]}`;
}

/** What a value is called for a reader, also if it is gone, or is of another kind now. */
export function valueName(scene: Scene, run: RunDescription, address: Address): string {
  const known = keyedValues(scene, run).get(addressKey(address));
  if (known) return known.name;
  const holder = holderName(scene, address);
  if (address.length <= holderOf(address).length) return holder;
  const words = address[address.length - 1].replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);
  return `${words} of ${holder}`;
}

const isThere = (scene: Scene, list: ListName, id: string): boolean =>
  (scene[list] as unknown as Record<string, unknown>[]).some((e) => e[keyedLists[list]] === id);
