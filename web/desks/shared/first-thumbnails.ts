import type { RunDescription } from '#core/model/run.ts';
import { readScene } from '#core/scene/document.ts';
import { ask } from '#engine/server-requests.ts';
import type { WorkerPool } from '#engine/worker-pool.ts';
import { PROOF_PASSES } from '#stage/pictures/render-picture.ts';
import { Stage } from '#stage/stage.ts';
import { drawnThumbnail } from '#web/desks/shared/drawn-thumbnail.ts';
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
  const source = pooledSource(description, pool, run, () => signal);
  return drawnThumbnail(stage, source, scene, { passes: PROOF_PASSES, signal });
}
