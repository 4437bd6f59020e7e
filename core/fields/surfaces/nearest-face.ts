import { cellTypes } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { fansOf, type Triangles } from './triangles.ts';

/** So many triangles are looked at one by one; fewer would be more boxes than triangles. */
const IN_LEAF = 8;

/**
 * Finds the face that is nearest to a place.
 *
 * Method: a tree of boxes around triangles, each halved at the middle one along its longest side; boxes that are farther away than
 * what was found are passed over.
 */
export class NearestFace {
  /** How far the face that was found last is. */
  distance = Infinity;
  private readonly points: Float32Array;
  /** Triangles in the order of the tree, and the boxes: the two behind box `b` are `2 b + 1` and `2 b + 2`. */
  private readonly order: Uint32Array;
  private readonly boxes: Float32Array;
  private readonly corners: Uint32Array;
  private readonly faces: Uint32Array;
  private readonly stack = new Float64Array(3 * 64);

  /**
   * @param reach what is farther away is not found; in the unit of the points
   * @param slender whether lines and lone points count as well
   */
  constructor(
    mesh: Mesh,
    private readonly reach = Infinity,
    slender = false,
  ) {
    this.points = mesh.points;
    const triangles = fansOf(mesh);
    if (slender) addSlender(mesh, triangles);
    const { corners, cells } = triangles.toArrays();
    this.corners = corners;
    this.faces = cells;
    const n = cells.length;
    this.order = Uint32Array.from({ length: n }, (_, t) => t);
    const leaves = 2 ** Math.max(0, Math.ceil(Math.log2(n / IN_LEAF)));
    this.boxes = new Float32Array(6 * (2 * leaves - 1));
    if (n > 0) this.build(0, 0, n, middlesOf(mesh.points, corners));
  }

  /** The face nearest to a place, or -1 where none is within reach; of two that are as near the first. */
  find(x: number, y: number, z: number): number {
    this.distance = Infinity;
    let found = -1;
    if (this.order.length === 0) return found;
    let best = this.reach;
    const { stack, order, faces } = this;
    stack[0] = 0;
    stack[1] = 0;
    stack[2] = order.length;
    for (let top = 1; top > 0; ) {
      top--;
      const [box, from, to] = [stack[3 * top], stack[3 * top + 1], stack[3 * top + 2]];
      // What lies at its edge in single precision is looked at.
      if (this.toBox(box, x, y, z) > best * (1 + 1e-6)) continue;
      if (this.isLeaf(box)) {
        for (let i = from; i < to; i++) {
          const d = this.distanceTo(order[i], x, y, z);
          const face = faces[order[i]];
          if (d > best || (d === this.distance && face > found)) continue;
          best = d;
          this.distance = d;
          found = face;
        }
        continue;
      }
      const middle = (from + to) >> 1;
      const [left, right] = [2 * box + 1, 2 * box + 2];
      const nearFirst = this.toBox(left, x, y, z) <= this.toBox(right, x, y, z);
      // The one that is looked at first lies on top.
      for (const isLeft of nearFirst ? [false, true] : [true, false]) {
        stack[3 * top] = isLeft ? left : right;
        stack[3 * top + 1] = isLeft ? from : middle;
        stack[3 * top + 2] = isLeft ? middle : to;
        top++;
      }
    }
    return found;
  }

  private isLeaf(box: number): boolean {
    return 6 * (2 * box + 1) >= this.boxes.length;
  }

  private build(box: number, from: number, to: number, middles: Float32Array): void {
    const { boxes, order, corners, points } = this;
    const at = 6 * box;
    for (let k = 0; k < 3; k++) {
      let [low, high] = [Infinity, -Infinity];
      for (let i = from; i < to; i++)
        for (let c = 0; c < 3; c++) {
          const v = points[3 * corners[3 * order[i] + c] + k];
          if (v < low) low = v;
          if (v > high) high = v;
        }
      boxes[at + 2 * k] = low;
      boxes[at + 2 * k + 1] = high;
    }
    if (this.isLeaf(box)) return;
    const sides = [0, 1, 2].map((k) => boxes[at + 2 * k + 1] - boxes[at + 2 * k]);
    const axis = sides.indexOf(Math.max(...sides));
    const middle = (from + to) >> 1;
    halve(order, from, to, middle, (t) => middles[3 * t + axis]);
    this.build(2 * box + 1, from, middle, middles);
    this.build(2 * box + 2, middle, to, middles);
  }

  private toBox(box: number, x: number, y: number, z: number): number {
    const { boxes } = this;
    const at = 6 * box;
    const dx = Math.max(boxes[at] - x, x - boxes[at + 1], 0);
    const dy = Math.max(boxes[at + 2] - y, y - boxes[at + 3], 0);
    const dz = Math.max(boxes[at + 4] - z, z - boxes[at + 5], 0);
    return Math.sqrt(dx * dx + dy * dy + dz * dz);
  }

  /**
   * Written out by components, for this is asked for every triangle near to every grain.
   *
   * Method: the nearest point of a triangle by the regions of its corners, sides and inside (Ericson 2005, Real-Time
   * Collision Detection, 5.1.5; from memory).
   */
  private distanceTo(t: number, x: number, y: number, z: number): number {
    const { points, corners } = this;
    const [a, b, c] = [3 * corners[3 * t], 3 * corners[3 * t + 1], 3 * corners[3 * t + 2]];
    // From the place to a corner, and along the two sides from there.
    const ax = points[a] - x;
    const ay = points[a + 1] - y;
    const az = points[a + 2] - z;
    const ux = points[b] - points[a];
    const uy = points[b + 1] - points[a + 1];
    const uz = points[b + 2] - points[a + 2];
    const vx = points[c] - points[a];
    const vy = points[c + 1] - points[a + 1];
    const vz = points[c + 2] - points[a + 2];
    const uu = ux * ux + uy * uy + uz * uz;
    const uv = ux * vx + uy * vy + uz * vz;
    const vv = vx * vx + vy * vy + vz * vz;
    const d1 = -(ux * ax + uy * ay + uz * az);
    const d2 = -(vx * ax + vy * ay + vz * az);
    const d3 = d1 - uu;
    const d4 = d2 - uv;
    const d5 = d1 - uv;
    const d6 = d2 - vv;
    const vc = d1 * d4 - d3 * d2;
    const vb = d5 * d2 - d1 * d6;
    const va = d3 * d6 - d5 * d4;
    let u = 0;
    let v = 0;
    if (d1 <= 0 && d2 <= 0) {
      // The first corner.
    } else if (d3 >= 0 && d4 <= d3) u = 1;
    else if (d6 >= 0 && d5 <= d6) v = 1;
    else if (vc <= 0 && d1 >= 0 && d3 <= 0) u = d1 / (d1 - d3);
    else if (vb <= 0 && d2 >= 0 && d6 <= 0) v = d2 / (d2 - d6);
    else if (va <= 0 && d4 >= d3 && d5 >= d6) {
      v = (d4 - d3) / (d4 - d3 + (d5 - d6));
      u = 1 - v;
    } else {
      u = vb / (va + vb + vc);
      v = vc / (va + vb + vc);
    }
    const px = ax + u * ux + v * vx;
    const py = ay + u * uy + v * vy;
    const pz = az + u * uz + v * vz;
    return Math.sqrt(px * px + py * py + pz * pz);
  }
}

/** Puts those with the lower keys before the middle one, and the others behind it (Hoare, Find, Comm. ACM 4 (1961) 321). */
function halve(
  order: Uint32Array,
  from: number,
  to: number,
  middle: number,
  key: (item: number) => number,
): void {
  for (let [low, high] = [from, to - 1]; low < high; ) {
    const pivot = key(order[(low + high) >> 1]);
    let [i, j] = [low, high];
    while (i <= j) {
      while (key(order[i]) < pivot) i++;
      while (key(order[j]) > pivot) j--;
      if (i > j) break;
      [order[i], order[j]] = [order[j], order[i]];
      i++;
      j--;
    }
    if (middle <= j) high = j;
    else if (middle >= i) low = i;
    else return;
  }
}

function middlesOf(points: Float32Array, corners: Uint32Array): Float32Array {
  const out = new Float32Array(corners.length);
  for (let t = 0; t < corners.length; t += 3)
    for (let k = 0; k < 3; k++)
      out[t + k] =
        (points[3 * corners[t] + k] + points[3 * corners[t + 1] + k] + points[3 * corners[t + 2] + k]) / 3;
  return out;
}

/** Lines and points as triangles that are as narrow as they are. */
function addSlender({ types, offsets, connectivity }: Mesh, to: Triangles): void {
  for (let c = 0; c < types.length; c++) {
    const { dimension } = cellTypes.get(types[c])!;
    if (dimension > 1) continue;
    const [first, end] = [offsets[c], offsets[c + 1]];
    if (dimension === 0)
      for (let i = first; i < end; i++) to.add(connectivity[i], connectivity[i], connectivity[i], c);
    else
      for (let i = first; i + 1 < end; i++)
        to.add(connectivity[i], connectivity[i + 1], connectivity[i + 1], c);
  }
}
