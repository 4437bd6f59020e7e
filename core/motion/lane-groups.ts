import type { Lane, Scene } from '../scene/document.ts';
import type { KeyAt } from '../scene/reel/reel-edits.ts';
import { holderName, holderOf } from './value-names.ts';

/** The lanes of one thing of a scene: of a line, of a scale, of the camera. */
export interface LaneGroup {
  /** Tells it from the others, whatever is moved. */
  key: string;
  /** What the thing is called: `line 2`. */
  name: string;
  lanes: Lane[];
}

/** The lanes of a scene by what they belong to, in the order of their first ones. */
export function laneGroups(scene: Scene): LaneGroup[] {
  const groups = new Map<string, LaneGroup>();
  for (const lane of scene.lanes) {
    const holder = holderOf(lane.of);
    const key = holder.join('\n');
    const group = groups.get(key) ?? { key, name: holderName(scene, lane.of), lanes: [] };
    group.lanes.push(lane);
    groups.set(key, group);
  }
  return [...groups.values()];
}

/** The keys of some lanes, those of one time together, in their order. */
export function keysByTime(lanes: readonly Lane[]): { at: number; keys: KeyAt[] }[] {
  const times = new Map<number, KeyAt[]>();
  for (const { id, keys } of lanes)
    for (const { at } of keys) times.set(at, [...(times.get(at) ?? []), { lane: id, at }]);
  return [...times].map(([at, keys]) => ({ at, keys })).sort((a, b) => a.at - b.at);
}
