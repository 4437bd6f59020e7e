import { sayValue } from '../../language/phrase.ts';
import { type CheckedFigure, rule } from '../rule.ts';

type Scale = CheckedFigure['scales'][number];

const isSame = (a: number, b: number, span: number): boolean => Math.abs(a - b) <= 1e-6 * span;

const differ = (a: Scale, b: Scale): boolean => {
  const span = Math.max(a.high - a.low, b.high - b.low, Number.MIN_VALUE);
  return a.unit !== b.unit || !isSame(a.low, b.low, span) || !isSame(a.high, b.high, span);
};

const ends = ({ low, high, unit }: Scale): string => `${sayValue(low, null)} to ${sayValue(high, unit)}`;

/** Figures that show one quantity on different scales: the same colour means something else in each. */
export const differentRanges = rule({
  id: 'different ranges',
  name: 'figures compared with different ranges',
  severity: 'serious',
  of: 'figures',
  find(figures) {
    const first = new Map<string, { figure: CheckedFigure; scale: Scale }>();
    return figures.flatMap((figure) =>
      figure.scales.flatMap((scale) => {
        const other = first.get(scale.quantity);
        if (!other) {
          first.set(scale.quantity, { figure, scale });
          return [];
        }
        if (other.figure.id === figure.id || !differ(other.scale, scale)) return [];
        return {
          place: { kind: 'figure' as const, id: figure.id, name: figure.name },
          says: `${figure.name} shows ${scale.name} from ${ends(scale)}, ${other.figure.name} from ${ends(other.scale)}.`,
          remedy: 'Give both the same range: fix the scale of one and let the other take it over.',
        };
      }),
    );
  },
});
