import { coarseTriangles } from '#core/model/coarse-triangles.ts';
import type { SurfaceMark } from '#core/model/mark.ts';
import { WorkerPool, type WorkerPort } from '#engine/worker-pool.ts';

/** With more triangles a surface has some that stand for it while something moves, about so many. */
const LARGE = 400_000;
const KEPT = 40_000;

type Surface = Pick<SurfaceMark, 'positions' | 'triangles'>;

/** What the worker is asked for; see `coarseTriangles`. */
export interface CoarseOrder extends Surface {
  most: number;
}

let pool: WorkerPool | null = null;

export const isLarge = ({ triangles }: Surface): boolean => triangles.length > 3 * LARGE;

/** The triangles that stand for a large surface, found away from the page. */
export async function coarseSurface({ positions, triangles }: Surface): Promise<Uint32Array> {
  if (typeof Worker === 'undefined') return coarseTriangles(positions, triangles, KEPT);
  pool ??= new WorkerPool(
    () =>
      new Worker(new URL('./coarse-surface-worker.ts', import.meta.url), {
        type: 'module',
      }) as unknown as WorkerPort,
    1,
  );
  return pool.run<Uint32Array>({ positions, triangles, most: KEPT } satisfies CoarseOrder);
}
