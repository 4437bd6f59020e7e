import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import type { RunDescription } from '../model/run.ts';
import { z } from '../model/schema.ts';
import type { Scene } from '../scene/document.ts';
import { LONGEST_REEL } from '../scene/reel/lane.ts';
import { sceneAt } from './scene-at.ts';

/** Which picture of a scene is meant: a step, and where in its cycle it is; or a time of its film, in seconds. */
export const pictureAtSchema = z.union([
  z.object({
    step: wholeNumber().min(0),
    /** How far on it is to the next. */
    onward: boundedNumber().min(0).lt(1).optional(),
    /** Null for where the scene has it. */
    phase: boundedNumber().min(0).max(360).nullable().optional(),
  }),
  z.object({ film: boundedNumber().min(0).max(LONGEST_REEL) }),
]);

export type PictureAt = z.infer<typeof pictureAtSchema>;

/**
 * The scene of a picture: what is drawn is this and nothing else.
 *
 * @throws Error in words when the run has no such step
 */
export function sceneOfPicture(scene: Scene, run: RunDescription, at: PictureAt): Scene {
  if ('film' in at) return sceneAt(scene, run, at.film);
  const { length } = run.steps;
  if (at.step >= length) throw new Error(`The run has ${length} steps: there is no step ${at.step + 1}`);
  const phase = at.phase ?? scene.cycle.phase;
  return { ...scene, step: at.step, onward: at.onward ?? 0, cycle: { ...scene.cycle, phase } };
}
