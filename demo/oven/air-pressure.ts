/** The six neighbours of cells and how well each is joined to them; a closed side points back at its own cell. */
interface Level {
  n: number;
  neighbours: Uint32Array;
  weights: Float32Array;
  diagonal: Float32Array;
  /** The cell of the next coarser level each cell belongs to. */
  parent: Uint32Array | null;
  right: Float64Array;
  x: Float64Array;
  rest: Float64Array;
}

const TOLERANCE = 2e-3;
const MOST_ROUNDS = 40;
/** Coarse cells of blocks are too stiff: their answer is taken larger (Braess 1995, from memory). */
const OVERCORRECTION = 1.8;

/**
 * Poisson's equation on the air cells of a grid, with closed sides wherever there is no air: conjugate gradients
 * (Hestenes and Stiefel 1952), each round eased by one cycle over ever coarser blocks of cells (multigrid by aggregation;
 * Notay 2010, from memory).
 */
export class AirPressure {
  readonly cells: Uint32Array;
  private readonly levels: Level[] = [];
  private readonly residual: Float64Array;
  private readonly image: Float64Array;
  private readonly direction: Float64Array;

  constructor(size: [number, number, number], isAir: (at: number) => boolean) {
    const [nx, ny, nz] = size;
    const number = new Int32Array(nx * ny * nz).fill(-1);
    const cells: number[] = [];
    for (let at = 0; at < number.length; at++)
      if (isAir(at)) {
        number[at] = cells.length;
        cells.push(at);
      }
    this.cells = Uint32Array.from(cells);
    [this.residual, this.image, this.direction] = [0, 1, 2].map(() => new Float64Array(cells.length));
    const places = cells.map((at) => [at % nx, Math.floor(at / nx) % ny, Math.floor(at / (nx * ny))]);
    const weights = new Map<number, number>();
    const join = (a: number, b: number): void => {
      if (a >= 0 && b >= 0) weights.set(a * cells.length + b, 1);
    };
    for (const [c, at] of cells.entries()) {
      const [i, j, k] = places[c];
      if (i + 1 < nx) join(c, number[at + 1]);
      if (j + 1 < ny) join(c, number[at + nx]);
      if (k + 1 < nz) join(c, number[at + nx * ny]);
    }
    this.build(places, size, weights);
  }

  /**
   * Solves for x, beginning with what it holds; `right` is the outflow of each cell, and its mean is taken off.
   *
   * @returns rounds it took
   */
  solve(x: Float64Array, right: Float64Array): number {
    const [top] = this.levels;
    const { n } = top;
    const { residual, image, direction } = this;
    laplacian(top, x, image);
    let goal = 0;
    for (let c = 0; c < n; c++) {
      residual[c] = right[c] - image[c];
      goal += right[c] ** 2;
    }
    goal *= TOLERANCE ** 2;
    let before = 0;
    for (let round = 0; round < MOST_ROUNDS; round++) {
      let size = 0;
      for (let c = 0; c < n; c++) size += residual[c] ** 2;
      if (size <= goal) return round;
      top.right.set(residual);
      this.cycle(0);
      let now = 0;
      for (let c = 0; c < n; c++) now += residual[c] * top.x[c];
      const turn = round === 0 ? 0 : now / before;
      for (let c = 0; c < n; c++) direction[c] = top.x[c] + turn * direction[c];
      before = now;
      laplacian(top, direction, image);
      let along = 0;
      for (let c = 0; c < n; c++) along += direction[c] * image[c];
      const step = now / along;
      for (let c = 0; c < n; c++) {
        x[c] += step * direction[c];
        residual[c] -= step * image[c];
      }
    }
    return MOST_ROUNDS;
  }

  /** Of the values of all cells of the grid: a cell's own, halfway to the mean of the air around it. */
  meanAround(n: number, values: Float32Array): number {
    const { neighbours } = this.levels[0];
    const { cells } = this;
    let sum = 0;
    for (let s = 6 * n; s < 6 * n + 6; s++) sum += values[cells[neighbours[s]]];
    return 0.5 * values[cells[n]] + sum / 12;
  }

  private build(places: number[][], size: number[], weights: Map<number, number>): void {
    const n = places.length;
    const neighbours = Array.from({ length: n }, (): [number, number][] => []);
    for (const [pair, weight] of weights) {
      const [a, b] = [Math.floor(pair / n), pair % n];
      neighbours[a].push([b, weight]);
      neighbours[b].push([a, weight]);
    }
    const level: Level = {
      n,
      neighbours: new Uint32Array(6 * n),
      weights: new Float32Array(6 * n),
      diagonal: new Float32Array(n),
      parent: null,
      right: new Float64Array(n),
      x: new Float64Array(n),
      rest: new Float64Array(n),
    };
    for (let c = 0; c < n; c++)
      for (let s = 0; s < 6; s++) {
        const [b, weight] = neighbours[c][s] ?? [c, 0];
        level.neighbours[6 * c + s] = b;
        level.weights[6 * c + s] = weight;
        level.diagonal[c] += weight;
      }
    this.levels.push(level);
    if (n < 40) return;
    const half = size.map((s) => Math.ceil(s / 2));
    const number = new Map<number, number>();
    const coarse: number[][] = [];
    level.parent = Uint32Array.from(places, (p) => {
      const [i, j, k] = p.map((v) => v >> 1);
      const at = (k * half[1] + j) * half[0] + i;
      let found = number.get(at);
      if (found === undefined) {
        number.set(at, (found = coarse.length));
        coarse.push([i, j, k]);
      }
      return found;
    });
    const joined = new Map<number, number>();
    for (const [pair, weight] of weights) {
      const [a, b] = [level.parent[Math.floor(pair / n)], level.parent[pair % n]];
      if (a === b) continue;
      const key = Math.min(a, b) * coarse.length + Math.max(a, b);
      joined.set(key, (joined.get(key) ?? 0) + weight);
    }
    if (coarse.length < n) this.build(coarse, half, joined);
  }

  /** One cycle: smooth forward, correct with coarser blocks, smooth backward, so that it stays symmetric. */
  private cycle(depth: number): void {
    const level = this.levels[depth];
    const coarser = this.levels[depth + 1];
    level.x.fill(0);
    smooth(level, true);
    if (!coarser) {
      for (let n = 0; n < 20; n++) {
        smooth(level, false);
        smooth(level, true);
      }
      smooth(level, false);
      return;
    }
    laplacian(level, level.x, level.rest);
    coarser.right.fill(0);
    const parent = level.parent!;
    for (let c = 0; c < level.n; c++) coarser.right[parent[c]] += level.right[c] - level.rest[c];
    this.cycle(depth + 1);
    for (let c = 0; c < level.n; c++) level.x[c] += OVERCORRECTION * coarser.x[parent[c]];
    smooth(level, false);
  }
}

function laplacian(
  { n, neighbours: nb, weights: w, diagonal }: Level,
  x: Float64Array,
  out: Float64Array,
): void {
  for (let c = 0, s = 0; c < n; c++, s += 6)
    out[c] =
      diagonal[c] * x[c] -
      w[s] * x[nb[s]] -
      w[s + 1] * x[nb[s + 1]] -
      w[s + 2] * x[nb[s + 2]] -
      w[s + 3] * x[nb[s + 3]] -
      w[s + 4] * x[nb[s + 4]] -
      w[s + 5] * x[nb[s + 5]];
}

/** One sweep of Gauss and Seidel. */
function smooth({ n, neighbours: nb, weights: w, diagonal, right, x }: Level, forward: boolean): void {
  for (let m = 0; m < n; m++) {
    const c = forward ? m : n - 1 - m;
    const s = 6 * c;
    if (diagonal[c] === 0) continue;
    x[c] =
      (right[c] +
        w[s] * x[nb[s]] +
        w[s + 1] * x[nb[s + 1]] +
        w[s + 2] * x[nb[s + 2]] +
        w[s + 3] * x[nb[s + 3]] +
        w[s + 4] * x[nb[s + 4]] +
        w[s + 5] * x[nb[s + 5]]) /
      diagonal[c];
  }
}
