import { nameOfMap } from '../../colour/maps/own-map.ts';
import type { HonestyRule, ShownScale } from './rule.ts';

const differ = (a: ShownScale, b: ShownScale): boolean =>
  a.settled.low !== b.settled.low ||
  a.settled.high !== b.settled.high ||
  a.scale.quantity !== b.scale.quantity;

/** Two scales on show with the same colours for different values: one colour, two meanings. */
export const sameMap: HonestyRule = {
  id: 'same map',
  remarks: ({ scales }) =>
    scales.flatMap((a, i) =>
      scales.slice(i + 1).flatMap((b) => {
        const alike =
          JSON.stringify(a.scale.map) === JSON.stringify(b.scale.map) &&
          a.scale.reversed === b.scale.reversed;
        if (!alike || !differ(a, b)) return [];
        return {
          says: `${a.scale.name} and ${b.scale.name} both use ${nameOfMap(a.scale.map)}, with different ranges.`,
          remedy: 'Let them share one scale, or give one of them another map.',
          scale: b.scale.id,
        };
      }),
    ),
};
