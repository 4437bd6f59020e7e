import { mapFigures } from '../../colour/map-figures.ts';
import { coloursOfMap, isStepped, nameOfMap } from '../../colour/maps/own-map.ts';
import { colourMapById } from '../../colour/maps/registry.ts';
import type { HonestyRule } from './rule.ts';

/** A map whose lightness does not tell low from high, so that bright places draw the eye that mean nothing. */
export const unorderedMap: HonestyRule = {
  id: 'unordered map',
  remarks: ({ scales }) =>
    scales.flatMap(({ scale, settled }) => {
      const { map } = scale;
      if (settled.categories || isStepped(map)) return [];
      const group = typeof map === 'string' ? colourMapById(map).group : 'sequential';
      if (group === 'cyclic' || mapFigures(coloursOfMap(map), group).ordered) return [];
      return {
        says: `${scale.name}: the lightness of ${nameOfMap(map)} does not tell low from high.`,
        remedy: 'Choose a map that goes one way or two ways, unless its parts have a meaning.',
        scale: scale.id,
      };
    }),
};
