import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { SceneThing } from './declaration.ts';

/**
 * Where a scene is in its cycle: the phase of what swings, how far sweeps are, where pulses along lines are. It plays
 * while the step stands.
 */
export interface Cycle {
  /** In degrees, from 0 to 360; the end of what does not come back is 360. */
  phase: number;
  /** How long one cycle takes on the screen. */
  seconds: number;
  /** Whether complex quantities of the files run on as e^(iωt) or as e^(-iωt). */
  convention: 'plus' | 'minus';
}

const p = phrasesOf<Cycle>();
const plain: Cycle = { phase: 0, seconds: 4, convention: 'plus' };

export const cycle: SceneThing<Cycle, 'cycle'> = {
  id: 'cycle',
  name: 'the cycle',
  line: null,
  schema: z.object({
    phase: boundedNumber().min(0).max(360),
    seconds: boundedNumber().positive().max(3600),
    convention: z.enum(['plus', 'minus']),
  }),
  plain,
  defaults: () => plain,
  opening: 'Cycle ',
  phrase: p.row(
    p.text('at '),
    p.number('phase', 'angle'),
    p.suffixes(
      { usual: { seconds: plain.seconds }, phrase: p.row(p.number('seconds'), p.text(' s long')) },
      {
        usual: { convention: plain.convention },
        phrase: p.row(p.text('running as e^(-iωt)'), p.fixed('convention', 'minus')),
      },
    ),
  ),
  silent: (value) => JSON.stringify(value) === JSON.stringify(plain),
  controls: [
    { kind: 'number', key: 'phase', label: 'Phase', unit: 'angle', range: () => [0, 360] },
    { kind: 'number', key: 'seconds', label: 'Seconds long', range: () => [0.5, 20] },
    {
      kind: 'choice',
      key: 'convention',
      label: 'Time runs as',
      called: 'run of time',
      choices: [
        { value: 'plus', label: 'e^(+iωt)' },
        { value: 'minus', label: 'e^(−iωt)' },
      ],
    },
  ],
};

/** From 0 to 1. */
export const shareOfCycle = ({ phase }: Cycle): number => phase / 360;

/** What swinging quantities are turned by, in radians, as e^(iωt) turns. */
export const turnOfCycle = ({ phase, convention }: Cycle): number =>
  ((convention === 'plus' ? 1 : -1) * phase * Math.PI) / 180;
