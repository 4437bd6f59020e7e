import type { z } from '../../model/schema.ts';
import { backdrop } from './backdrop.ts';
import { checks } from './checks.ts';
import { cycle } from './cycle.ts';
import type { SceneThing } from './declaration.ts';
import { floor } from './floor.ts';
import { focus } from './focus.ts';
import { glow } from './glow.ts';
import { haze } from './haze.ts';
import { ink } from './ink.ts';
import { legends } from './legends.ts';
import { lens } from './lens.ts';
import { light } from './light.ts';
import { lookInside } from './look-inside.ts';
import { pictureShape } from './picture-shape.ts';
import { reel } from './reel.ts';
import { stamp } from './stamp.ts';
import { stretch } from './stretch.ts';
import { upright } from './upright.ts';
import { wipe } from './wipe.ts';

/** What a scene has one of, in the order in which a script says it. A new one is a file beside this and a line here. */
const declared = [
  light,
  floor,
  backdrop,
  haze,
  ink,
  lens,
  focus,
  glow,
  upright,
  stamp,
  legends,
  pictureShape,
  lookInside,
  cycle,
  stretch,
  wipe,
  reel,
  checks,
] as const;

type Declared = (typeof declared)[number];

/** What a scene holds of them, by their ids. */
export type SceneThings = { [T in Declared as T['id']]: z.infer<T['schema']> };

export type ThingId = Declared['id'];

// biome-ignore lint/suspicious/noExplicitAny: values are checked by the schema of the thing they belong to
export type AnySceneThing = SceneThing<any, ThingId>;

export const sceneThings: readonly AnySceneThing[] = declared;

/** Something of each thing, by their ids. */
export const eachThing = <V>(of: (thing: AnySceneThing) => V): Record<ThingId, V> =>
  Object.fromEntries(sceneThings.map((thing) => [thing.id, of(thing)])) as Record<ThingId, V>;

export const isThing = (id: string): id is ThingId => sceneThings.some((t) => t.id === id);

/** @throws Error for a thing this version does not have */
export function sceneThing(id: string): AnySceneThing {
  const found = sceneThings.find((t) => t.id === id);
  if (!found) throw new Error(`There is no setting "${id}" of scenes in this version.`);
  return found;
}
