import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { hold } from '../../scene/reel/ease.ts';
import type { Beginning } from './beginning.ts';

type CutThroughViews = Record<string, never>;

const p = phrasesOf<CutThroughViews>();

/** The camera stands in each of the views that are kept for as long, in their order, and goes to the next without a way between. */
export const cutThroughViews: Beginning<CutThroughViews> = {
  id: 'cut through views',
  name: 'Cut from view to view',
  purpose: 'each of the kept shots or cameras for as long, with a cut to the next',
  schema: z.object({}),
  defaults: ({ views }) =>
    views.length > 1 ? {} : 'There are no two views to cut between. Keep two shots or cameras first.',
  phrase: p.text('cut through the kept views'),
  controls: () => [],
  ease: hold,
  begin(_, { from, to }, { views }) {
    return {
      lanes: [
        {
          of: ['camera'],
          keys: views.map(({ camera }, i) => ({
            at: from + ((to - from) * i) / views.length,
            value: camera,
            ease: hold,
          })),
        },
      ],
    };
  },
};
