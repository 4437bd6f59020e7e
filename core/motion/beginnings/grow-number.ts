import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { bothEnds, even } from '../../scene/reel/ease.ts';
import type { Beginning } from './beginning.ts';
import { lanesOfNumber, numberAt, numberByName } from './moving-numbers.ts';

interface GrowNumber {
  /** Address of what grows. */
  of: string[];
}

const p = phrasesOf<GrowNumber>();

/** A number that grows from nothing to what it is: a revolve to its angle, a deformation to its factor. */
export const growNumber: Beginning<GrowNumber> = {
  id: 'grow',
  name: 'Grow',
  purpose: 'a revolve, a deformation or any other number, from nothing to what it is',
  schema: z.object({ of: z.array(z.string()).min(1) }),
  defaults({ numbers }) {
    const growing = numbers.filter((n) => n.names.length > 1 && !n.normal && n.now !== 0);
    const found = growing[0] ?? numbers.find((n) => n.now !== 0);
    return found
      ? { of: [...found.address] }
      : 'There is nothing to grow: no number of the scene is more than nothing. Add a line first.';
  },
  phrase: p.row(p.text('grow '), numberByName()),
  controls: ({ numbers }) => [
    {
      kind: 'choice',
      key: 'of',
      label: 'What grows',
      choices: numbers.map(({ address, names }) => ({ value: address, label: names[0] })),
    },
  ],
  ease: bothEnds,
  begin({ of }, { from, to, ease }, setting) {
    const found = numberAt(of, setting);
    if (!found) return { lanes: [] };
    // What cannot be nothing begins with the least it can be.
    const least = found.low > 0 ? Math.min(found.low, found.now) : 0;
    return {
      lanes: lanesOfNumber(found, [
        { at: from, value: found.value(least), ease },
        { at: to, value: found.value(found.now), ease: even },
      ]),
    };
  },
};
