import type { SceneToWrite } from '#core/formats/surfaces/scene-to-write.ts';
import { WorkerPool, type WorkerPort } from '#engine/worker-pool.ts';

/** Writes a scene as bodies in a format by its id, away from the page; see `sceneWriters`. */
export async function writeBodies(
  scene: SceneToWrite,
  format: string,
  packed: boolean,
  signal: AbortSignal,
): Promise<Uint8Array<ArrayBuffer>> {
  const pool = new WorkerPool(
    () =>
      new Worker(new URL('./write-bodies-worker.ts', import.meta.url), {
        type: 'module',
      }) as unknown as WorkerPort,
    1,
  );
  try {
    return await pool.run<Uint8Array<ArrayBuffer>>({ scene, format, packed }, { signal });
  } finally {
    pool.close();
  }
}
