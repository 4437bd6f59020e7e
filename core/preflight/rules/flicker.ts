import { parseQuantity } from '../../model/quantity.ts';
import { fieldByKey } from '../../model/run.ts';
import { followsTime } from '../../scene/moment-on-show.ts';
import { shownScales } from '../../scene/shown-scales.ts';
import { MOST_FLASHES, mostFlashes } from '../flashes.ts';
import { type Found, ofScale, rule } from '../rule.ts';

const MOVING = ['this-step', 'shown'];

/** Colours or light that change from picture to picture without anything that happens. */
export const flicker = rule({
  id: 'flicker',
  name: 'flicker from picture to picture',
  severity: 'serious',
  of: 'film',
  find({ scene, run, rate, luminances }) {
    const moving: Found[] =
      run.steps.length > 1 && followsTime(scene)
        ? shownScales(scene)
            .filter((s) => MOVING.includes(s.range.kind) && fieldByKey(run, parseQuantity(s.quantity).field))
            .map((scale) => ({
              place: ofScale(scale),
              says: `${scale.name} has another range in every picture: its colours flicker, and no two pictures compare.`,
              remedy: 'Let its range hold all steps.',
              mend: {
                says: 'A range for all steps',
                edits: [{ type: 'scale.change', id: scale.id, change: { range: { kind: 'all-steps' } } }],
              },
            }))
        : [];
    const most = luminances ? mostFlashes(luminances, rate) : 0;
    if (most <= MOST_FLASHES) return moving;
    return [
      ...moving,
      {
        place: { kind: 'film', id: null, name: 'the film' },
        says: `The film flashes ${most} times within a second; more than ${MOST_FLASHES} can bring on seizures.`,
        remedy: 'Make the film longer, or let what flashes change less.',
      },
    ];
  },
});
