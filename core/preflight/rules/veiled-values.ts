import { PICTURE, rule } from '../rule.ts';

/** Haze or glow that lies over values too: what is seen is no colour of the legend any more. */
export const veiledValues = rule({
  id: 'veiled values',
  name: 'haze or glow over values',
  severity: 'serious',
  of: 'scene',
  find: ({ scene: { haze, glow }, scales }) => {
    if (scales.length === 0) return [];
    const veils = [
      ...(haze.amount > 0 && !haze.sparesValues ? (['haze'] as const) : []),
      ...(glow.strength > 0 && !glow.sparesValues ? (['glow'] as const) : []),
    ];
    return veils.map((veil) => ({
      place: { ...PICTURE, name: veil },
      says: `${veil === 'haze' ? 'Haze' : 'Glow'} lies over values: they have not the colours of their legend.`,
      remedy: `Let values keep the colours of their legend, where the ${veil} is chosen, or take the legend away.`,
      mend: {
        says: 'Let values keep their colours',
        edits: [{ type: 'setting.change', thing: veil, change: { sparesValues: true } }],
      },
    }));
  },
});
