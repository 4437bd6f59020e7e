import type { HonestyRule } from './rule.ts';

/** Values that a logarithmic scale has no place for. */
export const noLogarithm: HonestyRule = {
  id: 'no logarithm',
  remarks: ({ scales }) =>
    scales.flatMap(({ scale, settled, spread }) => {
      if (scale.spacing.kind !== 'log') return [];
      if (settled.spacing.kind !== 'log')
        return {
          says: `${scale.name}: no value is above zero, so the scale is even and not logarithmic.`,
          remedy: 'Space it evenly, or by a logarithm through zero.',
          scale: scale.id,
        };
      if (!spread || !(spread.low <= 0)) return [];
      return {
        says: `${scale.name}: zero and negative values have no logarithm and are shown as missing.`,
        remedy: 'Space it by a logarithm through zero, or hide what is below.',
        scale: scale.id,
      };
    }),
};
