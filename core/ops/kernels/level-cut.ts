import { type CellType, cellTypeById, LINE, POLYHEDRON, VERTEX } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { copyOf } from '../../model/recipe.ts';
import type { OperationInput, OperationResult } from '../chain/operation.ts';
import { CellList } from './cell-list.ts';
import { crossingCases } from './crossing-cases.ts';
import { EdgeVertices } from './edge-vertices.ts';
import type { Level } from './levels.ts';
import { polyhedronLoops } from './polyhedron-loops.ts';

/**
 * Where a level is zero. The cells of the highest dimension are cut: volumes to polygons, surfaces to lines, lines
 * to points. Heights are interpolated linearly along the edges between corners, so linear levels are met exactly and
 * quadratic cells by their corners. Cells with a corner that has no height are left out and counted.
 */
export function cutAtLevel(input: OperationInput, level: Level): OperationResult {
  const { mesh } = input;
  const { cells, start } = input.blocks();
  let near = 0;
  for (let b = 0; b + 1 < start.length; b++) {
    level.look(b);
    if (!(level.high < 0 || level.low >= 0)) near += start[b + 1] - start[b];
  }
  const vertices = new EdgeVertices(mesh.points, near / 2);
  const list = new CellList();
  const cutter = new Cutter(mesh, vertices, list, level);
  const { dimension } = input;
  for (let b = 0; b + 1 < start.length; b++) {
    level.look(b);
    if (level.high < 0 || level.low >= 0) continue;
    for (let s = start[b]; s < start[b + 1]; s++) {
      const type = cellTypeById[mesh.types[cells[s]]];
      if (type && type.dimension === dimension) cutter.cut(cells[s], type);
    }
  }
  return {
    mesh: list.mesh(vertices.positions),
    recipe: { points: vertices.recipe(), cells: copyOf(list.originCells()) },
    report: cutter.missing > 0 ? { missing: cutter.missing } : {},
  };
}

/** Cuts one cell after the other and adds what it finds to the lists. */
class Cutter {
  missing = 0;
  private readonly distance = new Float64Array(64);
  private readonly loop = new Uint32Array(64);

  constructor(
    private readonly mesh: Mesh,
    private readonly vertices: EdgeVertices,
    private readonly list: CellList,
    private readonly level: Level,
  ) {}

  cut(cell: number, type: CellType): void {
    if (type.id === POLYHEDRON) this.cutPolyhedron(cell);
    else if (type.dimension === 3) this.cutVolume(cell, type);
    else if (type.dimension === 2) this.cutSurface(cell, type);
    else if (type.dimension === 1) this.cutLine(cell, type);
  }

  private cutVolume(cell: number, type: CellType): void {
    const { connectivity, offsets } = this.mesh;
    const { level, list } = this;
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
    const { edgeA, edgeB, start, polygons } = crossingCases(type);
    const { loop } = this;
    for (let k = start[mask]; k < start[mask + 1]; k += polygons[k] + 1) {
      let n = 0;
      for (let j = 1; j <= polygons[k]; j++) {
        const a = edgeA[polygons[k + j]];
        const b = edgeB[polygons[k + j]];
        const v = this.vertices.at(connectivity[from + a], connectivity[from + b], d[a], d[b]);
        if (n === 0 || (loop[n - 1] !== v && loop[0] !== v)) loop[n++] = v;
      }
      list.polygon(loop, n, cell);
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
