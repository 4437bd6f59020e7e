import type { RunDescription } from '../model/run.ts';
import { type Address, read } from '../scene/addresses.ts';
import type { Scene } from '../scene/document.ts';
import { calledInList, isList } from '../scene/keyed-lists.ts';
import { sayAddress } from '../scene/reel/reel-script.ts';
import { addressKey, keyedValues } from './keyed-values.ts';

/** What a value belongs to: an element of a list, a part, or a thing of which a scene has one. */
export const holderOf = (address: Address): Address =>
  isList(address[0]) || address[0] === 'parts' ? address.slice(0, 2) : address.slice(0, 1);

/** What that is called: `line 2`, or `a deleted line`. */
export function holderName(scene: Scene, address: Address): string {
  const [list] = address;
  const holder = holderOf(address);
  if (!isList(list) || read(scene, holder) !== undefined) return sayAddress(scene, holder);
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

/** What a value is called where it stands below the name of what it belongs to: `opacity`, `factor of deformed shape`. */
export function nameWithin(scene: Scene, run: RunDescription, address: Address): string {
  const name = valueName(scene, run, address);
  const holder = holderName(scene, address);
  const said = [` of ${holder}`, ` of the ${holder}`].find((end) => name.endsWith(end));
  return said ? name.slice(0, -said.length) : name;
}
