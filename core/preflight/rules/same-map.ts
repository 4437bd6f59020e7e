import { nameOfMap } from '../../colour/maps/own-map.ts';
import { sameJson } from '../../model/same-json.ts';
import { anotherMap } from '../another-map.ts';
import { ofScale, rule, type ShownScale } from '../rule.ts';

const differ = (a: ShownScale, b: ShownScale): boolean =>
  a.settled.low !== b.settled.low ||
  a.settled.high !== b.settled.high ||
  a.scale.quantity !== b.scale.quantity;

/** Two scales on show with the same colours for different values: one colour, two meanings. */
export const sameMap = rule({
  id: 'same map',
  name: 'one colour with two meanings',
  severity: 'moderate',
  of: 'scene',
  find: ({ scales, run }) =>
    scales.flatMap((a, i) =>
      scales.slice(i + 1).flatMap((b) => {
        const alike = sameJson(a.scale.map, b.scale.map) && a.scale.reversed === b.scale.reversed;
        if (!alike || !differ(a, b)) return [];
        return {
          place: ofScale(b.scale),
          says: `${a.scale.name} and ${b.scale.name} both use ${nameOfMap(a.scale.map)}, with different ranges.`,
          remedy: 'Let them share one scale, or give one of them another map.',
          ...anotherMap(
            b.scale,
            run,
            scales.map((s) => s.scale.map),
          ),
        };
      }),
    ),
});
