import { z } from 'zod';
import {
  type CellType,
  cellTypes,
  LINE,
  POLYGON,
  POLYHEDRON,
  TRIANGLE,
  VERTEX,
} from '../model/cell-types.ts';
import { boundsCentre, type Mesh, meshDimension } from '../model/mesh.ts';
import { type SentencePiece, sayNumber, sayQuantity, words } from '../scene/sentence.ts';
import { CellList } from './cell-list.ts';
import { crossingCases } from './crossing-cases.ts';
import { EdgeVertices } from './edge-vertices.ts';
import type { Operation, OperationInput, OperationResult } from './operation.ts';

/** The plane of all points with `normal . point = offset`, in the coordinates of the files. */
export interface SectionOptions {
  /** Unit length. */
  normal: [number, number, number];
  offset: number;
  /** A locked plane is not moved by its handle on the stage. */
  locked: boolean;
}

const schema = z.object({
  normal: z.tuple([z.number(), z.number(), z.number()]).refine((n) => Math.hypot(...n) > 1e-12, {
    message: 'The normal of the plane has no length.',
  }),
  offset: z.number(),
  locked: z.boolean(),
});

const axisNames = ['x', 'y', 'z'];

/** The axis a normal points along, or -1 when the plane is free. */
export function axisOf(normal: readonly number[]): number {
  return normal.findIndex((v, k) => v > 0 && normal.every((w, j) => j === k || w === 0));
}

/**
 * Planar cut. The cells of the highest dimension are cut: volumes to polygons, surfaces to lines, lines to points.
 * Corners are used as the cell's geometry, so linear fields are met exactly and quadratic cells by their corners.
 *
 * A plane that only touches the mesh from the side of its normal still gives the touched faces.
 */
export const section: Operation<SectionOptions> = {
  id: 'section',
  name: 'Section',
  purpose: 'cut by a plane',
  opening: 'Section of ',
  schema,
  defaults({ bounds, dimension }) {
    const size = [bounds[1] - bounds[0], bounds[3] - bounds[2], bounds[5] - bounds[4]];
    const axis = dimension === 2 ? (size[0] >= size[1] ? 0 : 1) : size.indexOf(Math.min(...size));
    const normal: [number, number, number] = [0, 0, 0];
    normal[axis] = 1;
    return { normal, offset: boundsCentre(bounds)[axis], locked: false };
  },
  sentence({ normal, offset }, { lengthUnit }, step): SentencePiece[] {
    const axis = axisOf(normal);
    if (axis >= 0) {
      return [
        words(' at '),
        { text: `${axisNames[axis]} = ${sayQuantity(offset, lengthUnit)}`, control: { kind: 'plane', step } },
      ];
    }
    const direction = normal.map((v) => sayNumber(v, 3)).join(', ');
    return [
      words(' across '),
      { text: `(${direction}) at ${sayQuantity(offset, lengthUnit)}`, control: { kind: 'plane', step } },
    ];
  },
  run(input, { normal, offset }) {
    const length = Math.hypot(...normal);
    const n = normal.map((v) => v / length);
    const o = offset / length - n[0] * input.origin[0] - n[1] * input.origin[1] - n[2] * input.origin[2];
    const result = cut(input, n[0], n[1], n[2], o);
    return result.mesh.types.length > 0 ? result : cut(input, -n[0], -n[1], -n[2], -o);
  },
};

function cut(input: OperationInput, nx: number, ny: number, nz: number, o: number): OperationResult {
  const { mesh } = input;
  const { cells, start, bounds } = input.blocks();
  const vertices = new EdgeVertices(mesh.points);
  const list = new CellList();
  const cutter = new Cutter(mesh, vertices, list, nx, ny, nz, o);
  const dimension = meshDimension(mesh.types);
  for (let b = 0; b + 1 < start.length; b++) {
    const k = 6 * b;
    const far =
      nx * bounds[k + (nx > 0 ? 1 : 0)] +
      ny * bounds[k + 2 + (ny > 0 ? 1 : 0)] +
      nz * bounds[k + 4 + (nz > 0 ? 1 : 0)];
    const near =
      nx * bounds[k + (nx > 0 ? 0 : 1)] +
      ny * bounds[k + 2 + (ny > 0 ? 0 : 1)] +
      nz * bounds[k + 4 + (nz > 0 ? 0 : 1)];
    if (far < o || near >= o) continue;
    for (let s = start[b]; s < start[b + 1]; s++) {
      const type = cellTypes.get(mesh.types[cells[s]]);
      if (type && type.dimension === dimension) cutter.cut(cells[s], type);
    }
  }
  return {
    mesh: list.mesh(vertices.positions.toArray()),
    recipe: { points: vertices.recipe(), cells: list.originCells() },
  };
}

/** Cuts one cell after the other and adds what it finds to the lists. */
class Cutter {
  private readonly distance = new Float64Array(64);

  constructor(
    private readonly mesh: Mesh,
    private readonly vertices: EdgeVertices,
    private readonly list: CellList,
    private readonly nx: number,
    private readonly ny: number,
    private readonly nz: number,
    private readonly o: number,
  ) {}

  cut(cell: number, type: CellType): void {
    if (type.id === POLYHEDRON) this.cutPolyhedron(cell);
    else if (type.dimension === 3) this.cutVolume(cell, type);
    else if (type.dimension === 2) this.cutSurface(cell, type);
    else if (type.dimension === 1) this.cutLine(cell, type);
  }

  private height(point: number): number {
    const p = this.mesh.points;
    return this.nx * p[3 * point] + this.ny * p[3 * point + 1] + this.nz * p[3 * point + 2] - this.o;
  }

  private cutVolume(cell: number, type: CellType): void {
    const { connectivity, offsets } = this.mesh;
    const from = offsets[cell];
    const d = this.distance;
    let mask = 0;
    for (let i = 0; i < type.corners; i++) {
      d[i] = this.height(connectivity[from + i]);
      if (d[i] >= 0) mask |= 1 << i;
    }
    if (mask === 0 || mask === 2 ** type.corners - 1) return;
    const { edgeA, edgeB, start, polygons } = crossingCases(type);
    for (let k = start[mask]; k < start[mask + 1]; k += polygons[k] + 1) {
      for (let j = 1; j <= polygons[k]; j++) {
        const a = edgeA[polygons[k + j]];
        const b = edgeB[polygons[k + j]];
        const v = this.vertices.at(connectivity[from + a], connectivity[from + b], d[a], d[b]);
        if (
          this.list.open === 0 ||
          (this.list.openNode(this.list.open - 1) !== v && this.list.openNode(0) !== v)
        ) {
          this.list.node(v);
        }
      }
      if (this.list.open >= 3) this.list.finish(this.list.open === 3 ? TRIANGLE : POLYGON, cell);
      else this.list.dropOpen();
    }
  }

  /**
   * Cuts every face of a polyhedron to segments and links them to loops. A face that the plane crosses more than
   * twice (a face that is not convex) gives its crossings in pairs, in order around it.
   */
  private cutPolyhedron(cell: number): void {
    const { faces, starts } = this.mesh.polyhedra!;
    const next = new Map<number, number[]>();
    const link = (a: number, b: number): void => {
      if (a === b) return;
      next.set(a, [...(next.get(a) ?? []), b]);
      next.set(b, [...(next.get(b) ?? []), a]);
    };
    for (let at = starts[cell]; at < starts[cell + 1]; at += faces[at] + 1) {
      const n = faces[at];
      let open = -1;
      for (let k = 0; k < n; k++) {
        const a = faces[at + 1 + k];
        const b = faces[at + 1 + ((k + 1) % n)];
        const da = this.height(a);
        const db = this.height(b);
        if (da >= 0 === db >= 0) continue;
        const v = this.vertices.at(a, b, da, db);
        if (open < 0) open = v;
        else {
          link(open, v);
          open = -1;
        }
      }
    }
    for (const first of next.keys()) {
      for (let v: number | undefined = first; v !== undefined; ) {
        const ways: number[] = next.get(v) ?? [];
        const to: number | undefined = ways.pop();
        if (to === undefined) break;
        const back = next.get(to)!;
        back.splice(back.indexOf(v), 1);
        this.list.node(v);
        v = to;
        if (v === first) break;
      }
      const n = this.list.open;
      if (n >= 3) this.list.finish(n === 3 ? TRIANGLE : POLYGON, cell);
      else this.list.dropOpen();
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
      const a = node(k);
      const b = node((k + 1) % n);
      const da = this.height(a);
      const db = this.height(b);
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
      const da = this.height(a);
      const db = this.height(b);
      if (da >= 0 === db >= 0) continue;
      this.list.node(this.vertices.at(a, b, da, db));
      this.list.finish(VERTEX, cell);
    }
  }
}
