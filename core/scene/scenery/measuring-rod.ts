import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { bodyOf, madeKind } from './scenery-kind.ts';
import { joined, type Solid, shifted, tile } from './solids.ts';

const p = phrasesOf<{ standing: boolean }>();

/** More fields than this are joined. */
const MOST = 400;

/** A rod with fields of a length in two colours by turns, standing or lying. */
export const measuringRod = madeKind({
  id: 'measuring-rod',
  offered: 'Ruler',
  purpose: 'a rod with fields of a stated length by turns',
  sizes: {
    length: { label: 'Long', said: 'long', metres: 2 },
    field: { label: 'Length of a field', said: 'to a field', metres: 0.1 },
  },
  own: {
    plain: { standing: true },
    schema: { standing: z.boolean() },
    suffixes: [{ usual: { standing: true }, phrase: p.row(p.text('lying'), p.fixed('standing', false)) }],
    controls: [{ kind: 'tick', key: 'standing', label: 'Standing' }],
  },
  bodies({ length, field, standing }) {
    const step = Math.max(field, length / MOST);
    const width = Math.min(0.03 * length, 0.8 * step);
    const count = Math.ceil(length / step - 1e-9);
    const fields = Array.from({ length: count }, (_, i): Solid => {
      const tall = Math.min(step, length - i * step);
      return shifted(tile(width, 0.35 * width, tall, 0), [0, 0, i * step]);
    });
    const laid = ({ points, triangles }: Solid): Solid => {
      if (standing) return { points, triangles };
      // A quarter turn about y, so that it lies along x on its narrow side.
      const out: number[] = [];
      for (let k = 0; k < points.length; k += 3)
        out.push(points[k + 2] - length / 2, points[k + 1], width / 2 - points[k]);
      return { points: out, triangles };
    };
    return [0, 1].flatMap((turn) => {
      const own = fields.filter((_, i) => i % 2 === turn);
      return own.length === 0
        ? []
        : [bodyOf(laid(joined(...own)), 'satin-paint', turn ? '#f4f1ea' : '#b3372c')];
    });
  },
});
