import type { HonestyRule } from './rule.ts';

/** Haze or glow that lies over values too: what is seen is no colour of the legend any more. */
export const veiledValues: HonestyRule = {
  id: 'veiled values',
  remarks: ({ scene: { haze, glow }, scales }) => {
    if (scales.length === 0) return [];
    const veils = [
      ...(haze.amount > 0 && !haze.sparesValues ? ['Haze'] : []),
      ...(glow.strength > 0 && !glow.sparesValues ? ['Glow'] : []),
    ];
    return veils.map((veil) => ({
      says: `${veil} lies over values: they have not the colours of their legend.`,
      remedy: `Let values keep the colours of their legend, where the ${veil.toLowerCase()} is chosen, or take the legend away.`,
      scale: null,
    }));
  },
};
