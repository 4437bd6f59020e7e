import { type RunDescription, viewArray } from '#core/model/run.ts';
import { loadFromServer } from '#engine/array-source.ts';
import type { PartAnswer } from '#engine/gauge-answers.ts';
import type { GeometryAnswer, GeometryRequest } from '#engine/geometry-maker.ts';
import type { MeasureRequest } from '#engine/measuring.ts';
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
    {
      decode: async ({ type, bytes }) =>
        createImageBitmap(new Blob([await loadFromServer('')(bytes)], { type }), {
          premultiplyAlpha: 'none',
        }),
      askRange: askRange(id),
      signal,
      measure: (requests, slot, spread, own) =>
        measuredInLanes(requests, (of, lane) =>
          pool.run<PartAnswer[]>(of, {
            lane: spread === 0 ? lane : `${lane}#${spread}`,
            slot: slot === null ? undefined : `${slot}/${lane}`,
            signal: own ?? signal(),
          }),
        ),
      column: async (values) => viewArray(values.type, await loadFromServer('')(values)),
    },
  );
}

/** Requests sorted by the worker that holds their meshes, each of which gets one message; answers in their old order. */
async function measuredInLanes(
  requests: readonly MeasureRequest[],
  ask: (requests: MeasureRequest[], lane: string) => Promise<PartAnswer[]>,
): Promise<PartAnswer[]> {
  const lanes = new Map<string, number[]>();
  for (const [i, { of }] of requests.entries()) {
    const lane = partsKey(of.parts);
    lanes.set(lane, [...(lanes.get(lane) ?? []), i]);
  }
  const out = new Array<PartAnswer>(requests.length);
  await Promise.all(
    [...lanes].map(async ([lane, own]) => {
      const answers = await ask(
        own.map((i) => requests[i]),
        lane,
      );
      for (const [k, i] of own.entries()) out[i] = answers[k];
    }),
  );
  return out;
}
