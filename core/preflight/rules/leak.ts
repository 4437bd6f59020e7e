import { literalPattern } from '../../model/literal-pattern.ts';
import { rule } from '../rule.ts';

/** What tells of the inside of a house: folders of its machines, their addresses, mail addresses. */
const PRIVATE: readonly { pattern: RegExp; what: string }[] = [
  { pattern: /(?<![\w.])[A-Za-z]:\\[^\s"<>|]+/u, what: 'a folder of a machine' },
  { pattern: /\\\\[\w.-]+\\[^\s"<>|]+/u, what: 'a folder in the network' },
  {
    pattern: /(?<![\w.)/:])\/(?:home|Users|mnt|media|data|srv|tmp|var|opt|scratch|work)\/[^\s"<>|]+/u,
    what: 'a folder of a machine',
  },
  { pattern: /\b[\w.+-]+@[\w-]+(?:\.[\w-]+)+\b/u, what: 'a mail address' },
  {
    pattern: /\b(?:10|127|192\.168|172\.(?:1[6-9]|2\d|3[01]))(?:\.\d{1,3}){2,3}\b/u,
    what: 'an address in the network',
  },
];

/** The first thing in a text that should not leave the house; null where there is none. */
export function leakIn(text: string, inHouse: readonly string[]): { found: string; what: string } | null {
  for (const { pattern, what } of PRIVATE) {
    const [found] = pattern.exec(text) ?? [];
    if (found) return { found, what };
  }
  for (const word of inHouse) {
    const [found] =
      new RegExp(`(?<![\\p{L}\\p{N}])${literalPattern(word)}(?![\\p{L}\\p{N}])`, 'iu').exec(text) ?? [];
    if (found) return { found, what: 'a word that stays in the house' };
  }
  return null;
}

/** A path or a name that should not leave the house. */
export const leak = rule({
  id: 'leak',
  name: 'a path or name that stays in the house',
  severity: 'serious',
  of: 'texts',
  find: ({ inHouse, pieces }) =>
    pieces.flatMap(({ place, text }) => {
      const leaked = leakIn(text, inHouse);
      if (!leaked) return [];
      return {
        place,
        says: `${place.name} says “${leaked.found}”: ${leaked.what}.`,
        remedy: 'Write it otherwise, or waive it where everybody may know.',
      };
    }),
});
