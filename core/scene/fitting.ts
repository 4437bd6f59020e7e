import { understood } from '../ops/chain/understood.ts';
import { type Address, read, write } from './addresses.ts';
import { type Layer, type Scene, sceneSchema } from './document.ts';
import { isList, keyedLists } from './keyed-lists.ts';

type Holder = Record<string, unknown>;

const { shape } = sceneSchema;

/**
 * Whether a scene would still be one with a value at an address: only what holds the value is looked at.
 *
 * @param scene one that is valid
 */
export function fitsAt(scene: Scene, address: Address, value: unknown): boolean {
  const [first, key, , step] = address;
  if (read(scene, address) === undefined) return false;
  const written = write(scene, address, value);
  const schema = shape[first as keyof typeof shape];
  const holder = written[first as keyof Scene] as unknown;
  if (!isList(first)) return schema.safeParse(holder).success;
  const element = (holder as Holder[]).find((e) => e[keyedLists[first]] === key);
  if (!schema.safeParse([element]).success) return false;
  const changed = step && (element as unknown as Layer).chain?.find((s) => s.id === step);
  // Options are known to their operation only.
  if (!changed) return true;
  const known = understood(changed);
  return known?.operation.schema.safeParse(changed.options).success ?? false;
}
