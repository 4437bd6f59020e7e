import type { Vision } from '../../colour/colour-vision.ts';
import { confusedBy } from '../../colour/confused-colours.ts';
import { coloursOfMap, isStepped, nameOfMap } from '../../colour/maps/own-map.ts';
import { colourMapById } from '../../colour/maps/registry.ts';
import { sayList } from '../../language/sentence.ts';
import { anotherMap } from '../another-map.ts';
import { ofScale, rule } from '../rule.ts';

const said: Record<Exclude<Vision, 'grey'>, string> = {
  protan: 'without red cones',
  deutan: 'without green cones',
  tritan: 'without blue cones',
};

/** Colours that stand for values far apart and are one for some eyes. */
export const colourBlind = rule({
  id: 'colour-blind',
  name: 'colours some eyes do not tell apart',
  severity: 'moderate',
  of: 'scene',
  find: ({ scales, run }) =>
    scales.flatMap(({ scale, settled }) => {
      // Around a circle of colours some always meet again: for phases there is no better map.
      const isCyclic = typeof scale.map === 'string' && colourMapById(scale.map).group === 'cyclic';
      if (settled.categories || isCyclic || isStepped(scale.map)) return [];
      const whom = confusedBy(coloursOfMap(scale.map));
      if (whom.length === 0) return [];
      return {
        place: ofScale(scale),
        says: `${scale.name}: values far apart look alike on ${nameOfMap(scale.map)} to eyes ${sayList(whom.map((v) => said[v]))}.`,
        remedy: 'Choose a map whose lightness rises all the way, or one from blue to yellow.',
        ...anotherMap(scale, run),
      };
    }),
});
