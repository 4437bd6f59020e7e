import { parseQuantity } from '../../model/quantity.ts';
import { fieldByKey } from '../../model/run.ts';
import { unitsOfScale } from '../../scene/settle-scale.ts';
import { ofScale, rule } from '../rule.ts';

/** What needs no unit: numbers of something, shares, and what never has one. */
const BARE = ['identifier', 'fraction'];

/** Numbers of which nobody knows what they are numbers of. */
export const noUnit = rule({
  id: 'no unit',
  name: 'numbers without a unit',
  severity: 'moderate',
  of: 'scene',
  find: ({ scales, run }) =>
    scales.flatMap(({ scale, settled }) => {
      const field = fieldByKey(run, parseQuantity(scale.quantity).field);
      if (
        !field ||
        settled.categories ||
        BARE.includes(field.role) ||
        unitsOfScale(scale, run).shown !== null
      )
        return [];
      return {
        place: ofScale(scale),
        says: `${scale.name} has no unit: its files name none.`,
        remedy: 'State the unit of the quantity on the page of the run; 1 where it has none.',
      };
    }),
});
