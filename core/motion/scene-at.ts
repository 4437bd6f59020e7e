import type { RunDescription } from '../model/run.ts';
import { sameJson } from '../model/same-json.ts';
import { type Address, type Keyable, write } from '../scene/addresses.ts';
import { caption } from '../scene/annotations/caption.ts';
import type { Annotation, Camera, Lane, Scene } from '../scene/document.ts';
import { fitsAt } from '../scene/fitting.ts';
import { keptLookSchema, type Look, readLook } from '../scene/looks/look.ts';
import { lookSettingOf, withLook } from '../scene/looks/wear-look.ts';
import { sameAddress } from '../scene/reel/lane.ts';
import { captionSpans } from '../scene/reel/marker.ts';
import { CameraStretches } from './camera-stretches.ts';
import { eased } from './easing.ts';
import { addressKey, keyedValues, LOOK, TIME } from './keyed-values.ts';
import { placesOf, stateAt } from './time-map.ts';
import { valueName } from './value-names.ts';

/** Why the keys of a lane are passed over, and what to do. */
export interface LaneTrouble {
  lane: string;
  /** What it moves, in words. */
  moves: string;
  says: string;
}

/** Lanes in the order in which they act: a look before single values, a whole camera before what it looks at. */
const rankOf = ({ of }: Lane): number => (sameAddress(of, LOOK) ? 0 : of.length === 1 ? 1 : 2);

interface ReadyLane {
  lane: Lane;
  keyed: Keyable;
  /** Of the camera. */
  stretches: CameraStretches | null;
}

interface ReadyReel {
  lanes: ReadyLane[];
  troubles: LaneTrouble[];
}

const ready = new WeakMap<Scene, ReadyReel>();

/** The lanes of a scene that act, and why the others do not. */
function readyReel(scene: Scene, run: RunDescription): ReadyReel {
  const found = ready.get(scene);
  if (found) return found;
  const values = keyedValues(scene, run);
  const taken = new Set<string>();
  const troubles: LaneTrouble[] = [];
  const lanes: ReadyLane[] = [];
  for (const lane of scene.lanes.filter((l) => !l.off)) {
    const key = addressKey(lane.of);
    const keyed = values.get(key);
    const says = taken.has(key)
      ? 'Another lane moves the same; it is passed over. Switch one of the two off.'
      : keyed
        ? troubleOfKeys(lane, scene)
        : 'What it moves is gone, or is of another kind now. Delete it, or bring back what it moved.';
    if (says !== null) {
      troubles.push({ lane: lane.id, moves: valueName(scene, run, lane.of), says });
      continue;
    }
    taken.add(key);
    const stretches = sameAddress(lane.of, ['camera']) ? new CameraStretches(lane) : null;
    lanes.push({ lane, keyed: keyed!, stretches });
  }
  lanes.sort((a, b) => rankOf(a.lane) - rankOf(b.lane));
  const made = { lanes, troubles };
  ready.set(scene, made);
  return made;
}

function troubleOfKeys({ of, keys }: Lane, scene: Scene): string | null {
  const at = keys.findIndex(({ value }) => !fitsKey(of, value, scene));
  return at < 0
    ? null
    : `Its key ${at + 1}, at ${Number(keys[at].at.toPrecision(4))} s, holds what cannot stand there. Set that key anew or delete it.`;
}

function fitsKey(of: Address, value: unknown, scene: Scene): boolean {
  if (sameAddress(of, TIME)) return typeof value === 'number' && Number.isFinite(value);
  if (sameAddress(of, LOOK)) return keptLookSchema.safeParse(value).success;
  return fitsAt(scene, of, value);
}

/** What of the lanes of a scene cannot act on it, in words. */
export const laneTroubles = (scene: Scene, run: RunDescription): readonly LaneTrouble[] =>
  readyReel(scene, run).troubles;

/** The value of a lane at a time of the film: before its first key that of the first, behind its last that of the last. */
function laneValue({ lane, keyed, stretches }: ReadyLane, at: number): unknown {
  const { keys } = lane;
  const last = keys.length - 1;
  if (at <= keys[0].at) return keys[0].value;
  if (at >= keys[last].at) return keys[last].value;
  let i = 0;
  while (keys[i + 1].at <= at) i++;
  const [from, to] = [keys[i], keys[i + 1]];
  const share = eased(from.ease, (at - from.at) / (to.at - from.at));
  return stretches?.at(i, at) ?? keyed.between(from.value, to.value, share);
}

/**
 * A scene as its film shows it at a time: every lane acts, and what has no lane stays as it is. The given scene is left
 * alone; what cannot act is told by `laneTroubles`.
 *
 * @param at in seconds from the beginning of the film
 */
export function sceneAt(scene: Scene, run: RunDescription, at: number): Scene {
  let state = scene;
  for (const one of readyReel(scene, run).lanes) state = acted(state, one, run, at);
  return withCaption(state, at);
}

/** Of the words that stand for a caption while it is shown: they are no words of the scene, and not changed as such. */
export const CAPTION_OF_FILM = 'caption of the film';

/** The caption of a marker that is shown at a time, on the picture where the film has it there. */
function withCaption(state: Scene, at: number): Scene {
  const { reel, markers } = state;
  if (reel.captions !== 'picture') return state;
  const shown = captionSpans(markers, reel.seconds).find(({ from, to }) => at >= from && at < to);
  if (!shown) return state;
  const words = {
    ...caption.plain,
    id: CAPTION_OF_FILM,
    kind: caption.id,
    visible: true,
    text: shown.marker.caption,
  };
  return { ...state, annotations: [...state.annotations, words as Annotation] };
}

function acted(state: Scene, one: ReadyLane, run: RunDescription, at: number): Scene {
  const { of, keys } = one.lane;
  const value = laneValue(one, at);
  if (sameAddress(of, TIME))
    return { ...state, ...stateAt(placesOf(run), value as number, state.reel.between) };
  if (sameAddress(of, LOOK)) return withLook(state, lookOf(value), lookSettingOf(run)).scene;
  // What goes beyond its keys may leave what is possible: then it stays at the nearer key.
  const beyond = !keys.some((k) => k.value === value) && !fitsAt(state, of, value);
  return write(state, of, beyond ? nearer(one, at) : value);
}

function nearer({ lane: { keys } }: ReadyLane, at: number): unknown {
  return keys.reduce((best, k) => (Math.abs(k.at - at) < Math.abs(best.at - at) ? k : best)).value;
}

const looks = new WeakMap<object, Look>();

function lookOf(value: unknown): Look {
  const found = looks.get(value as object);
  if (found) return found;
  const { look } = readLook(value);
  looks.set(value as object, look);
  return look;
}

/**
 * What the lanes that act say at a time, each beside what it moves, in words.
 *
 * @returns `jumps` where all of its changes are sudden: cuts, switches and choices
 */
export const valuesOfLanes = (
  scene: Scene,
  run: RunDescription,
  at: number,
): { moves: string; value: unknown; jumps: boolean }[] =>
  readyReel(scene, run).lanes.map((one) => ({
    moves: one.keyed.name,
    value: laneValue(one, at),
    jumps: alwaysJumps(one),
  }));

function alwaysJumps({ lane: { keys }, keyed }: ReadyLane): boolean {
  const ways = keys.slice(1).map((to, i) => ({ from: keys[i], to }));
  const changes = ways.filter(({ from, to }) => !sameJson(from.value, to.value));
  const sudden = ({ from, to }: (typeof ways)[number]): boolean => {
    const middle = keyed.between(from.value, to.value, 0.5);
    return from.ease.kind === 'hold' || sameJson(middle, from.value) || sameJson(middle, to.value);
  };
  return changes.length > 0 && changes.every(sudden);
}

/**
 * The camera of a film at some times, without what else moves.
 *
 * @param times in seconds from the beginning of the film
 */
export function camerasOfFilm(scene: Scene, run: RunDescription, times: readonly number[]): Camera[] {
  const lanes = readyReel(scene, run).lanes.filter(({ lane }) => lane.of[0] === 'camera');
  return times.map((at) => lanes.reduce((state, one) => acted(state, one, run, at), scene).camera);
}

/** Where along the steps of its run a film is at a time; null where it has no lane for that. */
export function timeOfRun(scene: Scene, run: RunDescription, at: number): number | null {
  const lane = readyReel(scene, run).lanes.find((one) => sameAddress(one.lane.of, TIME));
  return lane ? (laneValue(lane, at) as number) : null;
}

/** Whether a scene has a film: something in it moves. */
export const hasFilm = ({ lanes }: Scene): boolean => lanes.some((l) => !l.off && l.keys.length > 0);
