/**
 * Something that is zero on a surface in space, above zero on one side and below on the other: what sections,
 * clips and isosurfaces have in common.
 */
export interface Level {
  /** Height of a point of the mesh; NaN where there is none. */
  at(point: number): number;
  /** Looks at a block: afterwards its heights lie between `low` and `high`. */
  look(block: number): void;
  low: number;
  high: number;
}

type Vector = readonly number[];

/** `n . x - o`. */
export class PlaneLevel implements Level {
  low = 0;
  high = 0;
  private readonly nx: number;
  private readonly ny: number;
  private readonly nz: number;
  /** @param n of length one */
  constructor(
    private readonly points: Float32Array,
    private readonly bounds: Float32Array | null,
    n: Vector,
    private readonly o: number,
  ) {
    [this.nx, this.ny, this.nz] = n;
  }
  at(point: number): number {
    const p = this.points;
    const i = 3 * point;
    return this.nx * p[i] + this.ny * p[i + 1] + this.nz * p[i + 2] - this.o;
  }
  look(block: number): void {
    const { nx, ny, nz } = this;
    const b = this.bounds!;
    const k = 6 * block;
    this.high =
      nx * b[k + (nx > 0 ? 1 : 0)] + ny * b[k + (ny > 0 ? 3 : 2)] + nz * b[k + (nz > 0 ? 5 : 4)] - this.o;
    this.low =
      nx * b[k + (nx > 0 ? 0 : 1)] + ny * b[k + (ny > 0 ? 2 : 3)] + nz * b[k + (nz > 0 ? 4 : 5)] - this.o;
  }
}

/** Distance from a centre, less a radius. */
export class SphereLevel implements Level {
  low = 0;
  high = 0;
  constructor(
    private readonly points: Float32Array,
    private readonly bounds: Float32Array | null,
    private readonly centre: Vector,
    private readonly radius: number,
  ) {}
  at(point: number): number {
    const p = this.points;
    const c = this.centre;
    const [x, y, z] = [p[3 * point] - c[0], p[3 * point + 1] - c[1], p[3 * point + 2] - c[2]];
    return Math.sqrt(x * x + y * y + z * z) - this.radius;
  }
  look(block: number): void {
    boxDistance(this, this.bounds!, 6 * block, this.centre, this.radius);
  }
}

/** Distance from an axis through a centre, less a radius. */
export class CylinderLevel implements Level {
  low = 0;
  high = 0;
  /** @param axis of length one */
  constructor(
    private readonly points: Float32Array,
    private readonly bounds: Float32Array | null,
    private readonly centre: Vector,
    private readonly axis: Vector,
    private readonly radius: number,
  ) {}
  at(point: number): number {
    const p = this.points;
    const c = this.centre;
    const a = this.axis;
    const [x, y, z] = [p[3 * point] - c[0], p[3 * point + 1] - c[1], p[3 * point + 2] - c[2]];
    const [u, v, w] = [y * a[2] - z * a[1], z * a[0] - x * a[2], x * a[1] - y * a[0]];
    return Math.sqrt(u * u + v * v + w * w) - this.radius;
  }
  look(block: number): void {
    // The distance changes by no more than the way: half the diagonal around the middle of the block.
    const b = this.bounds!;
    const k = 6 * block;
    const m = [0, 1, 2].map((i) => (b[k + 2 * i] + b[k + 2 * i + 1]) / 2);
    const half = Math.hypot(b[k + 1] - b[k], b[k + 3] - b[k + 2], b[k + 5] - b[k + 4]) / 2;
    const c = this.centre;
    const a = this.axis;
    const d = [m[0] - c[0], m[1] - c[1], m[2] - c[2]];
    const here =
      Math.hypot(d[1] * a[2] - d[2] * a[1], d[2] * a[0] - d[0] * a[2], d[0] * a[1] - d[1] * a[0]) -
      this.radius;
    this.low = here - half * 1.000001;
    this.high = here + half * 1.000001;
  }
}

/** Nearest and farthest distance of a box from a place, less a radius. */
function boxDistance(level: Level, b: Float32Array, k: number, c: Vector, radius: number): void {
  let near = 0;
  let far = 0;
  for (let i = 0; i < 3; i++) {
    const [lo, hi] = [b[k + 2 * i] - c[i], b[k + 2 * i + 1] - c[i]];
    const n = Math.max(lo, -hi, 0);
    const f = Math.max(Math.abs(lo), Math.abs(hi));
    near += n * n;
    far += f * f;
  }
  level.low = Math.sqrt(near) - radius - 1e-6 * radius;
  level.high = Math.sqrt(far) - radius + 1e-6 * radius;
}

/** A value at every point, less the value of the level. */
export class ValueLevel implements Level {
  low = 0;
  high = 0;
  constructor(
    readonly values: ArrayLike<number>,
    private readonly ranges: Float32Array | null,
    readonly value: number,
  ) {}
  at(point: number): number {
    return this.values[point] - this.value;
  }
  look(block: number): void {
    this.low = this.ranges![2 * block] - this.value;
    this.high = this.ranges![2 * block + 1] - this.value;
  }
}
