import { coarseTriangles } from '#core/model/coarse-triangles.ts';
import { answerJobs, type WorkerPort } from '#engine/worker-pool.ts';
import type { CoarseOrder } from './coarse-surface.ts';

answerJobs(
  self as unknown as WorkerPort,
  async (payload) => {
    const { positions, triangles, most } = payload as CoarseOrder;
    return coarseTriangles(positions, triangles, most);
  },
  (made) => [(made as Uint32Array<ArrayBuffer>).buffer],
);
