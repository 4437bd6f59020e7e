/** A matrix of complex numbers with nothing beyond `band` beside its diagonal, and a right side, to be filled. */
export interface BandSystem {
  entry(row: number, column: number, re: number, im: number): void;
  right(row: number, re: number, im: number): void;
}

/**
 * Solves a complex system with a narrow band by elimination without exchange of rows (Golub and Van Loan, Matrix
 * Computations, from memory). Meant for equations of waves with losses, whose pivots stay away from zero.
 *
 * @param n number of unknowns
 * @param band largest distance of an entry from the diagonal
 */
export function solveBanded(
  n: number,
  band: number,
  fill: (system: BandSystem) => void,
): { field: { re: Float64Array; im: Float64Array } } {
  const width = 2 * band + 1;
  const re = new Float64Array(n * width);
  const im = new Float64Array(n * width);
  const field = { re: new Float64Array(n), im: new Float64Array(n) };
  fill({
    entry(row, column, a, b) {
      const at = row * width + column - row + band;
      re[at] += a;
      im[at] += b;
    },
    right(row, a, b) {
      field.re[row] += a;
      field.im[row] += b;
    },
  });
  for (let p = 0; p < n; p++) {
    const own = p * width + band;
    const size = re[own] ** 2 + im[own] ** 2;
    const [pr, pi] = [re[own] / size, -im[own] / size];
    const last = Math.min(n - 1, p + band);
    for (let row = p + 1; row <= last; row++) {
      const at = row * width + p - row + band;
      const [ar, ai] = [re[at], im[at]];
      if (ar === 0 && ai === 0) continue;
      const fr = ar * pr - ai * pi;
      const fi = ar * pi + ai * pr;
      for (let k = 1; k <= last - p; k++) {
        const [ur, ui] = [re[own + k], im[own + k]];
        re[at + k] -= fr * ur - fi * ui;
        im[at + k] -= fr * ui + fi * ur;
      }
      field.re[row] -= fr * field.re[p] - fi * field.im[p];
      field.im[row] -= fr * field.im[p] + fi * field.re[p];
    }
  }
  for (let p = n - 1; p >= 0; p--) {
    const own = p * width + band;
    let [sr, si] = [field.re[p], field.im[p]];
    for (let k = 1; k <= Math.min(band, n - 1 - p); k++) {
      sr -= re[own + k] * field.re[p + k] - im[own + k] * field.im[p + k];
      si -= re[own + k] * field.im[p + k] + im[own + k] * field.re[p + k];
    }
    const size = re[own] ** 2 + im[own] ** 2;
    field.re[p] = (sr * re[own] + si * im[own]) / size;
    field.im[p] = (si * re[own] - sr * im[own]) / size;
  }
  return { field };
}
