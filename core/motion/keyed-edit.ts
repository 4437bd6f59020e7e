import type { RunDescription } from '../model/run.ts';
import { sameJson } from '../model/same-json.ts';
import { type Address, keyable, read, write } from '../scene/addresses.ts';
import type { Scene } from '../scene/document.ts';
import { applyEdit, type Edit } from '../scene/edits.ts';
import { KEY_GAP, sameAddress } from '../scene/reel/lane.ts';
import { isReelEdit } from '../scene/reel/reel-edits.ts';
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
  const own = changed.filter(({ address }) => moves(address));
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

/** Whether a value moves in the film of a scene, and has a key at a time. */
export function keysOfValue(scene: Scene, of: Address, at: number): 'none' | 'moves' | 'key here' {
  const lane = scene.lanes.find((l) => sameAddress(l.of, of));
  if (!lane) return 'none';
  return lane.keys.some((k) => Math.abs(k.at - at) < KEY_GAP) ? 'key here' : 'moves';
}
