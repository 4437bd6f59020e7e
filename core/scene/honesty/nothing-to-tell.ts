import { parseQuantity, quantityStatistics } from '../../model/quantity.ts';
import { fieldByKey } from '../../model/run.ts';
import type { HonestyRule } from './rule.ts';

/** A quantity that is the same everywhere, or nowhere: its colours tell nothing. */
export const nothingToTell: HonestyRule = {
  id: 'nothing to tell',
  remarks: ({ scales, run }) =>
    scales.flatMap(({ scale, settled }) => {
      if (settled.categories) return [];
      const { field: key, component } = parseQuantity(scale.quantity);
      const field = fieldByKey(run, key);
      const stats = field && quantityStatistics(field, component, null);
      if (stats && !Number.isFinite(stats.min))
        return {
          says: `${scale.name} has no value anywhere: its values are not numbers.`,
          remedy: 'Colour by another quantity, or look at how the run was written.',
          scale: scale.id,
        };
      if (settled.high > settled.low) return [];
      return {
        says: `${scale.name} is the same everywhere, ${settled.shownNumber(settled.low)}.`,
        remedy: 'Colour by another quantity, or set a range around this value.',
        scale: scale.id,
      };
    }),
};
