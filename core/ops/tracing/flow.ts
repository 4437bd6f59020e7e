import { cellsToPoints } from '../../fields/averages.ts';
import { CellFinder } from '../../fields/places/cell-finder.ts';
import type { CellBlocks } from '../../model/blocks.ts';
import { connectedPieces } from '../../model/connected-pieces.ts';
import type { MeshField } from '../../model/field.ts';
import type { Mesh } from '../../model/mesh.ts';
import { replayAll } from '../../model/recipe.ts';

/** What a flow says of a place. */
export const HERE = 0;
export const OUTSIDE = 1;
export const NO_VALUE = 2;
export type Asked = typeof HERE | typeof OUTSIDE | typeof NO_VALUE;

/** A velocity at every place and time. */
export interface Flow {
  /** @param out gets three numbers, where the answer is `HERE` */
  at(x: number, y: number, z: number, time: number, out: Float64Array): Asked;
  /** How far a step may lead from the place that was asked last: about the size of what is resolved there. */
  reach(): number;
  /** Highest speed anywhere, or an estimate. */
  readonly fastest: number;
  /** Whether it may be different later, so that what stands still now need not stay. */
  readonly changes?: boolean;
  /** Which of the pieces that hang together the place lies in that was asked last, where there are such. */
  piece?(): number;
  /** Moves a place onto what is flowed on, for surfaces; the last place asked is meant. */
  settle?(place: Float64Array): void;
}

/** The values of a field at the points of its mesh, to which those on cells are averaged. */
export const onPoints = (mesh: Mesh, { location, data, components }: MeshField): ArrayLike<number> =>
  location === 'cell' ? replayAll(cellsToPoints(mesh), data, components) : data;

/** Steps on one mesh share them. */
const piecesOf = new WeakMap<Mesh, Uint32Array>();

/** A velocity field on a mesh, along a surface where the mesh is one. */
export class MeshFlow implements Flow {
  readonly finder: CellFinder;
  readonly fastest: number;
  /** Whether there is a value everywhere in a cell; null where there is in all. */
  readonly whole: ((cell: number) => boolean) | null;
  private readonly values: ArrayLike<number>;
  private readonly components: number;
  private readonly normal = new Float64Array(3);
  private readonly isSurface: boolean;
  /** A flat run is not left by rounding. */
  private readonly isFlat: boolean;

  /**
   * @param field of vectors; on cells it is averaged to points first
   * @param finder of the same mesh, where there is one already
   */
  constructor(
    private readonly mesh: Mesh,
    blocks: CellBlocks,
    field: MeshField,
    finder: CellFinder | null = null,
  ) {
    this.components = field.components;
    this.values = onPoints(mesh, field);
    const { values, components } = this;
    const { offsets, connectivity } = mesh;
    let squares = 0;
    let missing = false;
    for (let i = 0; i < values.length; i += components) {
      let sum = 0;
      for (let k = 0; k < components; k++) sum += values[i + k] * values[i + k];
      if (sum > squares) squares = sum;
      if (Number.isNaN(sum)) missing = true;
    }
    this.fastest = Math.sqrt(squares);
    const hasValue = (i: number): boolean => !Number.isNaN(values[components * connectivity[i]]);
    // Cells without any value belong to parts the flow does not reach; one with some is a hole in the results.
    const flows = (cell: number): boolean => {
      for (let i = offsets[cell]; i < offsets[cell + 1]; i++) if (hasValue(i)) return true;
      return false;
    };
    const whole = (cell: number): boolean => {
      for (let i = offsets[cell]; i < offsets[cell + 1]; i++) if (!hasValue(i)) return false;
      return true;
    };
    this.whole = missing ? whole : null;
    this.finder = finder ?? new CellFinder(mesh, blocks, missing ? flows : null);
    this.isSurface = this.finder.dimension === 2;
    this.isFlat = components < 3;
  }

  at(x: number, y: number, z: number, _time: number, out: Float64Array): Asked {
    return this.finder.find(x, y, z) ? this.here(out) : OUTSIDE;
  }

  /** At the place the finder was asked for last. */
  here(out: Float64Array): Asked {
    const { finder, values, components } = this;
    const { nodes, weights, count } = finder;
    let u = 0;
    let v = 0;
    let w = 0;
    for (let i = 0; i < count; i++) {
      const n = components * nodes[i];
      const weight = weights[i];
      u += weight * values[n];
      v += weight * values[n + 1];
      if (components > 2) w += weight * values[n + 2];
    }
    if (Number.isNaN(u + v + w)) return NO_VALUE;
    out[0] = u;
    out[1] = v;
    out[2] = w;
    if (this.isSurface && !this.isFlat) this.alongSurface(out);
    return HERE;
  }

  reach(): number {
    return this.finder.cellSize();
  }

  piece(): number {
    let pieces = piecesOf.get(this.mesh);
    if (!pieces) piecesOf.set(this.mesh, (pieces = connectedPieces(this.mesh)));
    return pieces[this.finder.nodes[0]];
  }

  settle(place: Float64Array): void {
    if (this.isSurface) this.finder.placeInto(place);
  }

  private alongSurface(out: Float64Array): void {
    const n = this.normal;
    this.finder.normalInto(n);
    const squared = n[0] * n[0] + n[1] * n[1] + n[2] * n[2];
    if (squared === 0) return;
    const across = (out[0] * n[0] + out[1] * n[1] + out[2] * n[2]) / squared;
    for (let k = 0; k < 3; k++) out[k] -= across * n[k];
  }
}
