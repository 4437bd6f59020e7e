import type { RunDescription } from '#core/model/run.ts';
import { OPENING_ASPECT } from '#core/scene/default-scene.ts';
import { readScene } from '#core/scene/document.ts';
import { ask } from '#engine/server-requests.ts';
import type { WorkerPool } from '#engine/worker-pool.ts';
import { developed } from '#stage/pictures/develop.ts';
import { PROOF_PASSES } from '#stage/pictures/render-picture.ts';
import { Stage } from '#stage/stage.ts';
import { developScene } from '#web/desks/give-out/darkroom.ts';
import { asThumbnail, THUMBNAIL_WIDTH } from '#web/desks/shared/thumbnails.ts';
import { geometryPool, pooledSource } from '#web/desks/stage/geometry-pool.ts';
import type { SavedScene } from '#web/server/saved-scenes.ts';

/** A scene whose small picture is lacking. */
export type Undrawn = Pick<SavedScene, 'id' | 'run'>;

/**
 * Draws the small pictures of scenes nobody has opened yet, one after another, and keeps them. One that cannot be
 * drawn is left out: opening it says why.
 *
 * @param drawn told of each as it is there
 */
export async function drawMissing(
  scenes: readonly Undrawn[],
  signal: AbortSignal,
  drawn: (scene: string, thumbnail: string) => void,
): Promise<void> {
  const stage = stageOrNull();
  if (!stage) return;
  const pool = geometryPool();
  try {
    for (const scene of scenes) {
      if (signal.aborted) return;
      const thumbnail = await drawOne(stage, pool, scene, signal).catch(() => null);
      if (thumbnail === null || signal.aborted) continue;
      await ask(`/api/scenes/${scene.id}/thumbnail`, { method: 'PUT', json: { thumbnail } }).catch(
        () => undefined,
      );
      drawn(scene.id, thumbnail);
    }
  } finally {
    pool.close();
    stage.dispose();
  }
}

/** Without WebGL 2 there is no picture; the stage says so when a scene is opened. */
function stageOrNull(): Stage | null {
  try {
    return new Stage(document.createElement('canvas'));
  } catch {
    return null;
  }
}

async function drawOne(
  stage: Stage,
  pool: WorkerPool,
  { id, run }: Undrawn,
  signal: AbortSignal,
): Promise<string> {
  const [{ document: saved }, { description }] = await Promise.all([
    ask<{ document: unknown }>(`/api/scenes/${id}`),
    ask<{ description: RunDescription }>(`/api/runs/${run}`),
  ]);
  const scene = readScene(saved);
  const width = THUMBNAIL_WIDTH;
  const picture = await developScene(
    stage,
    pooledSource(description, pool, run, () => signal),
    scene,
    scene.step,
    {
      width,
      height: Math.round(width / (scene.picture.aspect ?? OPENING_ASPECT)),
      transparent: false,
      passes: PROOF_PASSES,
      signal,
    },
  );
  return asThumbnail(await developed({ ...picture, words: null }));
}
