import { LEGIBLE } from '../../colour/contrast.ts';
import type { Edit } from '../../scene/edits.ts';
import { rule } from '../rule.ts';

/** Words that hardly stand out from what lies behind them (WCAG 2.2, success criterion 1.4.3). */
export const faintWords = rule({
  id: 'faint words',
  name: 'words with too little contrast',
  severity: 'moderate',
  of: 'scene',
  find: ({ picture }) =>
    (picture?.words ?? []).flatMap(({ kind, id, name, words }) => {
      const known = words.flatMap(({ text, contrast }) => (contrast === null ? [] : [{ text, contrast }]));
      const [faintest] = known.toSorted((a, b) => a.contrast - b.contrast);
      if (!faintest || faintest.contrast >= LEGIBLE) return [];
      const change = { ink: null, ground: 'as needed' };
      const edit: Edit | null =
        kind === 'annotation'
          ? { type: 'annotation.change', id, change }
          : kind === 'legend'
            ? { type: 'legend.change', id, change: { ground: 'as needed' } }
            : null;
      return {
        place: { kind: 'words' as const, id, name },
        says: `“${faintest.text}” has a contrast of ${faintest.contrast.toFixed(1)} with what lies behind it; words need ${LEGIBLE}.`,
        remedy: 'Let a plate lie behind it as needed, or give it another colour.',
        ...(edit && { mend: { says: 'Make it legible', edits: [edit] } }),
      };
    }),
});
