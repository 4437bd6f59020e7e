import { mapFigures } from '../../colour/map-figures.ts';
import { coloursOfMap, isStepped, nameOfMap } from '../../colour/maps/own-map.ts';
import { colourMapById } from '../../colour/maps/registry.ts';
import { anotherMap } from '../another-map.ts';
import { ofScale, rule } from '../rule.ts';

/** A map whose lightness does not tell low from high, so that bright places draw the eye that mean nothing. */
export const unorderedMap = rule({
  id: 'unordered map',
  name: 'lightness does not tell low from high',
  severity: 'serious',
  of: 'scene',
  find: ({ scales, run }) =>
    scales.flatMap(({ scale, settled }) => {
      const { map } = scale;
      if (settled.categories || isStepped(map)) return [];
      const group = typeof map === 'string' ? colourMapById(map).group : 'sequential';
      if (group === 'cyclic' || mapFigures(coloursOfMap(map), group).ordered) return [];
      return {
        place: ofScale(scale),
        says: `${scale.name}: the lightness of ${nameOfMap(map)} does not tell low from high.`,
        remedy: 'Choose a map that goes one way or two ways, unless its parts have a meaning.',
        ...anotherMap(scale, run),
      };
    }),
});
