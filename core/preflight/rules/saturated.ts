import { sharesOnShow } from '../../colour/spread.ts';
import { ofScale, rule } from '../rule.ts';

/** Less than this of what is shown is hardly seen. */
const WORTH_SAYING = 0.005;

const percent = (share: number): string => `${Number((100 * share).toPrecision(2))} %`;

/** Colours that stand for more than one value: those at the ends, where something lies beyond them. */
export const saturated = rule({
  id: 'saturated',
  name: 'much lies beyond the range',
  severity: 'moderate',
  of: 'scene',
  find: ({ scales }) =>
    scales.flatMap(({ scale, settled, spread }) => {
      if (!spread || settled.categories) return [];
      const shares = sharesOnShow(spread, { ...settled.colours, low: settled.low, high: settled.high });
      // What has a colour of its own, or is not shown, is not taken for something else.
      const sides = (['below', 'above'] as const)
        .filter((side) => scale[side] === null && shares[side].shown > WORTH_SAYING)
        .map((side) => ({ side, share: shares[side].shown }));
      if (sides.length === 0) return [];
      const said = sides.map((s) => `${percent(s.share)} ${s.side}`).join(' and ');
      const what =
        spread.by === 'area' ? 'of the area' : spread.by === 'length' ? 'of the length' : 'of the points';
      return {
        place: ofScale(scale),
        says: `${scale.name}: ${said} the range, ${what}, has the colour of its end.`,
        remedy: 'Widen the range, or give what lies beyond a colour of its own.',
        mend: {
          says: 'Show the whole range',
          edits: [
            { type: 'scale.change', id: scale.id, change: { range: { kind: 'shown' }, symmetric: null } },
          ],
        },
      };
    }),
});
