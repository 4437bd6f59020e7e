import { rule } from '../rule.ts';

/** Less is only touched. */
const WORTH_SAYING = 0.15;

/** Words that hide some of the model. */
export const wordsOverModel = rule({
  id: 'words over the model',
  name: 'words over the model',
  severity: 'minor',
  of: 'scene',
  find: ({ picture }) =>
    (picture?.words ?? []).flatMap(({ id, name, hangs, overModel }) => {
      // What hangs on the model stands where there is room, and says of which place it tells.
      if (hangs || overModel < WORTH_SAYING) return [];
      return {
        place: { kind: 'words' as const, id, name },
        says: `${name} lies over the model.`,
        remedy: 'Drag it to where there is room, or move the view.',
      };
    }),
});
