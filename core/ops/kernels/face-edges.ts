import { GrowingUint32 } from '../../model/arrays.ts';
import { cellTypes, edgesOf, LINE, POLYHEDRON } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { PairTable } from '../../model/pair-table.ts';
import { copyOf } from '../../model/recipe.ts';
import type { OperationResult } from '../chain/operation.ts';

/** Every edge of a mesh: its points, its first two cells and how many faces have it; none for a line that is free. */
export interface FaceEdges {
  ends: Uint32Array;
  first: Uint32Array;
  second: Uint32Array;
  uses: Uint32Array;
}

/** Edges of surface cells, lines as edges of their own; with `volumes` those of volume cells too. */
export function faceEdges(mesh: Mesh, volumes = false): FaceEdges {
  const { types, offsets, connectivity, polyhedra } = mesh;
  const table = new PairTable(4096);
  const first = new GrowingUint32();
  const second = new GrowingUint32();
  const uses = new GrowingUint32();
  const add = (a: number, b: number, cell: number, use = 1): void => {
    if (a === b) return;
    const { count } = table;
    const e = table.at(Math.min(a, b), Math.max(a, b));
    if (e === count) {
      first.push(cell);
      second.push(cell);
      uses.push(use);
    } else {
      if (uses.data[e] === 1) second.data[e] = cell;
      uses.data[e] += use;
    }
  };
  const loop = (n: number, node: (k: number) => number, cell: number): void => {
    for (let k = 0; k < n; k++) add(node(k), node((k + 1) % n), cell);
  };
  for (let c = 0; c < types.length; c++) {
    const type = cellTypes.get(types[c])!;
    const from = offsets[c];
    const n = type.corners || offsets[c + 1] - from;
    if (type.dimension === 2) {
      if (type.name === 'strip')
        for (let i = 0; i + 2 < n; i++) loop(3, (k) => connectivity[from + i + k], c);
      else loop(n, (k) => connectivity[from + (type.loop.length > 0 ? type.loop[k] : k)], c);
    } else if (type.dimension === 1) {
      for (let k = 0; k + 1 < n; k++) add(connectivity[from + k], connectivity[from + k + 1], c, 0);
    } else if (type.dimension === 3 && volumes) {
      if (type.id === POLYHEDRON) {
        const { faces, starts } = polyhedra!;
        for (let f = starts[c]; f < starts[c + 1]; f += faces[f] + 1)
          loop(faces[f], (k) => faces[f + 1 + k], c);
      } else for (const [a, b] of edgesOf(type)) add(connectivity[from + a], connectivity[from + b], c);
    }
  }
  return {
    ends: table.toArray(),
    first: first.toArray(),
    second: second.toArray(),
    uses: uses.toArray(),
  };
}

/** Some of the edges as lines, with just the points they use. */
export function edgeLines(mesh: Mesh, edges: FaceEdges, wanted: (edge: number) => boolean): OperationResult {
  const { ends, first } = edges;
  const place = new Int32Array(mesh.points.length / 3).fill(-1);
  const used = new GrowingUint32();
  const nodes = new GrowingUint32();
  const cells = new GrowingUint32();
  for (let e = 0; e < first.length; e++) {
    if (!wanted(e)) continue;
    for (const p of [ends[2 * e], ends[2 * e + 1]]) {
      if (place[p] < 0) {
        place[p] = used.length;
        used.push(p);
      }
      nodes.push(place[p]);
    }
    cells.push(first[e]);
  }
  const index = used.toArray();
  const points = new Float32Array(3 * index.length);
  for (let i = 0; i < index.length; i++)
    for (let k = 0; k < 3; k++) points[3 * i + k] = mesh.points[3 * index[i] + k];
  return {
    mesh: {
      points,
      types: new Uint8Array(cells.length).fill(LINE),
      offsets: Uint32Array.from({ length: cells.length + 1 }, (_, i) => 2 * i),
      connectivity: nodes.toArray(),
    },
    recipe: { points: copyOf(index), cells: copyOf(cells.toArray()) },
  };
}
