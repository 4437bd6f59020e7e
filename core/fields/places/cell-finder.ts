import type { CellBlocks } from '../../model/blocks.ts';
import { cellTypeById, STRIP } from '../../model/cell-types.ts';
import { type CellsAround, cellsAround } from '../../model/cells-around.ts';
import type { Mesh } from '../../model/mesh.ts';
import { BlockBins } from './block-bins.ts';
import { type CellShape, cellShape } from './cell-shapes.ts';
import { type SplitCell, splitCell } from './split-cell.ts';

/** How far outside a cell, in its own coordinates, a place still counts as in it: rounding of single precision. */
const SLACK = 1e-5;
/** Cells walked through to a place before it is looked for from scratch. */
const LONGEST_WALK = 48;
/** Newton steps to the local place; few cells need more than five. */
const MOST_NEWTON = 24;
const UNKNOWN = -2;
const NOBODY = -1;
const MOST_SIDES = 6;

/** A weight that only comes of rounding. */
const NOTHING = 1e-6;

/**
 * Finds the cell of a mesh that holds a place, and how its nodes weigh there. It remembers where it was last: places one
 * after the other along a path are found by walking from cell to cell. Only cells of the highest dimension count; on
 * surfaces a place near one is found on it.
 *
 * Places are relative to the origin of the run, as the points of the mesh are.
 */
export class CellFinder {
  /** The cell that holds the last place, or -1. */
  cell = NOBODY;
  /** Nodes of that cell and their weights at the place; the first `count` of each. */
  nodes = new Uint32Array(64);
  weights = new Float64Array(64);
  count = 0;

  readonly dimension: 2 | 3;
  /** Local place in the cell, where it has such. */
  private readonly local = new Float64Array(3);
  private readonly geometry = new Float64Array(3 * 27);
  private readonly term = new Float64Array(27);
  private readonly slopes = new Float64Array(9);
  private readonly inverse = new Float64Array(9);
  private readonly corner = new Float64Array(3);
  private shape: CellShape | null = null;
  private split: SplitCell | null = null;
  private worstSide = -1;
  private readonly neighbours: Int32Array;
  private readonly around: CellsAround;
  private readonly bins: BlockBins;

  /**
   * @param blocks of the mesh
   * @param usable whether a cell counts; without it all do
   */
  constructor(
    private readonly mesh: Mesh,
    blocks: CellBlocks,
    private readonly usable: ((cell: number) => boolean) | null = null,
  ) {
    let dimension = 2;
    for (const id of new Set(mesh.types)) if (cellTypeById[id]!.dimension === 3) dimension = 3;
    this.dimension = dimension as 2 | 3;
    this.around = cellsAround(mesh);
    this.neighbours = new Int32Array(MOST_SIDES * mesh.types.length).fill(UNKNOWN);
    this.bins = new BlockBins(blocks);
  }

  /** Goes to the cell that holds a place; false, with the cell as it was before, where none does. */
  find(x: number, y: number, z: number): boolean {
    const before = this.cell;
    if (before >= 0) {
      if (this.walk(x, y, z)) return true;
      // Where the walk ends at the border, another part may go on; and bodies need not be convex.
    }
    const found = this.search(x, y, z);
    if (!found && before >= 0) this.enter(before);
    return found;
  }

  /**
   * One component of a field of points, between the nodes of the cell it is in. Nodes that do not count are left out: on a wall
   * those inside may have no value.
   */
  between(data: ArrayLike<number>, components: number, component: number): number {
    const { nodes, weights } = this;
    let sum = 0;
    for (let i = 0; i < this.count; i++)
      if (Math.abs(weights[i]) > NOTHING) sum += weights[i] * data[components * nodes[i] + component];
    return sum;
  }

  /** Forgets where it was. */
  leave(): void {
    this.cell = NOBODY;
  }

  /** Size of the cell it is in: the longest side of its box. */
  cellSize(): number {
    const { points, offsets, connectivity } = this.mesh;
    const from = offsets[this.cell];
    const to = offsets[this.cell + 1];
    let size = 0;
    for (let k = 0; k < 3; k++) {
      let low = Infinity;
      let high = -Infinity;
      for (let i = from; i < to; i++) {
        const v = points[3 * connectivity[i] + k];
        if (v < low) low = v;
        if (v > high) high = v;
      }
      if (high - low > size) size = high - low;
    }
    return size;
  }

  /** The place the weights stand for, which on surfaces may be a little beside the one asked for. */
  placeInto(out: Float64Array): void {
    const { points } = this.mesh;
    out.fill(0);
    for (let i = 0; i < this.count; i++) {
      const p = 3 * this.nodes[i];
      const w = this.weights[i];
      out[0] += w * points[p];
      out[1] += w * points[p + 1];
      out[2] += w * points[p + 2];
    }
  }

  /** A vector square to the cell, of any length; only surfaces have one. */
  normalInto(out: Float64Array): void {
    const j = this.slopes;
    out[0] = j[3] * j[7] - j[6] * j[4];
    out[1] = j[6] * j[1] - j[0] * j[7];
    out[2] = j[0] * j[4] - j[3] * j[1];
  }

  private walk(x: number, y: number, z: number): boolean {
    for (let steps = 0; steps < LONGEST_WALK; steps++) {
      if (this.contains(x, y, z)) return true;
      const next = this.split ? this.besideSplit(x, y, z) : this.beside(this.cell, this.worstSide);
      if (next < 0) return false;
      if (next !== this.cell) this.enter(next);
    }
    return false;
  }

  /** The cell on the other side of a face. */
  private beside(cell: number, side: number): number {
    if (side < 0) return NOBODY;
    const slot = MOST_SIDES * cell + side;
    const known = this.neighbours[slot];
    if (known !== UNKNOWN) return known;
    const { offsets, connectivity } = this.mesh;
    const { corners } = this.shape!.sides[side];
    const { starts, cells } = this.around;
    const first = connectivity[offsets[cell] + corners[0]];
    let found = NOBODY;
    for (let i = starts[first]; i < starts[first + 1] && found < 0; i++) {
      const other = cells[i];
      if (other === cell || !this.counts(other)) continue;
      let all = true;
      for (let k = 1; k < corners.length && all; k++)
        all = this.has(other, connectivity[offsets[cell] + corners[k]]);
      if (all) found = other;
    }
    this.neighbours[slot] = found;
    return found;
  }

  /** Of cells that are taken apart: whichever around its nodes holds the place, which it then is in already. */
  private besideSplit(x: number, y: number, z: number): number {
    const { offsets, connectivity } = this.mesh;
    const { starts, cells } = this.around;
    const own = this.cell;
    for (let i = offsets[own]; i < offsets[own + 1]; i++) {
      const node = connectivity[i];
      for (let k = starts[node]; k < starts[node + 1]; k++) {
        const other = cells[k];
        if (other === own || !this.counts(other) || !this.inBox(other, x, y, z)) continue;
        this.enter(other);
        if (this.contains(x, y, z)) return other;
      }
    }
    this.enter(own);
    return NOBODY;
  }

  private has(cell: number, node: number): boolean {
    const { offsets, connectivity } = this.mesh;
    for (let i = offsets[cell]; i < offsets[cell + 1]; i++) if (connectivity[i] === node) return true;
    return false;
  }

  private counts(cell: number): boolean {
    const id = this.mesh.types[cell];
    return (
      id !== STRIP &&
      cellTypeById[id]!.dimension === this.dimension &&
      (this.usable === null || this.usable(cell))
    );
  }

  private inBox(cell: number, x: number, y: number, z: number): boolean {
    const { points, offsets, connectivity } = this.mesh;
    const place = [x, y, z];
    let size = 0;
    for (let pass = 0; pass < 2; pass++)
      for (let k = 0; k < 3; k++) {
        let low = Infinity;
        let high = -Infinity;
        for (let i = offsets[cell]; i < offsets[cell + 1]; i++) {
          const v = points[3 * connectivity[i] + k];
          if (v < low) low = v;
          if (v > high) high = v;
        }
        if (pass === 0) size = Math.max(size, high - low);
        else {
          // Quadratic cells bulge, and places beside a surface belong to it.
          const slack = size * (this.dimension === 2 ? 0.2 : 1e-3);
          if (place[k] < low - slack || place[k] > high + slack) return false;
        }
      }
    return true;
  }

  /** Looks through all cells near a place. */
  private search(x: number, y: number, z: number): boolean {
    const { cells, start } = this.bins.blocks;
    let best = NOBODY;
    let nearest = Infinity;
    for (const block of this.bins.at(x, y, z)) {
      if (!this.bins.inBlock(block, x, y, z)) continue;
      for (let i = start[block]; i < start[block + 1]; i++) {
        const cell = cells[i];
        if (!this.counts(cell) || !this.inBox(cell, x, y, z)) continue;
        this.enter(cell);
        if (!this.contains(x, y, z)) continue;
        if (this.dimension === 3) return true;
        // A place beside a surface may lie over several of its faces.
        const away = this.distance(x, y, z);
        if (away < nearest) [best, nearest] = [cell, away];
      }
    }
    if (best < 0) return false;
    this.enter(best);
    return this.contains(x, y, z);
  }

  private readonly projected = new Float64Array(3);

  private distance(x: number, y: number, z: number): number {
    this.placeInto(this.projected);
    return Math.hypot(this.projected[0] - x, this.projected[1] - y, this.projected[2] - z);
  }

  /** Gets a cell ready to be asked. */
  private enter(cell: number): void {
    this.cell = cell;
    const { types, offsets, connectivity, points } = this.mesh;
    const shape = cellShape(types[cell]);
    this.shape = shape;
    this.split = shape ? null : splitCell(this.mesh, cell);
    if (!shape) return;
    const { nodes, terms, coefficients, affine } = shape;
    const from = offsets[cell];
    const g = this.geometry;
    if (affine) {
      const p = 3 * connectivity[from];
      for (let k = 0; k < 3; k++) this.corner[k] = points[p + k];
      for (let n = 1; n < nodes; n++) {
        const q = 3 * connectivity[from + n];
        for (let k = 0; k < 3; k++) this.slopes[3 * k + n - 1] = points[q + k] - this.corner[k];
      }
      invert(this.slopes, this.inverse, shape.dimension);
    } else {
      g.fill(0, 0, 3 * terms);
      for (let n = 0; n < nodes; n++) {
        const p = 3 * connectivity[from + n];
        for (let j = 0; j < terms; j++) {
          const c = coefficients[n * terms + j];
          if (c === 0) continue;
          g[3 * j] += c * points[p];
          g[3 * j + 1] += c * points[p + 1];
          g[3 * j + 2] += c * points[p + 2];
        }
      }
      this.local.fill(shape.sides.length === 4 && shape.dimension === 3 ? 0.25 : 0.5);
    }
    for (let n = 0; n < nodes; n++) this.nodes[n] = connectivity[from + n];
  }

  /** Whether the cell it is in holds a place; then with weights, else with the side that is farthest crossed. */
  private contains(x: number, y: number, z: number): boolean {
    const { shape } = this;
    if (!shape) return this.inSplit(x, y, z);
    const l = this.local;
    this.worstSide = -1;
    if (shape.affine) {
      const m = this.inverse;
      const dx = x - this.corner[0];
      const dy = y - this.corner[1];
      const dz = z - this.corner[2];
      l[0] = m[0] * dx + m[1] * dy + m[2] * dz;
      l[1] = m[3] * dx + m[4] * dy + m[5] * dz;
      l[2] = m[6] * dx + m[7] * dy + m[8] * dz;
    } else this.toLocal(shape, x, y, z);
    let worst = -SLACK;
    const { sides } = shape;
    for (let i = 0; i < sides.length; i++) {
      const s = sides[i];
      const inside = s.a * l[0] + s.b * l[1] + s.c * l[2] + s.d;
      if (!(inside >= worst)) {
        worst = inside;
        this.worstSide = i;
      }
    }
    if (this.worstSide >= 0) return false;
    this.weigh(shape);
    return true;
  }

  private weigh(shape: CellShape): void {
    const { weights, local: l, term } = this;
    this.count = shape.nodes;
    if (shape.affine) {
      let rest = 1;
      for (let n = 1; n < shape.nodes; n++) {
        weights[n] = l[n - 1];
        rest -= l[n - 1];
      }
      weights[0] = rest;
      return;
    }
    const { terms, nodes, coefficients } = shape;
    for (let n = 0; n < nodes; n++) {
      let sum = 0;
      for (let j = 0; j < terms; j++) sum += coefficients[n * terms + j] * term[j];
      weights[n] = sum;
    }
  }

  private readonly residual = new Float64Array(3);

  /** Newton's method for the local place; on surfaces the foot of the place on them (Gauss, Newton). */
  private toLocal(shape: CellShape, x: number, y: number, z: number): void {
    const { local: l, slopes: j, inverse: m, residual: r } = this;
    for (let k = 0; k < 3; k++) if (!(l[k] > -0.5 && l[k] < 1.5)) l[k] = 0.5;
    if (shape.dimension === 2) l[2] = 0;
    for (let step = 0; step < MOST_NEWTON; step++) {
      this.mapTo(shape, x, y, z);
      invert(j, m, shape.dimension);
      const a = m[0] * r[0] + m[1] * r[1] + m[2] * r[2];
      const b = m[3] * r[0] + m[4] * r[1] + m[5] * r[2];
      const c = m[6] * r[0] + m[7] * r[1] + m[8] * r[2];
      const move = Math.max(Math.abs(a), Math.abs(b), Math.abs(c));
      if (!(move < 1e6)) return;
      // Far outside, whole steps may run away; the side that is crossed is told all the same.
      const whole = Math.min(1, 1 / move);
      l[0] += whole * a;
      l[1] += whole * b;
      l[2] += whole * c;
      if (Math.max(Math.abs(l[0] - 0.5), Math.abs(l[1] - 0.5), Math.abs(l[2] - 0.5)) > 3) return;
      if (move < 1e-9) break;
    }
    this.mapTo(shape, x, y, z);
  }

  /** Terms, slopes and what is still missing to a place, at the local place. */
  private mapTo(shape: CellShape, x: number, y: number, z: number): void {
    const { local, geometry: g, slopes: j, residual: out, term } = this;
    const { powers, terms } = shape;
    const r = local[0];
    const s = local[1];
    const t = local[2];
    j.fill(0);
    let px = x;
    let py = y;
    let pz = z;
    for (let i = 0; i < terms; i++) {
      const a = powers[3 * i];
      const b = powers[3 * i + 1];
      const c = powers[3 * i + 2];
      const ra = a === 0 ? 1 : a === 1 ? r : r * r;
      const sb = b === 0 ? 1 : b === 1 ? s : s * s;
      const tc = c === 0 ? 1 : c === 1 ? t : t * t;
      const value = ra * sb * tc;
      term[i] = value;
      const gx = g[3 * i];
      const gy = g[3 * i + 1];
      const gz = g[3 * i + 2];
      px -= gx * value;
      py -= gy * value;
      pz -= gz * value;
      if (a > 0) {
        const d = (a === 1 ? 1 : 2 * r) * sb * tc;
        j[0] += gx * d;
        j[3] += gy * d;
        j[6] += gz * d;
      }
      if (b > 0) {
        const d = ra * (b === 1 ? 1 : 2 * s) * tc;
        j[1] += gx * d;
        j[4] += gy * d;
        j[7] += gz * d;
      }
      if (c > 0) {
        const d = ra * sb * (c === 1 ? 1 : 2 * t);
        j[2] += gx * d;
        j[5] += gy * d;
        j[8] += gz * d;
      }
    }
    out[0] = px;
    out[1] = py;
    out[2] = pz;
  }

  private inSplit(x: number, y: number, z: number): boolean {
    const { split } = this;
    this.count = 0;
    if (!split?.find(x, y, z, SLACK)) return false;
    if (split.nodes.length > this.nodes.length) {
      this.nodes = new Uint32Array(2 * split.nodes.length);
      this.weights = new Float64Array(2 * split.nodes.length);
    }
    this.nodes.set(split.nodes);
    this.weights.set(split.weights);
    this.count = split.nodes.length;
    if (this.dimension === 2) this.slopes.set(split.slopes);
    return true;
  }
}

/**
 * Inverse of slopes, three rows of d(x, y, z) by columns (r, s, t); of surfaces the one that leads to the nearest place on
 * them (Moore, Penrose).
 */
function invert(j: Float64Array, out: Float64Array, dimension: 2 | 3): void {
  if (dimension === 2) {
    const rr = j[0] * j[0] + j[3] * j[3] + j[6] * j[6];
    const ss = j[1] * j[1] + j[4] * j[4] + j[7] * j[7];
    const rs = j[0] * j[1] + j[3] * j[4] + j[6] * j[7];
    const d = 1 / (rr * ss - rs * rs);
    for (let k = 0; k < 3; k++) {
      out[k] = d * (ss * j[3 * k] - rs * j[3 * k + 1]);
      out[3 + k] = d * (rr * j[3 * k + 1] - rs * j[3 * k]);
      out[6 + k] = 0;
    }
    return;
  }
  const a = j[4] * j[8] - j[5] * j[7];
  const b = j[5] * j[6] - j[3] * j[8];
  const c = j[3] * j[7] - j[4] * j[6];
  const d = 1 / (j[0] * a + j[1] * b + j[2] * c);
  out[0] = d * a;
  out[1] = d * (j[2] * j[7] - j[1] * j[8]);
  out[2] = d * (j[1] * j[5] - j[2] * j[4]);
  out[3] = d * b;
  out[4] = d * (j[0] * j[8] - j[2] * j[6]);
  out[5] = d * (j[2] * j[3] - j[0] * j[5]);
  out[6] = d * c;
  out[7] = d * (j[1] * j[6] - j[0] * j[7]);
  out[8] = d * (j[0] * j[4] - j[1] * j[3]);
}
