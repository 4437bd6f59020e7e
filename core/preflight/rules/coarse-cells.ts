import { abruptLines } from '../abrupt-lines.ts';
import { rule } from '../rule.ts';

/** Cells that are too large for what happens in them. */
export const coarseCells = rule({
  id: 'coarse cells',
  name: 'coarse cells where values change much',
  severity: 'minor',
  of: 'scene',
  find: (checked) =>
    abruptLines(checked, false, (name, percent, layer) => ({
      says: `“${name}” has coarse cells: on ${percent} % of its area one face spans more than a quarter of the scale.`,
      remedy:
        'Show the edges of the cells, so that everybody sees how fine they are, or have it computed finer.',
      mend: {
        says: 'Show the edges of the cells',
        edits: [{ type: 'layer.change', id: layer.id, change: { edges: { ...layer.edges, shown: true } } }],
      },
    })),
});
