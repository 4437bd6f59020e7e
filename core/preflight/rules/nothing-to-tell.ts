import { parseQuantity, quantityStatistics } from '../../model/quantity.ts';
import { fieldByKey } from '../../model/run.ts';
import { ofScale, rule } from '../rule.ts';

/** A quantity that is the same everywhere, or nowhere: its colours tell nothing. */
export const nothingToTell = rule({
  id: 'nothing to tell',
  name: 'a quantity that is the same everywhere',
  severity: 'minor',
  of: 'scene',
  find: ({ scales, run }) =>
    scales.flatMap(({ scale, settled }) => {
      if (settled.categories) return [];
      const { field: key, component } = parseQuantity(scale.quantity);
      const field = fieldByKey(run, key);
      const stats = field && quantityStatistics(field, component, null);
      const place = ofScale(scale);
      if (stats && !Number.isFinite(stats.min))
        return {
          place,
          says: `${scale.name} has no value anywhere: its values are not numbers.`,
          remedy: 'Colour by another quantity, or look at how the run was written.',
        };
      if (settled.high > settled.low) return [];
      return {
        place,
        says: `${scale.name} is the same everywhere, ${settled.shownNumber(settled.low)}.`,
        remedy: 'Colour by another quantity, or set a range around this value.',
      };
    }),
});
