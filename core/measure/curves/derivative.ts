import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { unitProduct } from '../../model/unit-products.ts';
import type { CurveWork } from './curve-work.ts';

const p = phrasesOf<object>();

/**
 * The slope at each place: that of the parabola through it and its neighbours, of second order on uneven places too, and
 * at the ends that of the parabola through the last three (Fornberg: Generation of finite difference formulas on
 * arbitrarily spaced grids, Math. Comp. 51 (1988); from memory).
 */
export const derivative: CurveWork<object> = {
  id: 'derivative',
  name: 'Derivative',
  purpose: 'how fast it changes',
  schema: z.object({}),
  defaults: () => ({}),
  phrase: p.text('derivative'),
  controls: [],
  apply(curve) {
    const { x, y } = curve;
    const n = x.length;
    if (n < 2) throw new Error('A curve of one place has no slope. Choose more steps.');
    const out = new Float64Array(n);
    for (let i = 0; i < n; i++) {
      const a = Math.min(Math.max(i - 1, 0), Math.max(0, n - 3));
      if (n === 2) out[i] = (y[1] - y[0]) / (x[1] - x[0]);
      else {
        const [x0, x1, x2] = [x[a], x[a + 1], x[a + 2]];
        const at = x[i];
        out[i] =
          (y[a] * (2 * at - x1 - x2)) / ((x0 - x1) * (x0 - x2)) +
          (y[a + 1] * (2 * at - x0 - x2)) / ((x1 - x0) * (x1 - x2)) +
          (y[a + 2] * (2 * at - x0 - x1)) / ((x2 - x0) * (x2 - x1));
      }
    }
    const { along, up } = curve;
    return {
      ...curve,
      y: out,
      up: {
        name: `rate of ${up.name}`,
        unit: unitProduct([up.unit, 1], [along.unit, -1]),
      },
    };
  },
};
