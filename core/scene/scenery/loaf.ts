import { bodyOf, madeKind } from './scenery-kind.ts';
import { bone, egg, melted, softBody } from './soft-body.ts';

/** Cells of the grid along the longest side of a loaf. */
const FINE = 46;

/** A loaf as it comes out of a tin: flat sides, a crown that rose over them, and three cuts across it. */
export const loaf = madeKind({
  id: 'loaf',
  offered: 'Loaf',
  purpose: 'a tin loaf with three cuts in its crown',
  sizes: {
    length: { label: 'Long', said: 'long', metres: 0.28 },
    width: { label: 'Wide', said: 'wide', metres: 0.11 },
    height: { label: 'High', said: 'high', metres: 0.12 },
  },
  bodies({ length, width, height }) {
    const [l, w] = [length / 2, width / 2];
    const side = 0.62 * height;
    const round = Math.min(0.22 * w, 0.25 * side);
    const crown = egg([0, 0, 0.66 * height], [0.99 * l, 1.0 * w, 0.34 * height]);
    const cuts = [-0.52, 0, 0.52].map((at) =>
      bone(
        [at * l - 0.16 * w, -0.62 * w, 1.0 * height],
        [at * l + 0.16 * w, 0.62 * w, 1.0 * height],
        0.09 * height,
        0.09 * height,
      ),
    );
    const shape = (x: number, y: number, z: number): number => {
      // Narrower at its foot, as the tin is.
      const lean = 0.9 + (0.07 * Math.min(z, side)) / side;
      const [dx, dy, dz] = [
        Math.abs(x) - (lean * l - round),
        Math.abs(y) - (lean * w - round),
        Math.abs(z - side / 2) - (side / 2 - round),
      ];
      const outside = Math.hypot(Math.max(dx, 0), Math.max(dy, 0), Math.max(dz, 0));
      const box = outside + Math.min(Math.max(dx, dy, dz), 0) - round;
      let d = melted(box, crown(x, y, z), 0.12 * height);
      for (const cut of cuts) d = -melted(-d, cut(x, y, z), 0.05 * height);
      return d;
    };
    const body = softBody(
      shape,
      [-1.05 * l, -1.1 * w, -0.01 * height],
      [1.05 * l, 1.1 * w, 1.06 * height],
      (2 * l) / FINE,
    );
    return [bodyOf(body, 'crust', null, 180)];
  },
});
