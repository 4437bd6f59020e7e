import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { even, hold } from '../../scene/reel/ease.ts';
import type { NewLane } from '../../scene/reel/lane.ts';
import type { Marker } from '../../scene/reel/marker.ts';
import { TIME } from '../keyed-values.ts';
import { placeOf } from '../time-map.ts';
import { type Beginning, settingOfBeginning } from './beginning.ts';
import { ONE_STEP, stretchOfRun } from './play-results.ts';

interface HoldAt {
  /** Where along the steps it stands still. */
  place: number;
  seconds: number;
  /** What is said meanwhile; empty for nothing. */
  caption: string;
  /** Words or marks that are shown only meanwhile, by their id; empty for none. */
  words: string;
}

const p = phrasesOf<HoldAt>();

const NO_WORDS =
  'This scene has no words or marks to show meanwhile. Add them on the stage first, or say a caption instead';

/** The results once, standing still at one moment while something is said or pointed out. */
export const holdAt: Beginning<HoldAt> = {
  id: 'hold at',
  name: 'Hold at a step',
  purpose: 'the results once, standing still at one moment with a caption or a callout',
  schema: z.object({
    place: boundedNumber(),
    seconds: boundedNumber().positive().max(3600),
    caption: z.string().max(2000),
    words: z.string().max(200),
  }),
  defaults(setting) {
    const { places, scene, words } = setting;
    if (places.values.length < 2) return ONE_STEP;
    return {
      place: placeOf(places, scene),
      seconds: Math.min(3, scene.reel.seconds / 3),
      caption: '',
      words: words.at(-1)?.value ?? '',
    };
  },
  phrase: p.row(
    p.text('hold at '),
    p.number('place', (_, s) => settingOfBeginning(s).places.unit),
    p.text(' for '),
    p.number('seconds'),
    p.text(' s'),
    p.suffixes(
      { usual: { caption: '' }, phrase: p.row(p.text('saying '), p.quoted('caption')) },
      {
        usual: { words: '' },
        phrase: {
          say: ({ words: id }, s) => [
            { text: `with ${settingOfBeginning(s).words.find((w) => w.value === id)?.text ?? 'words'}` },
          ],
          read(reader, into, s) {
            if (!reader.words('with')) return false;
            const { words } = settingOfBeginning(s);
            if (words.length === 0) return reader.refuse(reader.text.length, NO_WORDS, []);
            const found = reader.name(words);
            if (found === undefined) return false;
            into.words = found;
            return true;
          },
        },
      },
    ),
  ),
  controls: (setting) => [
    { kind: 'number', key: 'place', label: 'At', range: () => stretchOfRun(setting) },
    { kind: 'number', key: 'seconds', label: 'For, in s', range: () => [0.5, 10] },
    { kind: 'words', key: 'caption', label: 'Saying', hint: 'nothing' },
    {
      kind: 'choice',
      key: 'words',
      label: 'Shown meanwhile',
      choices: [
        { value: '', label: 'nothing' },
        ...setting.words.map(({ text, value }) => ({ value, label: text })),
      ],
    },
  ],
  ease: even,
  begin({ place, seconds, caption, words }, { from, to }, setting) {
    const [first, last] = stretchOfRun(setting);
    const held = Math.min(seconds, 0.95 * (to - from));
    const at = Math.min(last, Math.max(first, place));
    const share = last > first ? (at - first) / (last - first) : 0;
    const begins = from + share * (to - from - held);
    const ends = begins + held;
    const time: NewLane = {
      of: TIME,
      keys: [
        { at: from, value: first, ease: even },
        { at: begins, value: at, ease: even },
        { at: ends, value: at, ease: even },
        { at: to, value: last, ease: even },
      ],
    };
    const shown: NewLane[] =
      words === ''
        ? []
        : [
            {
              of: ['annotations', words, 'visible'],
              keys: [
                { at: from, value: begins <= from, ease: hold },
                { at: begins, value: true, ease: hold },
                { at: ends, value: false, ease: hold },
              ],
            },
          ];
    const marker: Marker = {
      id: `marker-${setting.scene.markers.length + 1}-${Math.round(begins * 1000)}`,
      at: begins,
      name: '',
      caption,
      until: ends,
    };
    return { lanes: [time, ...shown], markers: caption === '' ? [] : [marker] };
  },
};
