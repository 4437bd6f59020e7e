import { type LaneGroup, laneGroups } from '#core/motion/lane-groups.ts';
import type { Lane, Scene } from '#core/scene/document.ts';
import type { KeyAt } from '#core/scene/reel/reel-edits.ts';

/** Height of every row below the ruler, in pixels. */
export const ROW_HEIGHT = 28;

/** A row below the ruler: the name of a thing of which several values move, or a lane. */
export type LaneRow =
  | { kind: 'group'; group: LaneGroup; folded: boolean }
  /** `inset`: it stands below the name of what it belongs to. */
  | { kind: 'lane'; lane: Lane; inset: boolean };

/** The rows of a scene from above, without the lanes of things that are folded. */
export function laneRows(scene: Scene, foldedGroups: readonly string[]): LaneRow[] {
  return laneGroups(scene).flatMap((group): LaneRow[] => {
    const inset = group.lanes.length > 1;
    const folded = inset && foldedGroups.includes(group.key);
    const lanes = group.lanes.map((lane): LaneRow => ({ kind: 'lane', lane, inset }));
    return [...(inset ? [{ kind: 'group' as const, group, folded }] : []), ...(folded ? [] : lanes)];
  });
}

const keysOf = (row: LaneRow): KeyAt[] => {
  const lanes = row.kind === 'lane' ? [row.lane] : row.folded ? row.group.lanes : [];
  return lanes.flatMap(({ id, keys }) => keys.map(({ at }) => ({ lane: id, at })));
};

/** A part of the rows: from one time to another, and from one height below the first row to another, in pixels. */
export interface LaneBox {
  from: number;
  to: number;
  above: number;
  below: number;
}

/** The keys that are seen within a part of the rows; of a folded thing those of all its lanes. */
export function keysInBox(rows: readonly LaneRow[], { from, to, above, below }: LaneBox): KeyAt[] {
  return rows
    .filter((_, i) => (i + 1) * ROW_HEIGHT > above && i * ROW_HEIGHT < below)
    .flatMap(keysOf)
    .filter(({ at }) => at >= from && at <= to);
}
