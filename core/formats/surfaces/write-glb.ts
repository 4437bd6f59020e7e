import { Document, WebIO } from '@gltf-transform/core';
import { trianglesOf } from '../cells/triangles.ts';
import type { PartToWrite } from '../part-to-write.ts';

/** Writes GLB: a node for each part; scalar and vector fields on points become attributes named `_FIELD`. */
export async function writeGlb(parts: PartToWrite[]): Promise<Uint8Array> {
  const document = new Document();
  const buffer = document.createBuffer();
  const scene = document.createScene('results');
  for (const { name, mesh, fields } of parts) {
    const accessor = (data: Float32Array | Uint32Array, type: 'SCALAR' | 'VEC2' | 'VEC3') =>
      document
        .createAccessor()
        .setType(type)
        .setArray(data as Float32Array<ArrayBuffer>)
        .setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor(Float32Array.from(mesh.points), 'VEC3'))
      .setIndices(accessor(Uint32Array.from(trianglesOf(mesh).corners), 'SCALAR'));
    for (const f of fields) {
      if (f.location !== 'point' || f.components > 3) continue;
      const type = (['SCALAR', 'VEC2', 'VEC3'] as const)[f.components - 1];
      primitive.setAttribute(
        `_${f.name.replace(/[^\w]+/g, '_').toUpperCase()}`,
        accessor(Float32Array.from(f.data), type),
      );
    }
    scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)));
  }
  return new WebIO().writeBinary(document);
}
