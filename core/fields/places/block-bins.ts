import type { CellBlocks } from '../../model/blocks.ts';

/** Blocks of cells in a coarse grid of boxes. */
export class BlockBins {
  private readonly low = new Float64Array(3);
  private readonly scale = new Float64Array(3);
  private readonly size = [1, 1, 1];
  private readonly lists: Uint32Array[];
  /** Added around blocks of surfaces, beside which places lie. */
  private readonly slack: number;

  constructor(readonly blocks: CellBlocks) {
    const { bounds } = blocks;
    const n = bounds.length / 6;
    const high = [-Infinity, -Infinity, -Infinity];
    this.low.fill(Infinity);
    for (let b = 0; b < n; b++)
      for (let k = 0; k < 3; k++) {
        this.low[k] = Math.min(this.low[k], bounds[6 * b + 2 * k]);
        high[k] = Math.max(high[k], bounds[6 * b + 2 * k + 1]);
      }
    const sides = high.map((v, k) => Math.max(0, v - this.low[k]));
    const longest = Math.max(...sides);
    this.slack = 1e-4 * longest;
    const thick = sides.filter((s) => s > 1e-6 * longest);
    const edge = (thick.reduce((v, s) => v * s, 1) / Math.max(1, n)) ** (1 / (thick.length || 1));
    for (let k = 0; k < 3; k++) {
      this.low[k] -= this.slack;
      const whole = sides[k] + 2 * this.slack || 1;
      this.size[k] = Math.max(1, Math.min(128, Math.round(whole / (edge || 1))));
      this.scale[k] = this.size[k] / whole;
    }
    const lists: number[][] = Array.from({ length: this.size[0] * this.size[1] * this.size[2] }, () => []);
    for (let b = 0; b < n; b++) {
      const range = [0, 1, 2].map((k) => [
        this.bin(k, bounds[6 * b + 2 * k] - this.slack),
        this.bin(k, bounds[6 * b + 2 * k + 1] + this.slack),
      ]);
      for (let k = range[2][0]; k <= range[2][1]; k++)
        for (let j = range[1][0]; j <= range[1][1]; j++)
          for (let i = range[0][0]; i <= range[0][1]; i++)
            lists[(k * this.size[1] + j) * this.size[0] + i].push(b);
    }
    this.lists = lists.map((l) => Uint32Array.from(l));
  }

  /** The blocks that may hold a place. */
  at(x: number, y: number, z: number): Uint32Array {
    const [i, j, k] = [this.bin(0, x), this.bin(1, y), this.bin(2, z)];
    return this.lists[(k * this.size[1] + j) * this.size[0] + i];
  }

  inBlock(block: number, x: number, y: number, z: number): boolean {
    const { bounds } = this.blocks;
    const b = 6 * block;
    const s = this.slack;
    return (
      x >= bounds[b] - s &&
      x <= bounds[b + 1] + s &&
      y >= bounds[b + 2] - s &&
      y <= bounds[b + 3] + s &&
      z >= bounds[b + 4] - s &&
      z <= bounds[b + 5] + s
    );
  }

  private bin(k: number, v: number): number {
    const at = Math.floor((v - this.low[k]) * this.scale[k]);
    return at < 0 ? 0 : at >= this.size[k] ? this.size[k] - 1 : at;
  }
}
