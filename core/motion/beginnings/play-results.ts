import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { even } from '../../scene/reel/ease.ts';
import { stepsOfStretch } from '../../scene/things/stretch.ts';
import { TIME } from '../keyed-values.ts';
import { placeOf } from '../time-map.ts';
import type { Beginning, BeginningSetting } from './beginning.ts';

const p = phrasesOf<object>();

/** From where to where the results play: the stretch of the steps that the scene looks at. */
export function stretchOfRun({
  scene,
  places,
}: Pick<BeginningSetting, 'scene' | 'places'>): [number, number] {
  const { first, last } = stepsOfStretch(scene.stretch, places.values.length);
  return [placeOf(places, { step: first, onward: 0 }), placeOf(places, { step: last, onward: 0 })];
}

export const ONE_STEP = 'This run has one step only: there is no time to play.';

/** All steps of the run, or of its stretch, over the time it is given. */
export const playResults: Beginning<object> = {
  id: 'play results',
  name: 'Play the results once',
  purpose: 'from the first step to the last',
  schema: z.object({}),
  defaults: ({ places }) => (places.values.length > 1 ? {} : ONE_STEP),
  phrase: p.row(p.text('play the results once')),
  controls: () => [],
  ease: even,
  begin(_, { from, to, ease }, setting) {
    const [first, last] = stretchOfRun(setting);
    return {
      lanes: [
        {
          of: TIME,
          keys: [
            { at: from, value: first, ease },
            { at: to, value: last, ease: even },
          ],
        },
      ],
    };
  },
};
