import { GrowingFloat32, GrowingUint32 } from '../model/growing.ts';
import type { VertexRecipe } from '../model/recipe.ts';

/**
 * Vertices placed on edges between input points, each made once however many cells share the edge.
 * A vertex that falls on an input point is that point.
 */
export class EdgeVertices {
  readonly positions = new GrowingFloat32(3072);
  private readonly ends = new GrowingUint32(2048);
  private readonly weights = new GrowingFloat32(2048);
  private table = new Int32Array(4096).fill(-1);
  private count = 0;

  constructor(private readonly points: Float32Array) {}

  /** The vertex where a level is crossed between points `a` (level distance `da`) and `b` (`db`). */
  at(a: number, b: number, da: number, db: number): number {
    let from = a;
    let to = b;
    let t: number;
    if (da === 0) {
      to = a;
      t = 0;
    } else if (db === 0) {
      from = b;
      t = 0;
    } else if (a > b) {
      from = b;
      to = a;
      t = db / (db - da);
    } else t = da / (da - db);
    let slot = this.slotOf(from, to);
    const known = this.table[slot];
    if (known >= 0) return known;
    if (this.count * 2 >= this.table.length) {
      this.grow();
      slot = this.slotOf(from, to);
    }
    const p = this.points;
    for (let k = 0; k < 3; k++) this.positions.push(p[3 * from + k] + t * (p[3 * to + k] - p[3 * from + k]));
    this.ends.push(from);
    this.ends.push(to);
    this.weights.push(1 - t);
    this.weights.push(t);
    this.table[slot] = this.count;
    return this.count++;
  }

  recipe(): VertexRecipe {
    return { width: 2, index: this.ends.toArray(), weight: this.weights.toArray() };
  }

  private slotOf(a: number, b: number): number {
    const mask = this.table.length - 1;
    let slot = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) & mask;
    for (let v = this.table[slot]; v >= 0; v = this.table[slot]) {
      if (this.ends.data[2 * v] === a && this.ends.data[2 * v + 1] === b) break;
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private grow(): void {
    this.table = new Int32Array(this.table.length * 2).fill(-1);
    for (let v = 0; v < this.count; v++) {
      this.table[this.slotOf(this.ends.data[2 * v], this.ends.data[2 * v + 1])] = v;
    }
  }
}
