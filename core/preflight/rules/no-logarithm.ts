import { type Mend, ofScale, rule, type ShownScale } from '../rule.ts';

const evenly = ({ scale: { id } }: ShownScale): Mend => ({
  says: 'Space it evenly',
  edits: [{ type: 'scale.change', id, change: { spacing: { kind: 'linear' } } }],
});

/** Values that a logarithmic scale has no place for. */
export const noLogarithm = rule({
  id: 'no logarithm',
  name: 'values without a logarithm',
  severity: 'serious',
  of: 'scene',
  find: ({ scales }) =>
    scales.flatMap((shown) => {
      const { scale, settled, spread } = shown;
      if (scale.spacing.kind !== 'log') return [];
      const place = ofScale(scale);
      if (settled.spacing.kind !== 'log')
        return {
          place,
          says: `${scale.name}: no value is above zero, so the scale is even and not logarithmic.`,
          remedy: 'Space it evenly, or by a logarithm through zero.',
          mend: evenly(shown),
        };
      if (!spread || !(spread.low <= 0)) return [];
      return {
        place,
        says: `${scale.name}: zero and negative values have no logarithm and are shown as missing.`,
        remedy: 'Space it by a logarithm through zero, or hide what is below.',
        mend: evenly(shown),
      };
    }),
});
