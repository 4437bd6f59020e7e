import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { SceneThing } from './declaration.ts';
import { wholeStyle } from './style.ts';

/** Light that is scattered in the lens, around what is brighter than a picture can show. */
export interface Glow {
  /** Times the light above white that is seen around what it comes from; 0 is a clean lens. */
  strength: number;
  /** How far it reaches: the standard deviation of its fall, in percent of the height of the picture. */
  reach: number;
  /** Whether bodies without a finish, and colours of values, stay as they are. */
  sparesValues: boolean;
}

const plain: Glow = { strength: 0, reach: 3, sparesValues: true };

const glows = ({ strength }: Glow): boolean => strength > 0;

const p = phrasesOf<Glow>();

export const glow: SceneThing<Glow, 'glow'> = {
  id: 'glow',
  name: 'the glow',
  line: 'lens',
  style: wholeStyle(),
  schema: z.object({
    strength: boundedNumber().min(0).max(4),
    reach: boundedNumber().min(0.2).max(20),
    sparesValues: z.boolean(),
  }),
  plain,
  defaults: () => plain,
  opening: 'Glow ',
  silent: ({ strength }) => strength === 0,
  phrase: p.styled(
    ({ strength }) => [
      words(', '),
      {
        text: strength === 0 ? 'no glow' : strength < 0.7 ? 'some glow' : 'strong glow',
        control: { kind: 'setting', thing: 'glow' },
      },
    ],
    p.row(
      p.text('of '),
      p.share('strength'),
      p.suffixes(
        { usual: {}, phrase: p.row(p.text('reaching '), p.number('reach', 'percent')) },
        {
          usual: { sparesValues: true },
          phrase: p.row(p.text('over values too'), p.fixed('sparesValues', false)),
        },
      ),
    ),
  ),
  controls: [
    { kind: 'number', key: 'strength', label: 'Glow', called: 'strength', range: () => [0, 2] },
    { kind: 'number', key: 'reach', label: 'Reach', unit: 'percent', range: () => [0.5, 12], when: glows },
    { kind: 'tick', key: 'sparesValues', label: 'Values keep the colours of their legend', when: glows },
  ],
};
