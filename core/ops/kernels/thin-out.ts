import { boundsOf } from '../../model/mesh.ts';

/**
 * Which of many places to keep so that a number of them is spread evenly and without pattern (blue noise): the one that
 * crowds the others most is taken away, again and again.
 *
 * Method: weighted sample elimination (Yuksel, "Sample Elimination for Generating Poisson Disk Sample Sets", Computer
 * Graphics Forum 34, 2015, section 3; from memory), with its alpha = 8, beta = 0.65 and gamma = 1.5.
 *
 * @param places three numbers each, more than are wanted; about four to five times as many serve well
 * @param wanted how many are kept
 * @param extent area or volume they are spread over, or length, by `dimension`
 * @returns the kept ones, in rising order
 */
export function thinnedOut(
  places: Float32Array,
  wanted: number,
  extent: number,
  dimension: 1 | 2 | 3,
): Uint32Array {
  const n = places.length / 3;
  const kept = new Uint8Array(n).fill(1);
  if (n > wanted && wanted > 0) eliminate(places, kept, wanted, 2 * largestRadius(wanted, extent, dimension));
  const out: number[] = [];
  for (let i = 0; i < n; i++) if (kept[i] && wanted > 0) out.push(i);
  return Uint32Array.from(out);
}

/** Half the distance of neighbours where as many as can be lie in a line, a plane or space. */
function largestRadius(count: number, extent: number, dimension: 1 | 2 | 3): number {
  if (dimension === 1) return extent / (2 * count);
  if (dimension === 2) return Math.sqrt(extent / (2 * Math.sqrt(3) * count));
  return Math.cbrt(extent / (4 * Math.SQRT2 * count));
}

const BETA = 0.65;
const GAMMA = 1.5;

function eliminate(places: Float32Array, kept: Uint8Array, wanted: number, reach: number): void {
  const n = places.length / 3;
  const near = new Neighbours(places, reach);
  // No pair that is nearer than this crowds more than another, or clusters of chance would be kept.
  const least = reach * (1 - (wanted / n) ** GAMMA) * BETA;
  const crowding = (i: number, j: number): number => {
    const d = Math.max(near.distance(i, j), least);
    const w = 1 - Math.min(1, d / reach);
    const [w2, w4] = [w * w, w * w * w * w];
    return w2 * w2 * w4;
  };
  const crowd = new Float64Array(n);
  for (let i = 0; i < n; i++)
    near.each(i, (j) => {
      crowd[i] += crowding(i, j);
    });
  const heap = new Heap(crowd);
  for (let left = n; left > wanted; left--) {
    const i = heap.pop();
    kept[i] = 0;
    near.each(i, (j) => {
      if (!kept[j]) return;
      crowd[j] -= crowding(i, j);
      heap.sink(j);
    });
  }
}

/** Places in a grid of cubes as wide as the reach. */
class Neighbours {
  private readonly order: Uint32Array;
  private readonly starts: Map<number, [number, number]> = new Map();
  private readonly low: number[];

  constructor(
    private readonly places: Float32Array,
    private readonly reach: number,
  ) {
    const b = boundsOf(places);
    this.low = [b[0], b[2], b[4]];
    const n = places.length / 3;
    const keys = Float64Array.from({ length: n }, (_, i) =>
      this.keyOf(this.cube(i, 0), this.cube(i, 1), this.cube(i, 2)),
    );
    this.order = Uint32Array.from({ length: n }, (_, i) => i).sort((a, c) => keys[a] - keys[c]);
    for (let from = 0; from < n; ) {
      const key = keys[this.order[from]];
      let to = from + 1;
      while (to < n && keys[this.order[to]] === key) to++;
      this.starts.set(key, [from, to]);
      from = to;
    }
  }

  private cube(i: number, k: number): number {
    return Math.floor((this.places[3 * i + k] - this.low[k]) / this.reach);
  }

  private keyOf(x: number, y: number, z: number): number {
    return (z * 2 ** 17 + y) * 2 ** 17 + x;
  }

  distance(i: number, j: number): number {
    const p = this.places;
    const x = p[3 * i] - p[3 * j];
    const y = p[3 * i + 1] - p[3 * j + 1];
    const z = p[3 * i + 2] - p[3 * j + 2];
    return Math.sqrt(x * x + y * y + z * z);
  }

  /** Visits the others within reach. */
  each(i: number, visit: (other: number) => void): void {
    const [x, y, z] = [this.cube(i, 0), this.cube(i, 1), this.cube(i, 2)];
    for (let dz = -1; dz <= 1; dz++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const range = this.starts.get(this.keyOf(x + dx, y + dy, z + dz));
          if (!range) continue;
          for (let k = range[0]; k < range[1]; k++) {
            const j = this.order[k];
            if (j !== i && this.distance(i, j) < this.reach) visit(j);
          }
        }
  }
}

/** Numbers with the largest on top, whose values may become smaller while they are in it. */
class Heap {
  private readonly items: Uint32Array;
  private readonly where: Int32Array;
  private size: number;

  constructor(private readonly values: Float64Array) {
    this.size = values.length;
    this.items = Uint32Array.from(values, (_, i) => i);
    this.where = Int32Array.from(values, (_, i) => i);
    for (let i = (this.size >> 1) - 1; i >= 0; i--) this.down(i);
  }

  pop(): number {
    const top = this.items[0];
    this.size--;
    if (this.size > 0) {
      this.put(0, this.items[this.size]);
      this.down(0);
    }
    this.where[top] = -1;
    return top;
  }

  /** Puts an item in order whose value has become smaller. */
  sink(item: number): void {
    if (this.where[item] >= 0) this.down(this.where[item]);
  }

  private put(at: number, item: number): void {
    this.items[at] = item;
    this.where[item] = at;
  }

  private down(from: number): void {
    const { items, values } = this;
    const item = items[from];
    let at = from;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= this.size) break;
      if (child + 1 < this.size && values[items[child + 1]] > values[items[child]]) child++;
      if (values[items[child]] <= values[item]) break;
      this.put(at, items[child]);
      at = child;
    }
    this.put(at, item);
  }
}
