import { PairTable } from '../../model/pair-table.ts';
import { type Gather, weighted } from '../../model/recipe.ts';

/**
 * Vertices placed on edges between input points, each made once however many cells share the edge.
 * A vertex that falls on an input point is that point.
 */
export class EdgeVertices {
  private readonly ends: PairTable;
  private places: Float32Array;
  private weights: Float32Array;

  /** @param expected about how many there will be */
  constructor(
    private readonly points: Float32Array,
    expected = 2048,
  ) {
    this.ends = new PairTable(expected);
    const room = Math.max(16, Math.ceil(expected));
    this.places = new Float32Array(3 * room);
    this.weights = new Float32Array(2 * room);
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
    if (2 * found >= this.weights.length) this.grow();
    const p = this.points;
    const f = 3 * from;
    const g = 3 * to;
    const out = this.places;
    out[3 * found] = p[f] + t * (p[g] - p[f]);
    out[3 * found + 1] = p[f + 1] + t * (p[g + 1] - p[f + 1]);
    out[3 * found + 2] = p[f + 2] + t * (p[g + 2] - p[f + 2]);
    this.weights[2 * found] = 1 - t;
    this.weights[2 * found + 1] = t;
    return found;
  }

  get positions(): Float32Array {
    return this.places.slice(0, 3 * this.ends.count);
  }

  recipe(): Gather {
    return weighted(2, this.ends.toArray(), this.weights.slice(0, 2 * this.ends.count));
  }

  private grow(): void {
    const { places, weights } = this;
    this.places = new Float32Array(2 * places.length);
    this.places.set(places);
    this.weights = new Float32Array(2 * weights.length);
    this.weights.set(weights);
  }
}
