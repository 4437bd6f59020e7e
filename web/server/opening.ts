import type { RunDescription } from '#core/model/run.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { USUAL_LOOK } from '#core/scene/looks/registry.ts';
import { lookSettingOf, withLook } from '#core/scene/looks/wear-look.ts';
import { type JobContext, quietContext } from './jobs/job-kind.ts';
import { arraysFolder } from './paths.ts';
import { inReader } from './reading-work.ts';
import { lookById, lookOfNewScenes } from './styles.ts';

export interface Opening {
  /** With what was found out about it on the way. */
  run: RunDescription;
  scene: Scene;
}

/**
 * The scene a run opens with, in the look that was chosen for new ones; see `openingScene`. Finding the best view costs nobody the run: where it fails there is the
 * plain one.
 *
 * @param signal of the work it is a part of
 */
export async function openingOf(run: RunDescription, at: Partial<JobContext> = {}): Promise<Opening> {
  const found = await plainOpening(run, at);
  const look = await lookOfNewScenes().then((id) => (id === USUAL_LOOK ? null : lookById(id)));
  return look ? { ...found, scene: withLook(found.scene, look, lookSettingOf(found.run)).scene } : found;
}

async function plainOpening(run: RunDescription, at: Partial<JobContext>): Promise<Opening> {
  try {
    const context = { ...quietContext(), ...at, progress: () => undefined };
    return await inReader<Opening>({ kind: 'opening', run, arrays: arraysFolder }, context);
  } catch (error) {
    at.signal?.throwIfAborted();
    console.error(`No view was found for ${run.name}:`, error);
    return { run, scene: defaultScene(run) };
  }
}
