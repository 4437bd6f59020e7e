import type { RunDescription } from '../model/run.ts';
import { sameJson } from '../model/same-json.ts';
import { type Address, keyable, read, write } from '../scene/addresses.ts';
import type { Scene } from '../scene/document.ts';
import { applyEdit, type Edit } from '../scene/edits.ts';
import { KEY_GAP, sameAddress } from '../scene/reel/lane.ts';
import { isReelEdit, type KeyAt } from '../scene/reel/reel-edits.ts';
import { sceneAt } from './scene-at.ts';

/** Edits of the scene as a whole, and of its film: they are made as they are. */
const isOfAll = (edit: Edit): boolean =>
  isReelEdit(edit) || edit.type === 'scene.replace' || edit.type === 'scene.rename';

const isWithin = (address: Address, whole: Address): boolean =>
  whole.length < address.length && whole.every((entry, i) => entry === address[i]);

/**
 * A scene after an edit that was made to it as its film shows it at a time. What has keys gets one there instead of changing the
 * scene behind them; with `keep` so does everything else that can have keys. Lines that come or go do so in the whole film.
 *
 * @param at in seconds from the beginning of the film
 */
export function editedInFilm(
  scene: Scene,
  run: RunDescription,
  at: number,
  edit: Edit,
  keep: boolean,
): Scene {
  if (isOfAll(edit)) return applyEdit(scene, edit);
  const state = sceneAt(scene, run, at);
  const keyed = keyedChanges(scene, state, applyEdit(state, edit), keep);
  const edited = applyEdit(scene, edit);
  if (keyed.length === 0) return edited;
  const behind = keyed.reduce((now, { of }) => write(now, of, read(scene, of)), edited);
  return applyEdit(behind, { type: 'keys.set', at, values: keyed });
}

/** What of a change is set as keys; of a thing that moves as a whole, such as a camera, the whole. */
function keyedChanges(
  scene: Scene,
  state: Scene,
  after: Scene,
  keep: boolean,
): { of: Address; value: unknown }[] {
  const moves = (of: Address): boolean => scene.lanes.some((l) => !l.off && sameAddress(l.of, of));
  const changed = keyable(after).filter(({ address, value }) => {
    const before = read(state, address);
    return before !== undefined && !sameJson(before, value);
  });
  const moved = changed.filter(({ address }) => moves(address));
  // A whole of which nothing but parts with keys of their own is changed needs no key.
  const own = moved.filter(({ address, value }) => {
    const parts = moved.filter((part) => isWithin(part.address, address));
    const made = parts.reduce((now, part) => write(now, part.address, part.value), state);
    return parts.length === 0 || !sameJson(read(made, address), value);
  });
  const out = own.map(({ address, value }) => ({ of: address, value }));
  if (!keep) return out;
  for (const { address, value } of [...changed].sort((a, b) => a.address.length - b.address.length)) {
    const taken = out.some(
      ({ of }) => sameAddress(of, address) || isWithin(address, of) || isWithin(of, address),
    );
    if (!taken) out.push({ of: address, value });
  }
  return out;
}

/** What of the film of a scene moves some values. */
export interface KeysOfValues {
  state: 'none' | 'moves' | 'key here';
  /** The keys at the time that was asked for. */
  keys: KeyAt[];
  /** What keys are set of: the values, or the whole that moves with them, such as a camera. */
  of: Address[];
}

/**
 * Whether values move in the film of a scene, and have keys at a time.
 *
 * @param inParts whether a part of one that moves counts as well
 */
export function keysOfValues(
  scene: Scene,
  values: readonly Address[],
  at: number,
  inParts = false,
): KeysOfValues {
  // What has keys of its own does not go by those of the whole.
  const apart = (v: Address): boolean => scene.lanes.some((lane) => sameAddress(lane.of, v));
  const moving = scene.lanes.filter((lane) =>
    values.some(
      (v) =>
        sameAddress(lane.of, v) || (isWithin(v, lane.of) && !apart(v)) || (inParts && isWithin(lane.of, v)),
    ),
  );
  const keys = moving.flatMap(({ id, keys }) =>
    keys.filter((k) => Math.abs(k.at - at) < KEY_GAP).map((k) => ({ lane: id, at: k.at })),
  );
  const state = moving.length === 0 ? 'none' : keys.length > 0 ? 'key here' : 'moves';
  const wholes = moving.map((lane) => lane.of);
  const free = values.filter((v) => !wholes.some((of) => sameAddress(of, v) || isWithin(v, of)));
  return { state, keys, of: [...wholes, ...free] };
}
