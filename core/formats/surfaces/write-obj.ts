import { cellTypes } from '../../model/cell-types.ts';
import type { PartToWrite } from '../part-to-write.ts';

/** Writes OBJ: each part is a group; fields have no place in the format. */
export function writeObj(parts: Pick<PartToWrite, 'name' | 'mesh'>[]): Uint8Array {
  const lines: string[] = [];
  let base = 1;
  for (const { name, mesh } of parts) {
    const { points, types, offsets, connectivity } = mesh;
    for (let p = 0; p < points.length; p += 3) lines.push(`v ${points[p]} ${points[p + 1]} ${points[p + 2]}`);
    lines.push(`g ${name.replace(/\s+/g, '_')}`);
    for (let c = 0; c < types.length; c++) {
      const type = cellTypes.get(types[c])!;
      if (type.dimension === 0 || type.dimension === 3) continue;
      const n = type.corners || offsets[c + 1] - offsets[c];
      const nodes = Array.from(
        { length: n },
        (_, k) => connectivity[offsets[c] + (type.loop[k] ?? k)] + base,
      );
      lines.push(`${type.dimension === 2 ? 'f' : 'l'} ${nodes.join(' ')}`);
    }
    base += points.length / 3;
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}
