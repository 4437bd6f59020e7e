import { cellTypes } from '../../model/cell-types.ts';
import type { PartToWrite } from '../part-to-write.ts';

const safe = (name: string): string => name.replace(/[^\w.-]+/g, '_');

/** Writes binary little-endian PLY; fields become properties of vertices and faces, a number each. */
export function writePly({ mesh, fields }: PartToWrite): Uint8Array {
  const { points, types, offsets, connectivity } = mesh;
  const faces: number[] = [];
  for (let c = 0; c < types.length; c++) if (cellTypes.get(types[c])?.dimension === 2) faces.push(c);
  const columns = fields.flatMap((f) =>
    Array.from({ length: f.components }, (_, k) => ({
      location: f.location,
      name: safe(f.components > 1 ? `${f.name}_${'xyz'[k] ?? k}` : f.name),
      value: (i: number): number => f.data[i * f.components + k],
    })),
  );
  const ofPoints = columns.filter((c) => c.location === 'point');
  const ofCells = columns.filter((c) => c.location === 'cell');
  const lines = [
    'ply',
    'format binary_little_endian 1.0',
    `element vertex ${points.length / 3}`,
    ...['x', 'y', 'z'].map((a) => `property double ${a}`),
    ...ofPoints.map((c) => `property double ${c.name}`),
    `element face ${faces.length}`,
    'property list uchar uint vertex_indices',
    ...ofCells.map((c) => `property double ${c.name}`),
    'end_header\n',
  ];
  const head = new TextEncoder().encode(lines.join('\n'));
  const nodes = (c: number): number => cellTypes.get(types[c])!.corners || offsets[c + 1] - offsets[c];
  const faceBytes = faces.reduce((n, c) => n + 1 + 4 * nodes(c) + 8 * ofCells.length, 0);
  const out = new Uint8Array(head.length + (points.length / 3) * 8 * (3 + ofPoints.length) + faceBytes);
  out.set(head);
  const view = new DataView(out.buffer);
  let at = head.length;
  const double = (v: number): void => {
    view.setFloat64(at, v, true);
    at += 8;
  };
  for (let p = 0; p < points.length / 3; p++) {
    for (let k = 0; k < 3; k++) double(points[3 * p + k]);
    for (const c of ofPoints) double(c.value(p));
  }
  for (const c of faces) {
    const n = nodes(c);
    const { loop } = cellTypes.get(types[c])!;
    view.setUint8(at++, n);
    for (let k = 0; k < n; k++, at += 4) view.setUint32(at, connectivity[offsets[c] + (loop[k] ?? k)], true);
    for (const column of ofCells) double(column.value(c));
  }
  return out;
}
