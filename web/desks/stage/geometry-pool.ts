import type { RunDescription } from '#core/model/run.ts';
import { loadFromServer } from '#engine/array-source.ts';
import type { GeometryAnswer, GeometryRequest } from '#engine/geometry-maker.ts';
import { partsKey } from '#engine/part-sources.ts';
import { SceneSource } from '#engine/scene-source.ts';
import { WorkerPool, type WorkerPort } from '#engine/worker-pool.ts';
import { askRange } from '#web/desks/shared/ask-range.ts';

/** The pool of the page's geometry workers. */
export function geometryPool(): WorkerPool {
  const make = (): WorkerPort =>
    new Worker(new URL('../../../engine/geometry-worker.ts', import.meta.url), {
      type: 'module',
    }) as unknown as WorkerPort;
  return new WorkerPool(make, Math.max(1, Math.min(4, (navigator.hardwareConcurrency ?? 2) - 1)));
}

/**
 * The scene source of a run over a worker pool.
 *
 * @param id of the run, for ranges the server computes
 */
export function pooledSource(
  run: RunDescription,
  pool: WorkerPool,
  id: string,
  signal: () => AbortSignal | undefined = () => undefined,
): SceneSource {
  return new SceneSource(
    run,
    (request: GeometryRequest, slot: string) =>
      pool.run<GeometryAnswer>(request, { lane: partsKey(request.parts), slot, signal: signal() }),
    async ({ type, bytes }) =>
      createImageBitmap(new Blob([await loadFromServer('')(bytes)], { type }), { premultiplyAlpha: 'none' }),
    askRange(id),
    signal,
  );
}
