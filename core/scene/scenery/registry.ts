import { schemaOfKinds } from '../schema-of-kinds.ts';
import { fromFile } from './from-file.ts';
import { loaf } from './loaf.ts';
import { measuringRod } from './measuring-rod.ts';
import { person } from './person.ts';
import type { Placed } from './placed.ts';
import type { SceneryKind } from './scenery-kind.ts';
import { table } from './table.ts';
import { tiles } from './tiles.ts';
import { tin } from './tin.ts';
import { tray } from './tray.ts';
import { trolley } from './trolley.ts';

/** Kinds of scenery, in the order in which they are offered. A new one is a file beside this and a line here. */
const declared = [fromFile, person, table, trolley, tiles, tray, tin, loaf, measuringRod] as const;

export type SceneryId = (typeof declared)[number]['id'];

// biome-ignore lint/suspicious/noExplicitAny: options are checked by the schema of the kind they belong to
export type AnySceneryKind = SceneryKind<any, SceneryId>;

export const sceneryKinds: readonly AnySceneryKind[] = declared as unknown as AnySceneryKind[];

/** A piece of scenery: what all have in common, and beside it the options of its kind. */
export interface Piece extends Placed, Record<string, unknown> {
  id: string;
  kind: SceneryId;
  visible: boolean;
  /** Form of its options; absent for the first. */
  version?: number;
}

/** @throws Error for a kind this version does not have */
export function sceneryKind(id: string): AnySceneryKind {
  const found = sceneryKinds.find((kind) => kind.id === id);
  if (!found) throw new Error(`There is no scenery of the kind "${id}" in this version.`);
  return found;
}

/** Any of them, as a document keeps it. */
export const pieceSchema = schemaOfKinds<Piece>(declared);
