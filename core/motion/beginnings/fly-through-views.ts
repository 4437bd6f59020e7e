import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { bothEnds } from '../../scene/reel/ease.ts';
import type { Beginning } from './beginning.ts';

interface FlyThroughViews {
  /** Whether it keeps its speed, or has as much time from each view to the next. */
  steady: boolean;
}

const p = phrasesOf<FlyThroughViews>();

/** The camera passes the views that are kept, in their order, in one curve. */
export const flyThroughViews: Beginning<FlyThroughViews> = {
  id: 'fly through views',
  name: 'Fly through the kept views',
  purpose: 'from shot to shot, or from one kept camera to the next',
  schema: z.object({ steady: z.boolean() }),
  defaults: ({ views }) =>
    views.length > 1
      ? { steady: false }
      : 'There are no two views to fly between. Keep two shots or cameras first.',
  phrase: p.row(p.text('fly through the kept views'), p.flag('steady', ' at one speed')),
  controls: () => [{ kind: 'tick', key: 'steady', label: 'At one speed' }],
  ease: bothEnds,
  begin({ steady }, { from, to, ease }, { views }) {
    return {
      lanes: [
        {
          of: ['camera'],
          smooth: true,
          steady,
          keys: views.map(({ camera }, i) => ({
            at: from + ((to - from) * i) / (views.length - 1),
            value: camera,
            ease,
          })),
        },
      ],
    };
  },
};
