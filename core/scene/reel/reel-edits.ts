import { sameJson } from '../../model/same-json.ts';
import type { Scene } from '../document.ts';
import { replacedOrAdded } from '../keyed-lists.ts';
import type { SceneThings } from '../things/registry.ts';
import { type Ease, even, hold } from './ease.ts';
import {
  inOrder,
  KEY_GAP,
  type Key,
  type Lane,
  LONGEST_REEL,
  type NewLane,
  sameAddress,
  type Way,
  waysOf,
} from './lane.ts';
import type { Marker } from './marker.ts';

/** A key, by its lane and its time. */
export interface KeyAt {
  lane: string;
  at: number;
}

/** Edits of what moves in the film of a scene. */
export type ReelEdit =
  /** Keys at one time, in lanes of their own where there are none yet. */
  | { type: 'keys.set'; at: number; values: readonly { of: readonly string[]; value: unknown }[] }
  /** `around`: the distance of each from that time is `factor` times as large. */
  | { type: 'keys.move'; keys: readonly KeyAt[]; by: number; around?: number; factor?: number }
  | { type: 'keys.copy'; keys: readonly KeyAt[]; by: number }
  | { type: 'keys.ease'; keys: readonly KeyAt[]; ease: Ease }
  | { type: 'keys.remove'; keys: readonly KeyAt[] }
  | { type: 'lane.change'; id: string; change: Partial<Pick<Lane, 'off' | 'smooth' | 'steady'>> }
  | { type: 'lane.remove'; id: string }
  | { type: 'reel.begin'; beginning: Begun }
  | { type: 'marker.add'; marker: Marker }
  | { type: 'marker.change'; id: string; change: Partial<Omit<Marker, 'id'>> }
  | { type: 'marker.remove'; id: string };

/** Lanes that are laid into those of a scene: of the same values, they take the place of the keys within their time. */
export interface Begun {
  lanes: readonly NewLane[];
  markers?: readonly Marker[];
  reel?: Partial<SceneThings['reel']>;
  /** The lines of the scene from then on, where they change. */
  layers?: Scene['layers'];
}

export const reelEditsSaid: Record<ReelEdit['type'], string> = {
  'keys.set': 'set a key',
  'keys.move': 'move keys',
  'keys.copy': 'copy keys',
  'keys.ease': 'ease keys',
  'keys.remove': 'delete keys',
  'lane.change': 'change a lane',
  'lane.remove': 'delete a lane',
  'reel.begin': 'add a motion',
  'marker.add': 'add a marker',
  'marker.change': 'change a marker',
  'marker.remove': 'delete a marker',
};

export const isReelEdit = (edit: { type: string }): edit is ReelEdit =>
  Object.hasOwn(reelEditsSaid, edit.type);

const within = (at: number): number => Math.min(LONGEST_REEL, Math.max(0, at));
const isAt = (key: Key, at: number): boolean => Math.abs(key.at - at) < KEY_GAP;

export function withReelEdit(scene: Scene, edit: ReelEdit): Scene {
  const { lanes, markers } = scene;
  switch (edit.type) {
    case 'keys.set':
      return edit.values.reduce((now, { of, value }) => withKey(now, of, edit.at, value), scene);
    case 'keys.move': {
      const { by, around = 0, factor = 1 } = edit;
      const moved = (at: number): number => within(around + (at - around) * factor + by);
      return changed(scene, edit.keys, (key) => [{ ...key, at: moved(key.at) }]);
    }
    case 'keys.copy':
      return changed(scene, edit.keys, (key) => [key, { ...key, at: within(key.at + edit.by) }]);
    case 'keys.ease':
      return changed(scene, edit.keys, (key) => [{ ...key, ease: edit.ease }]);
    case 'keys.remove':
      return changed(scene, edit.keys, () => []);
    case 'lane.change':
      return { ...scene, lanes: lanes.map((l) => (l.id === edit.id ? withLaneChange(l, edit.change) : l)) };
    case 'lane.remove':
      return { ...scene, lanes: lanes.filter((l) => l.id !== edit.id) };
    case 'reel.begin':
      return withBegun(scene, edit.beginning);
    case 'marker.add':
      return { ...scene, markers: replacedOrAdded(markers, 'id', edit.marker) };
    case 'marker.change':
      return { ...scene, markers: markers.map((m) => (m.id === edit.id ? { ...m, ...edit.change } : m)) };
    case 'marker.remove':
      return { ...scene, markers: markers.filter((m) => m.id !== edit.id) };
  }
}

/** How all of a lane goes is for its keys too. */
function withLaneChange(lane: Lane, change: Partial<Pick<Lane, 'off' | 'smooth' | 'steady'>>): Lane {
  const changed = { ...lane, ...change };
  if (change.smooth === undefined && change.steady === undefined) return changed;
  return { ...changed, keys: lane.keys.map(({ way, ...key }) => key) };
}

/** A name no other lane of the scene has. */
function freeLane({ lanes }: Scene): string {
  for (let n = lanes.length + 1; ; n++) if (!lanes.some((l) => l.id === `lane-${n}`)) return `lane-${n}`;
}

function withKey(scene: Scene, of: readonly string[], at: number, value: unknown): Scene {
  const lane = scene.lanes.find((l) => sameAddress(l.of, of));
  if (!lane) {
    const keys: Key[] = [{ at: within(at), value, ease: even }];
    const made: Lane = { id: freeLane(scene), of: [...of], off: false, smooth: false, steady: false, keys };
    return { ...scene, lanes: [...scene.lanes, made] };
  }
  // A new key goes on as the one before it does.
  const ease = lane.keys.findLast((k) => k.at <= at + KEY_GAP)?.ease ?? even;
  const there = lane.keys.find((k) => isAt(k, at));
  const keys = inOrder([...lane.keys, { ...there, at: within(at), value, ease }]);
  return { ...scene, lanes: scene.lanes.map((l) => (l === lane ? { ...lane, keys } : l)) };
}

/** The keys that are named, each replaced by others; what lands on another key takes its place, and empty lanes go. */
function changed(scene: Scene, named: readonly KeyAt[], change: (key: Key) => Key[]): Scene {
  const lanes = scene.lanes.flatMap((lane) => {
    const times = named.filter((n) => n.lane === lane.id);
    if (times.length === 0) return [lane];
    const hit = (key: Key): boolean => times.some(({ at }) => isAt(key, at));
    const keys = inOrder([...lane.keys.filter((k) => !hit(k)), ...lane.keys.filter(hit).flatMap(change)]);
    return keys.length > 0 ? [{ ...lane, keys }] : [];
  });
  return { ...scene, lanes };
}

function withBegun(scene: Scene, { lanes, markers = [], reel = {}, layers = scene.layers }: Begun): Scene {
  let next: Scene = {
    ...scene,
    layers,
    reel: { ...scene.reel, ...reel },
    markers: markers.reduce((all, marker) => replacedOrAdded(all, 'id', marker), scene.markers),
  };
  for (const made of lanes) {
    const there = next.lanes.find((l) => sameAddress(l.of, made.of));
    if (!there) {
      const { smooth = false, steady = false, of, keys } = made;
      const lane: Lane = { id: freeLane(next), of: [...of], off: false, smooth, steady, keys: inOrder(keys) };
      next = { ...next, lanes: [...next.lanes, lane] };
      continue;
    }
    const lane = laidInto(there, made, 1 / next.reel.rate);
    next = { ...next, lanes: next.lanes.map((l) => (l === there ? lane : l)) };
  }
  return next;
}

/**
 * The keys of a new motion in those of a lane. What comes before and behind it goes as it did: a motion that ends where the
 * new one begins elsewhere, or begins where it ends elsewhere, keeps its end or its beginning, and between the two is a cut.
 *
 * @param picture how long one picture of the film is shown, in seconds
 */
function laidInto(there: Lane, made: NewLane, picture: number): Lane {
  const keys = inOrder(made.keys);
  const [first, last] = [keys[0], keys[keys.length - 1]];
  const before = there.keys.filter((k) => k.at < first.at - KEY_GAP);
  const behind = there.keys.filter((k) => k.at > last.at + KEY_GAP);
  const way: Way = { smooth: made.smooth ?? false, steady: made.steady ?? false };
  if (before.length + behind.length === 0) return { ...there, ...way, off: false, keys };
  const cut = (value: unknown, at: number): Key | undefined =>
    there.keys.find((k) => isAt(k, at) && !sameJson(k.value, value));
  const ended = cut(first.value, first.at);
  if (ended && before.length > 0 && before[before.length - 1].at < first.at - picture - KEY_GAP)
    before.push({ ...ended, at: first.at - picture, ease: hold });
  const isCamera = sameAddress(there.of, ['camera']);
  if (isCamera) keys[0] = { ...first, way };
  if (behind.length > 0 && keys.length > 1) {
    const { smooth, steady } =
      waysOf(there)[there.keys.findLastIndex((k) => k.at <= last.at + KEY_GAP)] ?? there;
    const onward = isCamera ? { way: { smooth, steady } } : {};
    const begins = cut(last.value, last.at);
    const earlier = last.at - picture;
    if (begins && keys[keys.length - 2].at < earlier - KEY_GAP) {
      keys[keys.length - 1] = { ...last, at: earlier, ease: hold };
      behind.unshift({ ...begins, ...onward });
    } else keys[keys.length - 1] = { ...last, ...onward };
  }
  return { ...there, off: false, keys: inOrder([...before, ...keys, ...behind]) };
}
