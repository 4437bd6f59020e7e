import { GrowingFloat32 } from '../model/growing.ts';
import { PairTable } from '../model/pair-table.ts';
import { type Gather, weighted } from '../model/recipe.ts';

/**
 * Vertices placed on edges between input points, each made once however many cells share the edge.
 * A vertex that falls on an input point is that point.
 */
export class EdgeVertices {
  readonly positions = new GrowingFloat32(3072);
  private readonly ends: PairTable;
  private readonly weights = new GrowingFloat32(2048);

  /** @param expected about how many there will be */
  constructor(
    private readonly points: Float32Array,
    expected = 2048,
  ) {
    this.ends = new PairTable(expected);
  }

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
    const { count } = this.ends;
    const found = this.ends.at(from, to);
    if (found < count) return found;
    const p = this.points;
    for (let k = 0; k < 3; k++) this.positions.push(p[3 * from + k] + t * (p[3 * to + k] - p[3 * from + k]));
    this.weights.push(1 - t);
    this.weights.push(t);
    return found;
  }

  recipe(): Gather {
    return weighted(2, this.ends.pairs.toArray(), this.weights.toArray());
  }
}
