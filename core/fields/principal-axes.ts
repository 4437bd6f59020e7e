/**
 * Principal axes of a symmetric 3 x 3 matrix by Jacobi rotations (Golub and Van Loan, Matrix Computations, section 8.5;
 * from memory).
 *
 * @param a the matrix, row by row; afterwards its principal values stand on the diagonal
 * @param v gets the axes as columns
 */
export function principalAxes(a: Float64Array, v: Float64Array): void {
  v.set([1, 0, 0, 0, 1, 0, 0, 0, 1]);
  for (let sweep = 0; sweep < 12; sweep++) {
    const off = a[1] * a[1] + a[2] * a[2] + a[5] * a[5];
    if (off <= 1e-30 * (a[0] * a[0] + a[4] * a[4] + a[8] * a[8])) return;
    for (let p = 0; p < 2; p++)
      for (let q = p + 1; q < 3; q++) {
        const apq = a[3 * p + q];
        if (apq === 0) continue;
        const theta = (a[4 * q] - a[4 * p]) / (2 * apq);
        const t = Math.sign(theta || 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
        const c = 1 / Math.sqrt(t * t + 1);
        const s = t * c;
        for (let k = 0; k < 3; k++) {
          const [kp, kq] = [a[3 * k + p], a[3 * k + q]];
          a[3 * k + p] = c * kp - s * kq;
          a[3 * k + q] = s * kp + c * kq;
        }
        for (let k = 0; k < 3; k++) {
          const [pk, qk] = [a[3 * p + k], a[3 * q + k]];
          a[3 * p + k] = c * pk - s * qk;
          a[3 * q + k] = s * pk + c * qk;
          const [vp, vq] = [v[3 * k + p], v[3 * k + q]];
          v[3 * k + p] = c * vp - s * vq;
          v[3 * k + q] = s * vp + c * vq;
        }
      }
  }
}
