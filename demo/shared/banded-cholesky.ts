/**
 * A symmetric matrix with nothing beyond `band` beside its diagonal, lower half, and its Cholesky factor (Golub and Van
 * Loan, Matrix Computations, from memory).
 */
export class BandedMatrix {
  readonly data: Float64Array;

  constructor(
    readonly n: number,
    readonly band: number,
  ) {
    this.data = new Float64Array(n * (band + 1));
  }

  /** Adds to an entry of the lower half; of the upper half nothing is kept. */
  add(row: number, column: number, value: number): void {
    if (column <= row) this.data[row * (this.band + 1) + column - row + this.band] += value;
  }

  times(x: Float64Array): Float64Array {
    const { n, band, data } = this;
    const out = new Float64Array(n);
    for (let r = 0; r < n; r++) {
      const row = r * (band + 1) + band - r;
      let sum = data[row + r] * x[r];
      for (let c = Math.max(0, r - band); c < r; c++) {
        sum += data[row + c] * x[c];
        out[c] += data[row + c] * x[r];
      }
      out[r] += sum;
    }
    return out;
  }

  /** @throws Error when it is not positive definite */
  factor(): BandedFactor {
    const { n, band } = this;
    const l = this.data.slice();
    for (let r = 0; r < n; r++) {
      const row = r * (band + 1) + band - r;
      for (let c = Math.max(0, r - band); c <= r; c++) {
        const other = c * (band + 1) + band - c;
        let sum = l[row + c];
        for (let k = Math.max(0, r - band, c - band); k < c; k++) sum -= l[row + k] * l[other + k];
        if (c < r) l[row + c] = sum / l[other + c];
        else {
          if (!(sum > 0)) throw new Error('The structure is not held.');
          l[row + r] = Math.sqrt(sum);
        }
      }
    }
    return new BandedFactor(n, band, l);
  }
}

export class BandedFactor {
  constructor(
    private readonly n: number,
    private readonly band: number,
    private readonly l: Float64Array,
  ) {}

  solve(right: Float64Array): Float64Array {
    const { n, band, l } = this;
    const x = right.slice();
    for (let r = 0; r < n; r++) {
      const row = r * (band + 1) + band - r;
      for (let c = Math.max(0, r - band); c < r; c++) x[r] -= l[row + c] * x[c];
      x[r] /= l[row + r];
    }
    for (let r = n - 1; r >= 0; r--) {
      const row = r * (band + 1) + band - r;
      x[r] /= l[row + r];
      for (let c = Math.max(0, r - band); c < r; c++) x[c] -= l[row + c] * x[r];
    }
    return x;
  }
}
