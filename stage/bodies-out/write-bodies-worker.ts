import type { SceneToWrite } from '#core/formats/surfaces/scene-to-write.ts';
import { sceneWriter } from '#core/formats/surfaces/scene-writers.ts';
import { answerJobs, type WorkerPort } from '#engine/worker-pool.ts';

answerJobs(
  self as unknown as WorkerPort,
  (payload) => {
    const { scene, format, packed } = payload as { scene: SceneToWrite; format: string; packed: boolean };
    return sceneWriter(format).write(scene, packed);
  },
  (bytes) => [(bytes as Uint8Array<ArrayBuffer>).buffer],
);
