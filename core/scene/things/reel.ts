import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { LONGEST_REEL } from '../reel/lane.ts';
import type { SceneThing } from './declaration.ts';

/** What a film of a scene is as a whole; what moves in it stands in the lanes. */
export interface Reel {
  /** How long it is. */
  seconds: number;
  /** Pictures a second. */
  rate: number;
  /** From where to where it is played and given out, in seconds; null for its end. */
  from: number;
  to: number | null;
  /** It goes round: its end leads to its beginning. */
  loop: boolean;
  /** Between two steps of the run: values made from both, or those of the step before. */
  between: 'made' | 'held';
  /** Where captions are: on the picture, or in a file beside it. */
  captions: 'picture' | 'beside';
  /** The picture that stands for the film is the one of this time, in seconds. */
  poster: number;
  /** For how much of the time of a picture it is exposed, in degrees of a turning shutter; 0 without blur of motion. */
  shutter: number;
}

const p = phrasesOf<Reel>();
const plain: Reel = {
  seconds: 10,
  rate: 25,
  from: 0,
  to: null,
  loop: false,
  between: 'made',
  captions: 'picture',
  poster: 0,
  shutter: 0,
};

/** The longest blur there is: as long as a picture lasts. */
const WHOLE_TURN = 360;

export const reel: SceneThing<Reel, 'reel'> = {
  id: 'reel',
  name: 'the reel',
  line: null,
  version: 2,
  migrations: { 1: (old) => ({ poster: plain.poster, ...old }) },
  schema: z.object({
    seconds: boundedNumber().min(0.01).max(LONGEST_REEL),
    rate: boundedNumber().min(0.01).max(240),
    from: boundedNumber().min(0).max(LONGEST_REEL),
    to: boundedNumber().min(0).max(LONGEST_REEL).nullable(),
    loop: z.boolean(),
    between: z.enum(['made', 'held']),
    captions: z.enum(['picture', 'beside']),
    poster: boundedNumber().min(0).max(LONGEST_REEL),
    shutter: boundedNumber().min(0).max(WHOLE_TURN),
  }),
  plain,
  defaults: () => plain,
  opening: 'Film of ',
  phrase: p.row(
    p.number('seconds'),
    p.text(' s, '),
    p.number('rate'),
    p.text(' pictures a second'),
    p.suffixes(
      {
        usual: { from: plain.from, to: plain.to },
        phrase: p.row(
          p.text('shown from '),
          p.number('from'),
          p.text(' s to '),
          p.oneOf(p.row(p.text('the end'), p.fixed('to', null)), p.row(p.number('to'), p.text(' s'))),
        ),
      },
      { usual: { loop: plain.loop }, phrase: p.row(p.text('going round'), p.fixed('loop', true)) },
      { usual: { between: plain.between }, phrase: p.row(p.text('steps held'), p.fixed('between', 'held')) },
      {
        usual: { captions: plain.captions },
        phrase: p.row(p.text('captions beside it'), p.fixed('captions', 'beside')),
      },
      {
        usual: { poster: plain.poster },
        phrase: p.row(p.text('poster at '), p.number('poster'), p.text(' s')),
      },
      {
        usual: { shutter: plain.shutter },
        phrase: p.row(p.text('blurred by a shutter of '), p.number('shutter', 'angle')),
      },
    ),
  ),
  silent: (value) => JSON.stringify(value) === JSON.stringify(plain),
  controls: [
    { kind: 'number', key: 'seconds', label: 'Length in seconds', range: () => [1, 120] },
    { kind: 'number', key: 'rate', label: 'Pictures a second', range: () => [1, 60] },
    { kind: 'tick', key: 'loop', label: 'Goes round' },
    {
      kind: 'choice',
      key: 'between',
      label: 'Between two steps',
      choices: [
        { value: 'made', label: 'values made from both' },
        { value: 'held', label: 'the step before, held' },
      ],
    },
    {
      kind: 'choice',
      key: 'captions',
      label: 'Captions',
      choices: [
        { value: 'picture', label: 'on the picture' },
        { value: 'beside', label: 'in a file beside it' },
      ],
    },
    { kind: 'number', key: 'poster', label: 'Poster at second', range: ({ seconds }) => [0, seconds] },
    { kind: 'number', key: 'shutter', label: 'Blur of motion', unit: 'angle', range: () => [0, WHOLE_TURN] },
  ],
};

/** From when to when it is played and given out, in seconds; all of it where the ends leave nothing. */
export function spanOfReel({ seconds, from, to }: Reel): { from: number; to: number } {
  const end = Math.min(to ?? seconds, seconds);
  return from < end ? { from, to: end } : { from: 0, to: seconds };
}
