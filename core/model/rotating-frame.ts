import type { NumberArray } from './arrays.ts';

/** A frame that turns about an axis; positive rates turn right-handed about the axis. */
export interface RotatingFrame {
  /** Any point of the axis, in the coordinates of the files. */
  point: [number, number, number];
  axis: [number, number, number];
  /** Radians a second (or a unit of time of the run). */
  rate: number;
}

/**
 * Velocities seen from the rest frame: `v = w + rate x r`, with `w` the relative velocity and `r` from the axis.
 * Source: velocity composition for a rotating frame, any text on mechanics (from memory).
 *
 * @param points coordinates of the values, 3 each
 */
export function absoluteVelocity(
  relative: NumberArray,
  points: ArrayLike<number>,
  frame: RotatingFrame,
): Float32Array {
  const length = Math.hypot(...frame.axis) || 1;
  const [ox, oy, oz] = frame.axis.map((a) => (a / length) * frame.rate);
  const [px, py, pz] = frame.point;
  const out = new Float32Array(relative.length);
  for (let i = 0; i < relative.length; i += 3) {
    const x = points[i] - px;
    const y = points[i + 1] - py;
    const z = points[i + 2] - pz;
    out[i] = relative[i] + oy * z - oz * y;
    out[i + 1] = relative[i + 1] + oz * x - ox * z;
    out[i + 2] = relative[i + 2] + ox * y - oy * x;
  }
  return out;
}

/** How much of a velocity field is explained by turning as one body, and how it turns. */
export interface TurningFit {
  /** Share of the variance about the mean explained, 0..1. */
  share: number;
  /** Angular velocity of the best rigid rotation. */
  rate: [number, number, number];
}

/**
 * Fits `v = a + W x (p - c)` by least squares, with `c` the middle of the points. A fluid at rest far from a rotor,
 * seen from the rotor, turns backwards as one body: a share near one tells of a relative velocity.
 */
export function fitTurning(velocity: ArrayLike<number>, points: ArrayLike<number>): TurningFit {
  const n = points.length / 3;
  const stride = Math.max(1, Math.floor(n / 20000));
  const mid = [0, 0, 0];
  const mean = [0, 0, 0];
  let count = 0;
  for (let i = 0; i < n; i += stride, count++) {
    for (let k = 0; k < 3; k++) {
      mid[k] += points[3 * i + k];
      mean[k] += velocity[3 * i + k];
    }
  }
  for (let k = 0; k < 3; k++) {
    mid[k] /= count || 1;
    mean[k] /= count || 1;
  }
  // Normal equations of the cross product: (sum |r|^2 I - r r^T) W = sum r x v.
  const m = [0, 0, 0, 0, 0, 0];
  const b = [0, 0, 0];
  let variance = 0;
  for (let i = 0; i < n; i += stride) {
    const r = [0, 1, 2].map((k) => points[3 * i + k] - mid[k]);
    const v = [0, 1, 2].map((k) => velocity[3 * i + k] - mean[k]);
    const rr = r[0] * r[0] + r[1] * r[1] + r[2] * r[2];
    m[0] += rr - r[0] * r[0];
    m[1] -= r[0] * r[1];
    m[2] -= r[0] * r[2];
    m[3] += rr - r[1] * r[1];
    m[4] -= r[1] * r[2];
    m[5] += rr - r[2] * r[2];
    b[0] += r[1] * v[2] - r[2] * v[1];
    b[1] += r[2] * v[0] - r[0] * v[2];
    b[2] += r[0] * v[1] - r[1] * v[0];
    variance += v[0] * v[0] + v[1] * v[1] + v[2] * v[2];
  }
  const rate = solveSymmetric(m, b);
  const explained = rate[0] * b[0] + rate[1] * b[1] + rate[2] * b[2];
  return { share: variance > 0 && Number.isFinite(explained) ? explained / variance : 0, rate };
}

/** Solves a symmetric 3x3 system `[m0 m1 m2; m1 m3 m4; m2 m4 m5] x = b` by Cramer's rule; zero when singular. */
function solveSymmetric(m: number[], b: number[]): [number, number, number] {
  const [a, p, q, c, s, d] = m;
  const det = a * (c * d - s * s) - p * (p * d - s * q) + q * (p * s - c * q);
  if (!(Math.abs(det) > 1e-30)) return [0, 0, 0];
  return [
    (b[0] * (c * d - s * s) - p * (b[1] * d - s * b[2]) + q * (b[1] * s - c * b[2])) / det,
    (a * (b[1] * d - s * b[2]) - b[0] * (p * d - s * q) + q * (p * b[2] - b[1] * q)) / det,
    (a * (c * b[2] - b[1] * s) - p * (p * b[2] - b[1] * q) + b[0] * (p * s - c * q)) / det,
  ];
}
