/**
 * The three principal values of a symmetric matrix, from the largest to the least (Smith: Eigenvalues of a symmetric 3 x 3
 * matrix, Comm. ACM 4 (1961) 168; from memory).
 */
export function principalValues(
  xx: number,
  yy: number,
  zz: number,
  xy: number,
  yz: number,
  xz: number,
  out: Float64Array,
): Float64Array {
  const q = (xx + yy + zz) / 3;
  const [a, b, c] = [xx - q, yy - q, zz - q];
  const p = Math.sqrt((a * a + b * b + c * c + 2 * (xy * xy + yz * yz + xz * xz)) / 6);
  if (!(p > 0)) return out.fill(q);
  const determinant = a * (b * c - yz * yz) - xy * (xy * c - yz * xz) + xz * (xy * yz - b * xz);
  const angle = Math.acos(Math.max(-1, Math.min(1, determinant / (2 * p * p * p)))) / 3;
  out[0] = q + 2 * p * Math.cos(angle);
  out[2] = q + 2 * p * Math.cos(angle + (2 * Math.PI) / 3);
  out[1] = 3 * q - out[0] - out[2];
  return out;
}
