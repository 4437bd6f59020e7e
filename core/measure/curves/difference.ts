import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { unitChange } from '../../model/units.ts';
import { curveAt } from './curve-data.ts';
import type { CurveWork } from './curve-work.ts';

export interface DifferenceOptions {
  /** Id of the curve that is taken away; empty while none is chosen. */
  other: string;
}

const p = phrasesOf<DifferenceOptions>();

/** Less another curve at the same places, whatever places that has; beyond its ends there is nothing. */
export const difference: CurveWork<DifferenceOptions> = {
  id: 'difference',
  name: 'Difference',
  purpose: 'less another curve',
  schema: z.object({ other: z.string().max(200) }),
  defaults: () => ({ other: '' }),
  phrase: p.row(
    p.text('less '),
    p.oneOf(p.named('other', 'curves'), p.row(p.text('nothing'), p.fixed('other', ''))),
  ),
  controls: [{ kind: 'named', key: 'other', label: 'Less', of: 'curves' }],
  apply(curve, { other }, beside) {
    if (other === '') throw new Error('Choose the curve that is taken away.');
    const found = beside.curve(other);
    if (!found) throw new Error('The curve that is taken away is gone or cannot be drawn. Choose another.');
    const [own, its] = [curve.up.unit ?? '', found.up.unit ?? ''];
    const change = own === its ? { factor: 1, shift: 0 } : unitChange(its, own);
    if (!change)
      throw new Error(`${found.up.name} is in ${its || 'no unit'}, this one in ${own || 'no unit'}.`);
    const places =
      curve.along.unit === found.along.unit
        ? null
        : unitChange(curve.along.unit ?? '', found.along.unit ?? '');
    return {
      ...curve,
      y: curve.y.map((v, i) => {
        const at = places ? curve.x[i] * places.factor + places.shift : curve.x[i];
        return v - (curveAt(found, at) * change.factor + change.shift);
      }),
      up: { ...curve.up, name: `${curve.up.name} less ${found.up.name}` },
    };
  },
};
