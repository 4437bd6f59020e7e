import { distance } from 'fastest-levenshtein';
import { lettersOf } from './likely-name.ts';

/** So many letters of a name for each that may be wrong. */
const LETTERS_A_SLIP = 4;

/**
 * Names that differ from what is typed by a few slips (Levenshtein), the nearest first: one letter in four may be wrong, and of
 * short names one in all.
 *
 * @param typed may go on behind the name
 */
export function nearestNames(typed: string, names: readonly string[]): string[] {
  const word = /^\s*(\S*)/.exec(typed)![1];
  return names
    .flatMap((name) => {
      const letters = lettersOf(name);
      if (letters.length < 3) return [];
      const begun = lettersOf(typed.trimStart().slice(0, name.length));
      // A word of two letters is a slip of too many.
      const alone =
        lettersOf(word).length < 3 ? Number.POSITIVE_INFINITY : distance(lettersOf(word), letters);
      const slips = Math.min(alone, distance(begun, letters));
      return slips <= Math.max(1, Math.floor(letters.length / LETTERS_A_SLIP)) ? [{ name, slips }] : [];
    })
    .sort((a, b) => a.slips - b.slips)
    .map(({ name }) => name);
}
