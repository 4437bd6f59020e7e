import type { Vector } from '../../model/vectors.ts';
import { bodyOf, madeKind } from './scenery-kind.ts';
import { bone, type Distance, egg, melted, softBody } from './soft-body.ts';

/** Cells of the grid to the height of a figure. */
const FINE = 120;

/** Where the joints of a side lie, in heights: an even figure that stands at ease. Common practice, no source. */
const at = (side: number, x: number, y: number, z: number): Vector => [side * x, y, z];

/** A figure without a face or clothes, to show how large something is. */
export const person = madeKind({
  id: 'person',
  offered: 'Person',
  purpose: 'a plain figure that shows how large the model is',
  sizes: { height: { label: 'High', said: 'tall', metres: 1.75 } },
  bodies({ height }) {
    const parts: { of: Distance; width: number }[] = [
      { of: egg([0, 0.004, 0.936], [0.044, 0.055, 0.066]), width: 0.02 },
      { of: bone([0, 0.0, 0.83], [0, 0.002, 0.9], 0.031, 0.028), width: 0.03 },
      { of: egg([0, -0.002, 0.72], [0.098, 0.062, 0.125]), width: 0.05 },
      { of: egg([0, 0, 0.555], [0.088, 0.062, 0.085]), width: 0.07 },
      ...[1, -1].flatMap((side) => [
        { of: bone(at(side, 0.045, 0, 0.815), at(side, 0.105, 0, 0.8), 0.034, 0.036), width: 0.05 },
        { of: bone(at(side, 0.112, 0, 0.795), at(side, 0.14, 0.012, 0.62), 0.033, 0.025), width: 0.025 },
        { of: bone(at(side, 0.14, 0.012, 0.62), at(side, 0.15, -0.012, 0.475), 0.025, 0.018), width: 0.012 },
        { of: egg(at(side, 0.153, -0.018, 0.435), [0.014, 0.023, 0.045]), width: 0.02 },
        { of: bone(at(side, 0.05, 0, 0.51), at(side, 0.056, -0.004, 0.285), 0.054, 0.034), width: 0.02 },
        { of: bone(at(side, 0.056, -0.004, 0.285), at(side, 0.06, 0.01, 0.045), 0.035, 0.022), width: 0.015 },
        { of: bone(at(side, 0.06, 0.014, 0.022), at(side, 0.067, -0.085, 0.016), 0.023, 0.017), width: 0.02 },
      ]),
    ];
    const shape: Distance = (x, y, z) => {
      let d = Number.POSITIVE_INFINITY;
      for (const { of, width } of parts)
        d = d === Number.POSITIVE_INFINITY ? of(x, y, z) : melted(d, of(x, y, z), width);
      // Its soles are flat.
      return Math.max(d, -z);
    };
    const { points, triangles } = softBody(shape, [-0.2, -0.13, 0], [0.2, 0.1, 1.01], 1 / FINE);
    return [bodyOf({ points: points.map((v) => v * height), triangles }, 'satin-paint', '#8f949a', 180)];
  },
});
