import { fansOf, Triangles } from '../../fields/surfaces/triangles.ts';
import { GrowingFloat32, GrowingUint32 } from '../../model/arrays.ts';
import { TRIANGLE } from '../../model/cell-types.ts';
import { boundsDiagonal, boundsOf, type Mesh } from '../../model/mesh.ts';
import { PairTable } from '../../model/pair-table.ts';
import { copyOf, weighted } from '../../model/recipe.ts';
import type { OperationResult } from '../chain/operation.ts';
import { placeNumbers } from './place-index.ts';

/** Triangles, and for each point the first one at its place: parts that touch have points of their own there. */
export interface FineTriangles extends OperationResult {
  same: Uint32Array;
}

/**
 * The faces of a mesh as triangles with no side longer than a length: a side that is longer is halved, with the triangles
 * on both of its sides, until none is. Points are shared as they are in the mesh.
 *
 * @param longest side, in the unit of the points
 * @param most triangles; it stops halving when there are more
 */
export function fineTriangles(mesh: Mesh, longest: number, most: number): FineTriangles {
  const points = new FinePoints(mesh.points);
  let { corners, cells } = fansOf(mesh).toArrays();
  while (cells.length < most) {
    const halved = new PairTable(corners.length / 4);
    const first = points.count;
    const places = new PairTable(corners.length / 4);
    const firstAt = new GrowingUint32();
    const cut = new Triangles(2 * cells.length);
    const middle = (a: number, b: number): number => {
      if (points.distance(a, b) <= longest) return NONE;
      const before = halved.count;
      const number = halved.at(Math.min(a, b), Math.max(a, b));
      if (number === before) {
        points.addMiddle(a, b);
        const [c, d] = [points.same.data[a], points.same.data[b]];
        const place = places.at(Math.min(c, d), Math.max(c, d));
        if (place === firstAt.length) firstAt.push(first + number);
        points.same.push(firstAt.data[place]);
      }
      return first + number;
    };
    for (let t = 0; t < cells.length; t++) {
      const [a, b, c] = [corners[3 * t], corners[3 * t + 1], corners[3 * t + 2]];
      cutInto(cut, points, [a, b, c], [middle(a, b), middle(b, c), middle(c, a)], cells[t]);
    }
    ({ corners, cells } = cut.toArrays());
    if (halved.count === 0) break;
  }
  const count = cells.length;
  return {
    mesh: {
      points: points.places.toArray(),
      types: new Uint8Array(count).fill(TRIANGLE),
      offsets: Uint32Array.from({ length: count + 1 }, (_, i) => 3 * i),
      connectivity: corners,
    },
    same: points.same.toArray(),
    recipe: {
      points: weighted(3, points.corners.toArray(), points.weights.toArray()),
      cells: copyOf(cells),
    },
  };
}

const NONE = 0xffffffff;

/** Cuts a triangle at the middles of its sides, in the order of its corners; a side that is not halved has none. */
function cutInto(
  into: Triangles,
  points: FinePoints,
  corners: [number, number, number],
  middles: [number, number, number],
  cell: number,
): void {
  const halves = middles.filter((m) => m !== NONE).length;
  if (halves === 0) into.add(...corners, cell);
  else if (halves === 3) {
    const [a, b, c] = corners;
    const [ab, bc, ca] = middles;
    into.add(a, ab, ca, cell);
    into.add(ab, b, bc, cell);
    into.add(ca, bc, c, cell);
    into.add(ab, bc, ca, cell);
  } else {
    // Turned so that the first side is halved, and the last is not where two are.
    let k = 0;
    while (middles[k] === NONE || (halves === 2 && middles[(k + 2) % 3] !== NONE)) k++;
    const [a, b, c] = [corners[k], corners[(k + 1) % 3], corners[(k + 2) % 3]];
    const [ab, bc] = [middles[k], middles[(k + 1) % 3]];
    if (halves === 1) {
      into.add(a, ab, c, cell);
      into.add(ab, b, c, cell);
      return;
    }
    into.add(ab, b, bc, cell);
    // What is left has four corners: cut along the shorter way.
    if (points.distance(a, bc) < points.distance(ab, c)) {
      into.add(a, ab, bc, cell);
      into.add(a, bc, c, cell);
    } else {
      into.add(a, ab, c, cell);
      into.add(ab, bc, c, cell);
    }
  }
}

/** Places, and how they lie between three points of the mesh. */
class FinePoints {
  readonly places = new GrowingFloat32();
  readonly corners = new GrowingUint32();
  readonly weights = new GrowingFloat32();
  readonly same = new GrowingUint32();

  constructor(points: Float32Array) {
    for (const first of placeNumbers(points, 1e-6 * (boundsDiagonal(boundsOf(points)) || 1)))
      this.same.push(first);
    for (let i = 0; i < points.length / 3; i++) {
      for (let k = 0; k < 3; k++) {
        this.places.push(points[3 * i + k]);
        this.corners.push(i);
        this.weights.push(k === 0 ? 1 : 0);
      }
    }
  }

  get count(): number {
    return this.places.length / 3;
  }

  distance(a: number, b: number): number {
    const { data } = this.places;
    const x = data[3 * a] - data[3 * b];
    const y = data[3 * a + 1] - data[3 * b + 1];
    const z = data[3 * a + 2] - data[3 * b + 2];
    return Math.sqrt(x * x + y * y + z * z);
  }

  /** Both lie in one face, so that three points of the mesh are enough for their middle. */
  addMiddle(a: number, b: number): void {
    for (let k = 0; k < 3; k++)
      this.places.push(0.5 * (this.places.data[3 * a + k] + this.places.data[3 * b + k]));
    const from = this.corners.length;
    for (let k = 0; k < 3; k++) {
      this.corners.push(this.corners.data[3 * a + k]);
      this.weights.push(0.5 * this.weights.data[3 * a + k]);
    }
    for (let k = 0; k < 3; k++) {
      const weight = 0.5 * this.weights.data[3 * b + k];
      if (weight === 0) continue;
      const corner = this.corners.data[3 * b + k];
      let slot = from;
      while (slot < from + 3 && !(this.corners.data[slot] === corner && this.weights.data[slot] > 0)) slot++;
      if (slot === from + 3) {
        slot = from;
        while (this.weights.data[slot] > 0) slot++;
        this.corners.data[slot] = corner;
      }
      this.weights.data[slot] += weight;
    }
  }
}
