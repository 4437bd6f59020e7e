import type { Mesh } from '#core/model/mesh.ts';
import { type Asked, type Flow, HERE, OUTSIDE } from '#core/ops/tracing/flow.ts';

/**
 * The yardstick for finding cells: a grid of boxes with the tetrahedra that touch each, looked through anew for every place,
 * with nothing remembered from the place before.
 */
export class PlainFlow implements Flow {
  readonly fastest: number;
  private readonly lists: number[][];
  private readonly n: number;
  private size = 0;

  constructor(
    private readonly mesh: Mesh,
    private readonly velocity: Float32Array,
  ) {
    this.n = Math.max(1, Math.round((mesh.types.length / 6) ** (1 / 3)));
    this.lists = Array.from({ length: this.n ** 3 }, () => []);
    const { points: p, connectivity, types } = mesh;
    for (let c = 0; c < types.length; c++) {
      const nodes = connectivity.subarray(4 * c, 4 * c + 4);
      const range = [0, 1, 2].map((k) => {
        const all = [...nodes].map((i) => p[3 * i + k]);
        return [this.bin(Math.min(...all)), this.bin(Math.max(...all))];
      });
      for (let k = range[2][0]; k <= range[2][1]; k++)
        for (let j = range[1][0]; j <= range[1][1]; j++)
          for (let i = range[0][0]; i <= range[0][1]; i++) this.lists[(k * this.n + j) * this.n + i].push(c);
    }
    this.fastest = velocity.reduce((a, b) => Math.max(a, Math.abs(b)), 0);
  }

  private bin(v: number): number {
    return Math.max(0, Math.min(this.n - 1, Math.floor(v * this.n)));
  }

  at(x: number, y: number, z: number, _time: number, out: Float64Array): Asked {
    const { points: p, connectivity } = this.mesh;
    for (const c of this.lists[(this.bin(z) * this.n + this.bin(y)) * this.n + this.bin(x)]) {
      const nodes = connectivity.subarray(4 * c, 4 * c + 4);
      const [a, b, d, e] = [...nodes].map((i) => [p[3 * i], p[3 * i + 1], p[3 * i + 2]]);
      const [u, v, w, r] = [b, d, e, [x, y, z]].map((q) => q.map((value, k) => value - a[k]));
      const volume = triple(u, v, w);
      const weights = [triple(r, v, w) / volume, triple(u, r, w) / volume, triple(u, v, r) / volume];
      const rest = 1 - weights[0] - weights[1] - weights[2];
      const all = [rest, ...weights];
      if (all.some((value) => value < -1e-5)) continue;
      for (let k = 0; k < 3; k++)
        out[k] = all.reduce((sum, value, i) => sum + value * this.velocity[3 * nodes[i] + k], 0);
      this.size = Math.max(...[u, v, w].map((s) => Math.max(...s.map(Math.abs))));
      return HERE;
    }
    return OUTSIDE;
  }

  reach = (): number => this.size;
}

const triple = (a: number[], b: number[], c: number[]): number =>
  a[0] * (b[1] * c[2] - b[2] * c[1]) +
  a[1] * (b[2] * c[0] - b[0] * c[2]) +
  a[2] * (b[0] * c[1] - b[1] * c[0]);
