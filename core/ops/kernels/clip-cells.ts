import { GrowingUint32 } from '../../model/arrays.ts';
import {
  type CellType,
  cellTypeById,
  LINE,
  POLYGON,
  POLYHEDRON,
  TRIANGLE,
  VERTEX,
} from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { copyOf, type Gather, weighted } from '../../model/recipe.ts';
import type { OperationInput, OperationResult } from '../chain/operation.ts';
import { crossingCases } from './crossing-cases.ts';
import { EdgeVertices } from './edge-vertices.ts';
import type { Level } from './levels.ts';
import { polyhedronLoops } from './polyhedron-loops.ts';

/**
 * What lies above a level (heights of zero and more), or what lies below it. Cells on one side stay as they are; a
 * volume that is cut becomes a polyhedron of the pieces of its faces and the polygon of the cut, a surface a polygon,
 * a line a piece of itself. Above and below divide every cell in the same way, so the two add up to the whole.
 * Cells with a corner that has no height are left out and counted.
 *
 * @param whole cells are kept uncut when the mean height of their corners is on the side that is kept
 */
export function clipCells(
  input: OperationInput,
  level: Level,
  above: boolean,
  whole = false,
): OperationResult {
  const { mesh } = input;
  const { cells, start } = input.blocks();
  const out = new Remainder(mesh, level, above, whole);
  for (let b = 0; b + 1 < start.length; b++) {
    level.look(b);
    if (above ? level.high < 0 : level.low >= 0) continue;
    const all = above ? level.low >= 0 : level.high < 0;
    for (let s = start[b]; s < start[b + 1]; s++) {
      if (all) out.keep(cells[s]);
      else out.cut(cells[s]);
    }
  }
  return out.result();
}

/** Marks a node as a new vertex on an edge until the number of kept points is known. */
const ON_EDGE = 0x80000000;

class Remainder {
  private readonly placed: Int32Array;
  private readonly kept = new GrowingUint32();
  private readonly edges: EdgeVertices;
  private readonly types = new GrowingUint32();
  private readonly ends = new GrowingUint32();
  private readonly nodes = new GrowingUint32(4096);
  private readonly origins = new GrowingUint32();
  /** Sizes of faces and their nodes; `faceSizes` tells where the sizes stand. */
  private readonly faces = new GrowingUint32();
  private readonly faceEnds = new GrowingUint32();
  private readonly height = new Float64Array(256);
  private missing = 0;

  constructor(
    private readonly mesh: Mesh,
    private readonly level: Level,
    private readonly above: boolean,
    private readonly whole: boolean,
  ) {
    this.placed = new Int32Array(mesh.points.length / 3).fill(-1);
    this.edges = new EdgeVertices(mesh.points);
  }

  keep(cell: number): void {
    const { offsets, connectivity, types, polyhedra } = this.mesh;
    for (let i = offsets[cell]; i < offsets[cell + 1]; i++) this.nodes.push(this.place(connectivity[i]));
    if (polyhedra && types[cell] === POLYHEDRON) {
      const { faces, starts } = polyhedra;
      for (let at = starts[cell]; at < starts[cell + 1]; ) {
        const n = faces[at++];
        this.faces.push(n);
        for (let k = 0; k < n; k++) this.faces.push(this.place(faces[at++]));
      }
    }
    this.finish(types[cell], cell);
  }

  cut(cell: number): void {
    const { offsets, connectivity, types } = this.mesh;
    const type = cellTypeById[types[cell]]!;
    const from = offsets[cell];
    const n = type.corners || offsets[cell + 1] - from;
    let high = 0;
    let sum = 0;
    for (let i = 0; i < n; i++) {
      const h = this.level.at(connectivity[from + i]);
      if (Number.isNaN(h)) {
        this.missing++;
        return;
      }
      if (i < 256) this.height[i] = h;
      if (h >= 0) high++;
      sum += h;
    }
    if (this.whole ? sum >= 0 === this.above : high === (this.above ? n : 0)) this.keep(cell);
    else if (this.whole || high === (this.above ? 0 : n)) return;
    else if (type.dimension === 3) this.cutVolume(cell, type);
    else if (type.dimension === 2) this.cutSurface(cell, type, n);
    else this.cutSlender(cell, type, n);
  }

  result(): OperationResult {
    const k = this.kept.length;
    const { points: p } = this.mesh;
    const added = this.edges.positions;
    const points = new Float32Array(3 * k + added.length);
    for (let i = 0; i < k; i++) {
      const at = 3 * this.kept.data[i];
      points[3 * i] = p[at];
      points[3 * i + 1] = p[at + 1];
      points[3 * i + 2] = p[at + 2];
    }
    points.set(added, 3 * k);
    const number = (v: number): number => (v >= ON_EDGE ? v - ON_EDGE + k : v);
    const connectivity = this.nodes.toArray();
    for (let i = 0; i < connectivity.length; i++) connectivity[i] = number(connectivity[i]);
    const faces = this.faces.toArray();
    for (let at = 0; at < faces.length; ) {
      const n = faces[at++];
      for (let i = 0; i < n; i++, at++) faces[at] = number(faces[at]);
    }
    const offsets = new Uint32Array(this.ends.length + 1);
    offsets.set(this.ends.data.subarray(0, this.ends.length), 1);
    const starts = new Uint32Array(this.faceEnds.length + 1);
    starts.set(this.faceEnds.data.subarray(0, this.faceEnds.length), 1);
    return {
      mesh: {
        points,
        types: Uint8Array.from(this.types.data.subarray(0, this.types.length)),
        offsets,
        connectivity,
        polyhedra: faces.length > 0 ? { faces, starts } : null,
      },
      recipe: { points: this.pointRecipe(k), cells: copyOf(this.origins.toArray()) },
      report: this.missing > 0 ? { missing: this.missing } : {},
    };
  }

  private pointRecipe(k: number): Gather {
    const kept = this.kept.toArray();
    const added = this.edges.recipe();
    if (added.index.length === 0) return copyOf(kept);
    const index = new Uint32Array(2 * k + added.index.length);
    const weight = new Float32Array(index.length);
    for (let i = 0; i < k; i++) {
      index[2 * i] = kept[i];
      index[2 * i + 1] = kept[i];
      weight[2 * i] = 1;
    }
    index.set(added.index, 2 * k);
    weight.set(added.weight!, 2 * k);
    return weighted(2, index, weight);
  }

  private place(point: number): number {
    let at = this.placed[point];
    if (at < 0) {
      at = this.placed[point] = this.kept.length;
      this.kept.push(point);
    }
    return at;
  }

  /** The vertex where the level crosses an edge; a node at height zero is itself. */
  private readonly crossing = (a: number, b: number, da: number, db: number): number => {
    if (da === 0) return this.place(a);
    if (db === 0) return this.place(b);
    return this.edges.at(a, b, da, db) + ON_EDGE;
  };

  private finish(type: number, cell: number): void {
    this.types.push(type);
    this.ends.push(this.nodes.length);
    this.faceEnds.push(this.faces.length);
    this.origins.push(cell);
  }

  private readonly heightOf = (node: number): number => this.level.at(node);

  private cutVolume(cell: number, type: CellType): void {
    const { connectivity, offsets, polyhedra } = this.mesh;
    const from = offsets[cell];
    const begin = this.faces.length;
    let count = 0;
    const face = (loop: readonly number[]): void => {
      if (loop.length < 3) return;
      this.faces.push(loop.length);
      for (const v of loop) this.faces.push(v);
      count++;
    };
    if (type.id === POLYHEDRON) {
      const { faces, starts } = polyhedra!;
      for (let f = starts[cell]; f < starts[cell + 1]; f += faces[f] + 1)
        this.eachPiece(faces[f], (k) => faces[f + 1 + k], this.heightOf, face);
      for (const loop of polyhedronLoops(polyhedra!, cell, this.heightOf, this.crossing))
        face(distinct(loop));
    } else {
      let mask = 0;
      for (let i = 0; i < type.corners; i++) if (this.height[i] >= 0) mask |= 1 << i;
      for (const corners of type.faces) {
        const node = (k: number): number => connectivity[from + corners[k]];
        this.eachPiece(corners.length, node, this.heightOf, face);
      }
      const { edgeA, edgeB, start, polygons } = crossingCases(type);
      for (let k = start[mask]; k < start[mask + 1]; k += polygons[k] + 1) {
        const loop: number[] = [];
        for (let j = 1; j <= polygons[k]; j++) {
          const [a, b] = [edgeA[polygons[k + j]], edgeB[polygons[k + j]]];
          loop.push(
            this.crossing(connectivity[from + a], connectivity[from + b], this.height[a], this.height[b]),
          );
        }
        face(distinct(loop));
      }
    }
    if (count < 4) {
      this.faces.length = begin;
      return;
    }
    const seen = new Set<number>();
    for (let at = begin; at < this.faces.length; ) {
      const n = this.faces.data[at++];
      for (let i = 0; i < n; i++) seen.add(this.faces.data[at++]);
    }
    for (const v of seen) this.nodes.push(v);
    this.finish(POLYHEDRON, cell);
  }

  /** The pieces of a loop of nodes on the side that is kept. */
  private eachPiece(
    n: number,
    node: (k: number) => number,
    height: (node: number) => number,
    piece: (loop: number[]) => void,
  ): void {
    let begin = 0;
    while (begin < n && height(node(begin)) >= 0) begin++;
    if (begin === n) {
      if (this.above) piece(distinct(Array.from({ length: n }, (_, k) => this.place(node(k)))));
      return;
    }
    // From a node below the level on, every run above it begins and ends within the walk.
    let open: number[] = [];
    for (let i = 0; i < n; i++) {
      const a = node((begin + i) % n);
      const b = node((begin + i + 1) % n);
      const da = height(a);
      const db = height(b);
      if (!this.above && da < 0) open.push(this.place(a));
      if (this.above && da >= 0) open.push(this.place(a));
      if (da >= 0 === db >= 0) continue;
      open.push(this.crossing(a, b, da, db));
      if (this.above && da >= 0) {
        piece(distinct(open));
        open = [];
      }
    }
    if (!this.above) piece(distinct(open));
  }

  private cutSurface(cell: number, type: CellType, n: number): void {
    const { connectivity, offsets } = this.mesh;
    const from = offsets[cell];
    const add = (loop: number[]): void => {
      if (loop.length < 3) return;
      for (const v of loop) this.nodes.push(v);
      this.finish(loop.length === 3 ? TRIANGLE : POLYGON, cell);
    };
    if (type.name === 'strip') {
      for (let i = 0; i + 2 < n; i++)
        this.eachPiece(3, (k) => connectivity[from + i + k], this.heightOf, add);
    } else {
      const node = (k: number): number => connectivity[from + (type.loop.length > 0 ? type.loop[k] : k)];
      this.eachPiece(n, node, this.heightOf, add);
    }
  }

  private cutSlender(cell: number, type: CellType, n: number): void {
    const { connectivity, offsets } = this.mesh;
    const node = (k: number): number => connectivity[offsets[cell] + k];
    const inside = (h: number): boolean => h >= 0 === this.above;
    for (let k = 0; k < n; k++) {
      const a = node(k);
      const da = this.level.at(a);
      if (type.dimension === 0) {
        if (!inside(da)) continue;
        this.nodes.push(this.place(a));
        this.finish(VERTEX, cell);
      } else if (k + 1 < n) {
        const b = node(k + 1);
        const db = this.level.at(b);
        if (!inside(da) && !inside(db)) continue;
        const ends = [inside(da) ? this.place(a) : this.crossing(a, b, da, db)];
        ends.push(inside(db) ? this.place(b) : this.crossing(a, b, da, db));
        if (ends[0] === ends[1]) continue;
        for (const v of ends) this.nodes.push(v);
        this.finish(LINE, cell);
      }
    }
  }
}

/** A loop without nodes that follow themselves. */
const distinct = (loop: number[]): number[] =>
  loop.filter((v, k) => v !== loop[(k + loop.length - 1) % loop.length]);
