import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { unitProduct } from '../../model/unit-products.ts';
import type { CurveWork } from './curve-work.ts';

const p = phrasesOf<object>();

/** The area beneath it from its beginning to each place, by the trapezoidal rule; gaps add nothing. */
export const curveIntegral: CurveWork<object> = {
  id: 'integral',
  name: 'Integral',
  purpose: 'what it adds up to from its beginning',
  schema: z.object({}),
  defaults: () => ({}),
  phrase: p.text('integrated'),
  controls: [],
  apply(curve) {
    const { x, y, along, up } = curve;
    const out = new Float64Array(x.length);
    for (let i = 1; i < x.length; i++) {
      const piece = ((x[i] - x[i - 1]) * (y[i] + y[i - 1])) / 2;
      out[i] = out[i - 1] + (Number.isNaN(piece) ? 0 : piece);
    }
    return {
      ...curve,
      y: out,
      up: {
        name: `integral of ${up.name}`,
        unit: unitProduct([up.unit, 1], [along.unit, 1]),
      },
    };
  },
};
