import { rule } from '../rule.ts';

/** Many mail servers take no more than 10 MB. Common practice, no source. */
export const MOST_FOR_MAIL = 10_000_000;

/** A file that will not arrive. */
export const largeForMail = rule({
  id: 'large for mail',
  name: 'a file too large for mail',
  severity: 'minor',
  of: 'file',
  find({ name, bytes }) {
    if (bytes === null || bytes <= MOST_FOR_MAIL) return [];
    return [
      {
        place: { kind: 'file', id: null, name },
        says: `${name} has ${Math.round(bytes / 1e6)} MB: many mail servers take no more than ${MOST_FOR_MAIL / 1e6}.`,
        remedy: 'Make it smaller: fewer pixels, fewer figures or a shorter film, or send it another way.',
      },
    ];
  },
});
