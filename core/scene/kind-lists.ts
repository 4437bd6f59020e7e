import { annotationKinds } from './annotations/registry.ts';
import { sceneryKinds } from './scenery/registry.ts';
import type { Declaration } from './things/declaration.ts';

/** Something of a list whose elements are of several kinds: what all have in common, and options of its kind. */
export interface OfKind extends Record<string, unknown> {
  id: string;
  kind: string;
  visible: boolean;
  version?: number;
}

// biome-ignore lint/suspicious/noExplicitAny: options are checked by the schema of the kind they belong to
type AnyKind = Declaration<any>;

/**
 * Lists of a scene whose elements are of kinds, each declared in a file of its own. Addresses, scripts, repairs, forms of
 * older versions and changes from elsewhere go through all of them alike. `gone` is what one is called that is not there
 * any more, `begin` what ids made by a script begin with.
 */
export const kindLists = {
  annotations: { kinds: annotationKinds as readonly AnyKind[], gone: 'words that are gone', begin: 'words' },
  scenery: { kinds: sceneryKinds as readonly AnyKind[], gone: 'scenery that is gone', begin: 'scenery' },
} as const;

export type KindList = keyof typeof kindLists;

export const kindListNames = Object.keys(kindLists) as KindList[];

export const isKindList = (name: string): name is KindList => Object.hasOwn(kindLists, name);

/** The kind of an element; undefined for one this version does not have. */
export const kindIn = (list: KindList, kind: unknown): AnyKind | undefined =>
  kindLists[list].kinds.find((k) => k.id === kind);

/** What a list holds. */
export const ofKinds = (scene: Record<KindList, unknown>, list: KindList): OfKind[] =>
  scene[list] as OfKind[];
