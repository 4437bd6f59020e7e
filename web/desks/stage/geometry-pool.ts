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
      measure: (requests, slot, spread, own) => {
        const lane = ({ of }: MeasureRequest): string =>
          spread === 0 ? partsKey(of.parts) : `${partsKey(of.parts)}#${spread}`;
        return bySome(
          requests,
          (request) => pool.workerOf(lane(request)),
          (some, worker) =>
            pool.run<PartAnswer[]>(some, {
              lane: lane(some[0]),
              slot: slot === null ? undefined : `${slot}/${worker}`,
              signal: own ?? signal(),
            }),
        );
      },
      column: async (values) => viewArray(values.type, await loadFromServer('')(values)),
    },
  );
}

/** Requests sorted by who answers them, each of whom gets one message; answers in their old order. */
async function bySome<R, A>(
  requests: readonly R[],
  who: (request: R) => number,
  ask: (requests: R[], who: number) => Promise<A[]>,
): Promise<A[]> {
  const sorted = new Map<number, number[]>();
  for (const [i, request] of requests.entries())
    sorted.set(who(request), [...(sorted.get(who(request)) ?? []), i]);
  const out = new Array<A>(requests.length);
  await Promise.all(
    [...sorted].map(async ([one, own]) => {
      const answers = await ask(
        own.map((i) => requests[i]),
        one,
      );
      for (const [k, i] of own.entries()) out[i] = answers[k];
    }),
  );
  return out;
}
