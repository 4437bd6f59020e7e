import { rule } from '../rule.ts';

/** Fewer pictures a second than this are seen one by one; films have 24 (SMPTE ST 2001; from memory). */
const SMOOTH = 24;
/** From here on it is seen at a glance. Common practice, no source. */
const LEAST = 15;

/** A film with too few pictures for its length. */
export const fewPictures = rule({
  id: 'few pictures',
  name: 'too few pictures for the length',
  severity: 'moderate',
  of: 'film',
  find({ count, rate, ofReel }) {
    if (rate >= LEAST || count < 2) return [];
    return [
      {
        place: { kind: 'film', id: null, name: 'the film' },
        says: `The film has ${count} pictures for ${Number((count / rate).toPrecision(3))} s: ${rate} a second are seen one by one.`,
        remedy: `Give it ${SMOOTH} pictures a second.`,
        ...(ofReel && {
          mend: {
            says: `${SMOOTH} pictures a second`,
            edits: [{ type: 'setting.change', thing: 'reel', change: { rate: SMOOTH } }],
          },
        }),
      },
    ];
  },
});
