import { CellList } from '../../fields/surfaces/cell-list.ts';
import { concatenated } from '../../model/arrays.ts';
import { type CellType, cellTypeById, LINE, POLYHEDRON, VERTEX } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { copyOf } from '../../model/recipe.ts';
import type { OperationInput, OperationResult } from '../chain/operation.ts';
import { type CrossingCases, crossingCases } from './crossing-cases.ts';
import { EdgeVertices } from './edge-vertices.ts';
import { joinGathers } from './join-meshes.ts';
import type { Level } from './levels.ts';
import { polyhedronLoops, saddleAbove } from './polyhedron-loops.ts';
import { TrilinearMiddles } from './trilinear-middles.ts';

/**
 * Where a level is zero. The cells of the highest dimension are cut: volumes to polygons, surfaces to lines, lines
 * to points. Heights are interpolated linearly along the edges between corners, so linear levels are met exactly and
 * quadratic cells by their corners. Cells with a corner that has no height are left out and counted.
 *
 * @param curved whether heights between corners are trilinear: then the faces of cells decide by the saddle of their
 *   four corners what belongs together (asymptotic decider, Nielson and Hamann 1991; from memory), and pieces within
 *   hexahedra are bent
 */
export function cutAtLevel(input: OperationInput, level: Level, curved = false): OperationResult {
  const { mesh } = input;
  const { cells, start } = input.blocks();
  let near = 0;
  for (let b = 0; b + 1 < start.length; b++) {
    level.look(b);
    if (!(level.high < 0 || level.low >= 0)) near += start[b + 1] - start[b];
  }
  const vertices = new EdgeVertices(mesh.points, near / 2);
  const list = new CellList();
  const middles = curved ? new TrilinearMiddles(mesh.points) : null;
  const cutter = new Cutter(mesh, vertices, list, level, middles);
  const { dimension } = input;
  for (let b = 0; b + 1 < start.length; b++) {
    level.look(b);
    if (level.high < 0 || level.low >= 0) continue;
    for (let s = start[b]; s < start[b + 1]; s++) {
      const type = cellTypeById[mesh.types[cells[s]]];
      if (type && type.dimension === dimension) cutter.cut(cells[s], type);
    }
  }
  const cut = list.mesh(vertices.positions);
  let points = vertices.recipe();
  if (middles && middles.count > 0) {
    const edges = cut.points.length / 3;
    cut.points = concatenated([cut.points, middles.positions]);
    points = joinGathers([points, middles.recipe()]);
    const { connectivity } = cut;
    for (let i = 0; i < connectivity.length; i++)
      if (connectivity[i] >= MIDDLE) connectivity[i] += edges - MIDDLE;
  }
  return {
    mesh: cut,
    recipe: { points, cells: copyOf(list.originCells()) },
    report: cutter.missing > 0 ? { missing: cutter.missing } : {},
  };
}

/** Vertices from here on are those in the middles of cells, until all others are counted. */
const MIDDLE = 2 ** 31;

/** Cuts one cell after the other and adds what it finds to the lists. */
class Cutter {
  missing = 0;
  private readonly distance = new Float64Array(64);
  private readonly loop = new Uint32Array(64);
  private readonly crossed = new Uint8Array(64);
  private readonly triangle = new Uint32Array(3);

  constructor(
    private readonly mesh: Mesh,
    private readonly vertices: EdgeVertices,
    private readonly list: CellList,
    private readonly level: Level,
    private readonly middles: TrilinearMiddles | null,
  ) {}

  cut(cell: number, type: CellType): void {
    if (type.id === POLYHEDRON) this.cutPolyhedron(cell);
    else if (type.dimension === 3) this.cutVolume(cell, type);
    else if (type.dimension === 2) this.cutSurface(cell, type);
    else if (type.dimension === 1) this.cutLine(cell, type);
  }

  private cutVolume(cell: number, type: CellType): void {
    const { connectivity, offsets } = this.mesh;
    const { level } = this;
    const from = offsets[cell];
    const d = this.distance;
    const corners = type.corners;
    let mask = 0;
    for (let i = 0; i < corners; i++) {
      const h = level.at(connectivity[from + i]);
      d[i] = h;
      if (h >= 0) mask |= 1 << i;
      else if (Number.isNaN(h)) {
        this.missing++;
        return;
      }
    }
    if (mask === 0 || mask === 2 ** corners - 1) return;
    const cases = crossingCases(type);
    const open = this.middles ? cases.ambiguous[mask] : 0;
    const joined = open === 0 ? 0 : joinedFaces(open, type, mask, d);
    if (joined !== 0) {
      const list = cases.joined(mask, joined);
      this.addPieces(cell, type, cases, list, 0, list.length);
    } else this.addPieces(cell, type, cases, cases.polygons, cases.start[mask], cases.start[mask + 1]);
  }

  /** Adds the pieces of a list, from one place in it to another. */
  private addPieces(
    cell: number,
    type: CellType,
    { edgeA, edgeB }: CrossingCases,
    pieces: Uint8Array,
    first: number,
    end: number,
  ): void {
    const { connectivity, offsets } = this.mesh;
    const { loop, crossed, list, middles, distance: d } = this;
    const from = offsets[cell];
    const bends = middles !== null && TrilinearMiddles.bends(type);
    for (let k = first; k < end; k += pieces[k] + 1) {
      let n = 0;
      for (let j = 1; j <= pieces[k]; j++) {
        const a = edgeA[pieces[k + j]];
        const b = edgeB[pieces[k + j]];
        const v = this.vertices.at(connectivity[from + a], connectivity[from + b], d[a], d[b]);
        if (n > 0 && (loop[n - 1] === v || loop[0] === v)) continue;
        crossed[2 * n] = a;
        crossed[2 * n + 1] = b;
        loop[n++] = v;
      }
      const middle = bends && n > 3 ? middles.of(type, connectivity, from, d, crossed, n) : -1;
      if (middle < 0) list.polygon(loop, n, cell);
      else this.addFan(loop, n, MIDDLE + middle, cell);
    }
  }

  private addFan(loop: Uint32Array, n: number, middle: number, cell: number): void {
    const { triangle, list } = this;
    triangle[2] = middle;
    for (let j = 0; j < n; j++) {
      triangle[0] = loop[j];
      triangle[1] = loop[j + 1 === n ? 0 : j + 1];
      list.polygon(triangle, 3, cell);
    }
  }

  private cutPolyhedron(cell: number): void {
    const { connectivity, offsets } = this.mesh;
    const { level, list, vertices } = this;
    for (let i = offsets[cell]; i < offsets[cell + 1]; i++) {
      if (Number.isNaN(level.at(connectivity[i]))) {
        this.missing++;
        return;
      }
    }
    const loops = polyhedronLoops(
      this.mesh.polyhedra!,
      cell,
      (p) => level.at(p),
      (a, b, da, db) => vertices.at(a, b, da, db),
      this.middles !== null,
    );
    for (const loop of loops) {
      for (const v of loop) list.node(v);
      list.close(cell);
    }
  }

  private cutSurface(cell: number, type: CellType): void {
    const { connectivity, offsets } = this.mesh;
    const from = offsets[cell];
    const n = type.corners || offsets[cell + 1] - from;
    if (type.name === 'strip') {
      for (let i = 0; i + 2 < n; i++) this.cutLoop(cell, 3, (k) => connectivity[from + i + k]);
    } else if (type.loop.length > 0) this.cutLoop(cell, n, (k) => connectivity[from + type.loop[k]]);
    else this.cutLoop(cell, n, (k) => connectivity[from + k]);
  }

  private cutLoop(cell: number, n: number, node: (k: number) => number): void {
    for (let k = 0; k < n; k++) {
      if (Number.isNaN(this.level.at(node(k)))) {
        this.missing++;
        return;
      }
    }
    // Begins below the level, so that what lies above is entered before it is left.
    let begin = 0;
    while (begin < n && this.level.at(node(begin)) >= 0) begin++;
    for (let i = 0; i < n; i++) {
      const a = node((begin + i) % n);
      const b = node((begin + i + 1) % n);
      const da = this.level.at(a);
      const db = this.level.at(b);
      if (da >= 0 === db >= 0) continue;
      this.list.node(this.vertices.at(a, b, da, db));
      if (this.list.open === 2) {
        if (this.list.openNode(0) !== this.list.openNode(1)) this.list.finish(LINE, cell);
        else this.list.dropOpen();
      }
    }
    this.list.dropOpen();
  }

  private cutLine(cell: number, type: CellType): void {
    const { connectivity, offsets } = this.mesh;
    const n = type.corners || offsets[cell + 1] - offsets[cell];
    for (let k = 0; k + 1 < n; k++) {
      const a = connectivity[offsets[cell] + k];
      const b = connectivity[offsets[cell] + k + 1];
      const da = this.level.at(a);
      const db = this.level.at(b);
      if (da >= 0 === db >= 0 || Number.isNaN(da) || Number.isNaN(db)) continue;
      this.list.node(this.vertices.at(a, b, da, db));
      this.list.finish(VERTEX, cell);
    }
  }
}

/**
 * Of the ambiguous faces those whose corners above are joined: where the saddle of the bilinear function lies above.
 *
 * @param mask corners above
 */
function joinedFaces(open: number, { faces }: CellType, mask: number, heights: Float64Array): number {
  let joined = 0;
  for (let k = 0; k < faces.length; k++) {
    if (!((open >> k) & 1)) continue;
    const [p, q, r, s] = faces[k];
    if (saddleAbove(heights[p], heights[q], heights[r], heights[s], ((mask >> p) & 1) === 1))
      joined |= 1 << k;
  }
  return joined;
}
