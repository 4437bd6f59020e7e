import type { Bounds } from '../model/mesh.ts';

/** Whether `a` reaches around `b` on every side, touching allowed. */
export const reachesAround = (a: Bounds, b: Bounds): boolean =>
  [0, 2, 4].every((k) => {
    const slack = 1e-6 * Math.max(a[k + 1] - a[k], 1e-30);
    return b[k] >= a[k] - slack && b[k + 1] <= a[k + 1] + slack;
  });

/** Whether `a` reaches around `b` on every side, touching allowed, and is clearly larger. */
export const encloses = (a: Bounds, b: Bounds): boolean =>
  reachesAround(a, b) && [0, 2, 4].some((k) => b[k + 1] - b[k] < 0.98 * (a[k + 1] - a[k]));
