import { overlapOf } from '../picture-seen.ts';
import { rule } from '../rule.ts';

/** Less is only the rim of a plate. */
const WORTH_SAYING = 0.08;

/** Words that stand upon each other. */
export const wordsOverWords = rule({
  id: 'words over words',
  name: 'words over each other',
  severity: 'moderate',
  of: 'scene',
  find({ picture }) {
    const all = picture?.words ?? [];
    return all.flatMap((a, i) =>
      all.slice(i + 1).flatMap((b) => {
        if (overlapOf(a.box, b.box) < WORTH_SAYING) return [];
        return {
          place: { kind: 'words' as const, id: b.id, name: b.name },
          says: `${b.name} and ${a.name} lie over each other.`,
          remedy: 'Drag one of them to where there is room.',
        };
      }),
    );
  },
});
