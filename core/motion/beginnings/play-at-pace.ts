import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { secondsIn } from '../../model/units.ts';
import { even } from '../../scene/reel/ease.ts';
import { TIME } from '../keyed-values.ts';
import type { Beginning } from './beginning.ts';
import { ONE_STEP, stretchOfRun } from './play-results.ts';

interface PlayAtPace {
  /** How many times as fast as the clock. */
  pace: number;
}

const p = phrasesOf<PlayAtPace>();

/** The time of the run goes so many times as fast as that of the film; where the run ends it stays. */
export const playAtPace: Beginning<PlayAtPace> = {
  id: 'play at a pace',
  name: 'Play at a pace',
  purpose: 'so many times as fast as it was',
  schema: z.object({ pace: boundedNumber().positive() }),
  defaults(setting) {
    const { places, scene } = setting;
    if (places.values.length < 2) return ONE_STEP;
    const second = places.unit === null ? undefined : secondsIn[places.unit];
    if (!places.ofTime || second === undefined)
      return 'The steps of this run have no times in a known unit, so that nothing can be as fast as it was. State the unit at Intake, or play the results once.';
    const [first, last] = stretchOfRun(setting);
    const pace = ((last - first) * second) / scene.reel.seconds;
    return { pace: Number(pace.toPrecision(2)) };
  },
  phrase: p.row(p.text('play at '), p.number('pace'), p.text(' times real time')),
  controls: () => [{ kind: 'number', key: 'pace', label: 'Times real time', range: () => [0.01, 100] }],
  ease: even,
  begin({ pace }, { from, to, ease }, setting) {
    const [first, last] = stretchOfRun(setting);
    const second = secondsIn[setting.places.unit ?? 's'] ?? 1;
    const end = Math.min(to, from + ((last - first) * second) / pace);
    return {
      lanes: [
        {
          of: TIME,
          keys: [
            { at: from, value: first, ease },
            { at: end, value: first + ((end - from) * pace) / second, ease: even },
          ],
        },
      ],
    };
  },
};
