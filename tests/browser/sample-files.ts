import type { RawMesh } from '#core/formats/format.ts';
import { writePvd, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';
import { type UploadFile, upload } from './site.ts';

/** An oven block of 5 x 5 x 5 cells, warming up and with a draught, in `steps` steps of 2 s. */
export function ovenFiles(steps = 5): UploadFile[] {
  const mesh = hexBlock(5, 0.5);
  return Array.from({ length: steps }, (_, n) => {
    const velocity = new Float32Array(mesh.points.length);
    for (let i = 0; i < velocity.length; i += 3) {
      velocity[i] = 1 + 4 * mesh.points[i + 2];
      velocity[i + 2] = n;
    }
    const fields = [
      temperature(mesh, (x, y, z) => 30 + 35 * n + 60 * x + 40 * y * z),
      { name: 'velocity', location: 'point' as const, components: 3, unit: 'm/s', data: velocity },
    ];
    return upload(`oven_${n}.vtu`, writeVtu(mesh, fields, 2 * n, { length: 'm', time: 's' }));
  });
}

/** A flat plate of quads over 0..1 in x and y whose temperature is 100 x. */
export function plate(n = 8): RawMesh {
  const points: number[] = [];
  for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) points.push(i / n, j / n, 0);
  const connectivity: number[] = [];
  for (let j = 0; j < n; j++) {
    for (let i = 0; i < n; i++) {
      const a = j * (n + 1) + i;
      connectivity.push(a, a + 1, a + n + 2, a + n + 1);
    }
  }
  return {
    points: Float32Array.from(points),
    types: new Uint8Array(n * n).fill(9),
    offsets: Uint32Array.from({ length: n * n + 1 }, (_, c) => 4 * c),
    connectivity: Uint32Array.from(connectivity),
  };
}

export function plateFile(): UploadFile {
  const mesh = plate();
  return upload('plate.vtu', writeVtu(mesh, [temperature(mesh, (x) => 100 * x)]));
}

/** The oven as a collection. */
export function ovenCollection(files: UploadFile[]): UploadFile {
  const entries = files.map((f, n) => ({ time: 2 * n, part: 0, name: '', file: f.name }));
  return upload('oven.pvd', new TextEncoder().encode(writePvd(entries)));
}
