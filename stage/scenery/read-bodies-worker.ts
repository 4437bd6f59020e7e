import dracoProgram from 'draco3dgltf/draco_decoder_gltf.wasm?url';
import { readBodies } from '#core/formats/surfaces/bodies-in-file.ts';
import { bringDracoFrom } from '#core/formats/surfaces/gltf-document.ts';
import type { BodyFile } from '#core/model/body.ts';
import { answerJobs, type WorkerPort } from '#engine/worker-pool.ts';

bringDracoFrom(async () => (await fetch(dracoProgram)).arrayBuffer());

answerJobs(
  self as unknown as WorkerPort,
  (payload) => {
    const { bytes, name } = payload as { bytes: Uint8Array; name: string };
    return readBodies(bytes, name);
  },
  (value) => {
    const { bodies, pictures } = value as BodyFile;
    const arrays = bodies.flatMap((b) => [b.points, b.triangles, b.normals, b.places]);
    const buffers = [...arrays, ...pictures.map((p) => p.bytes)].flatMap((a) =>
      a ? [a.buffer as ArrayBuffer] : [],
    );
    return [...new Set(buffers)];
  },
);
