import type { RunDescription } from '../model/run.ts';
import { sameJson } from '../model/same-json.ts';
import type { Scene } from '../scene/document.ts';
import { spanOfReel } from '../scene/things/reel.ts';
import { sceneAt } from './scene-at.ts';

/** A picture is put together of so many moments at most: more are not told apart. */
export const MOST_MOMENTS = 16;

const bare = new WeakMap<Scene, Scene>();

/** Words are those of the time of the picture: a caption that begins meanwhile moves nothing. */
function withoutCaptions(scene: Scene): Scene {
  if (scene.markers.length === 0) return scene;
  const made = bare.get(scene) ?? { ...scene, markers: [] };
  bare.set(scene, made);
  return made;
}

/**
 * The scenes of the moments over which a picture of a film is exposed: evenly spread from its own time on, for the share of
 * the time of a picture that the shutter is open. Where a film goes round, its end is followed by its beginning.
 *
 * @param at of the picture, in seconds from the beginning of the film
 * @param passes that the picture is drawn with: each moment has one at least
 * @returns none where the shutter leaves no blur, or nothing moves meanwhile
 */
export function exposedScenes(scene: Scene, run: RunDescription, at: number, passes: number): Scene[] {
  const { reel } = scene;
  const count = Math.min(MOST_MOMENTS, passes);
  const open = reel.shutter / 360 / reel.rate;
  if (open === 0 || count < 2) return [];
  const { from, to } = spanOfReel(reel);
  const moving = withoutCaptions(scene);
  const scenes = Array.from({ length: count }, (_, k) => {
    const moment = at + ((k + 0.5) / count) * open;
    return sceneAt(moving, run, reel.loop && moment >= to ? moment - (to - from) : moment);
  });
  return scenes.every((one) => sameJson(one, scenes[0])) ? [] : scenes;
}
