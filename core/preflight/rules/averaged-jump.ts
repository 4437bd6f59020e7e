import { abruptLines, withoutAveraging } from '../abrupt-lines.ts';
import { rule } from '../rule.ts';

/** Values of cells that were averaged to points where they jump: the jump becomes a slope that nobody has computed. */
export const averagedJump = rule({
  id: 'averaged jump',
  name: 'a jump averaged away',
  severity: 'moderate',
  of: 'scene',
  find: (checked) =>
    abruptLines(checked, true, (name, percent, layer) => {
      const edits = withoutAveraging(layer);
      return {
        says: `“${name}” runs smoothly over jumps from cell to cell: on ${percent} % of its area the values are means that no cell has.`,
        remedy: 'Show the values of cells as they are.',
        ...(edits.length > 0 && { mend: { says: 'Show the cells as they are', edits } }),
      };
    }),
});
