import { GrowingUint32 } from '../../model/arrays.ts';
import { HEXAHEDRON, POLYHEDRON, PYRAMID, TETRA, WEDGE } from '../../model/cell-types.ts';
import type { RawMesh } from '../format.ts';

/**
 * Cells given by their faces, as finite-volume codes store them. Cells that are tetrahedra, pyramids, wedges or
 * hexahedra by their faces become such; all others are polyhedra.
 *
 * @param facesOf the faces of each cell, cell after cell, behind `cellStarts`
 * @param faceNodes the nodes of each face, face after face, behind `faceStarts`
 */
export function cellsOfFaces(
  cellStarts: Uint32Array,
  facesOf: Uint32Array,
  faceStarts: Uint32Array,
  faceNodes: Uint32Array,
): Omit<RawMesh, 'points'> {
  const cells = cellStarts.length - 1;
  const types = new Uint8Array(cells);
  const offsets = new Uint32Array(cells + 1);
  const nodes = new GrowingUint32(cells * 8 + 8);
  const stream = new GrowingUint32(1024);
  const starts = new Uint32Array(cells + 1);
  for (let c = 0; c < cells; c++) {
    const faces: Uint32Array[] = [];
    for (let i = cellStarts[c]; i < cellStarts[c + 1]; i++)
      faces.push(faceNodes.subarray(faceStarts[facesOf[i]], faceStarts[facesOf[i] + 1]));
    const simple = simpleCell(faces);
    if (simple) {
      types[c] = simple.type;
      for (const n of simple.nodes) nodes.push(n);
    } else {
      types[c] = POLYHEDRON;
      const own = new Set<number>();
      for (const face of faces) {
        stream.push(face.length);
        for (const n of face) {
          stream.push(n);
          own.add(n);
        }
      }
      for (const n of own) nodes.push(n);
    }
    offsets[c + 1] = nodes.length;
    starts[c + 1] = stream.length;
  }
  return {
    types,
    offsets,
    connectivity: nodes.toArray(),
    polyhedra: stream.length > 0 ? { faces: stream.toArray(), starts } : null,
  };
}

function simpleCell(faces: Uint32Array[]): { type: number; nodes: number[] } | null {
  const triangles = faces.filter((f) => f.length === 3);
  const quads = faces.filter((f) => f.length === 4);
  if (triangles.length + quads.length !== faces.length) return null;
  if (quads.length === 0 && triangles.length === 4) return withApex(TETRA, triangles[0], faces, 4);
  if (quads.length === 1 && triangles.length === 4) return withApex(PYRAMID, quads[0], faces, 5);
  if (quads.length === 3 && triangles.length === 2) return withTop(WEDGE, triangles[0], faces, 6);
  if (quads.length === 6 && triangles.length === 0) return withTop(HEXAHEDRON, quads[0], faces, 8);
  return null;
}

function withApex(
  type: number,
  base: Uint32Array,
  faces: Uint32Array[],
  size: number,
): { type: number; nodes: number[] } | null {
  const all = new Set(faces.flatMap((f) => [...f]));
  const apex = [...all].filter((n) => !base.includes(n));
  return all.size === size && apex.length === 1 ? { type, nodes: [...base, apex[0]] } : null;
}

/** The node above each node of the base is its neighbour on a side face that is not in the base. */
function withTop(
  type: number,
  base: Uint32Array,
  faces: Uint32Array[],
  size: number,
): { type: number; nodes: number[] } | null {
  const above = new Map<number, number>();
  for (const face of faces) {
    if (face === base) continue;
    for (let k = 0; k < face.length; k++) {
      const a = face[k];
      const b = face[(k + 1) % face.length];
      if (base.includes(a) && !base.includes(b)) above.set(a, b);
      if (base.includes(b) && !base.includes(a)) above.set(b, a);
    }
  }
  const top = [...base].map((n) => above.get(n));
  if (top.some((n) => n === undefined)) return null;
  const nodes = [...base, ...(top as number[])];
  return new Set(nodes).size === size ? { type, nodes } : null;
}
