import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { SceneThing } from './declaration.ts';
import { wholeStyle } from './style.ts';

/** Air that is not clear: what is farther away fades into the backdrop. */
export interface Haze {
  /** Share of what lies farthest that is lost in it, 0..1; 0 is clear air. */
  amount: number;
  /** Where it begins, as a share of the way through the model, from its nearest place. */
  from: number;
  /** Whether colours of values stay as they are: their legend tells no haze. */
  sparesValues: boolean;
}

const plain: Haze = { amount: 0, from: 0, sparesValues: true };

const isHazy = ({ amount }: Haze): boolean => amount > 0;

/** The thickest that is reckoned with: behind what is lost altogether there is no telling how fast. */
const MOST = 0.995;

/**
 * How haze goes by distance in front of the camera: where it begins, and the rate of Beer and Lambert's law after that; a share
 * of exp(rate × (distance − from)) is left of what lies so far away.
 *
 * @param nearest of the model, and its farthest place, along the axis of the camera
 */
export function hazeRate(
  { amount, from }: Haze,
  nearest: number,
  farthest: number,
): { from: number; rate: number } {
  const begins = nearest + from * (farthest - nearest);
  const deep = Math.max(farthest - begins, 1e-6 * Math.max(1e-9, farthest - nearest));
  return { from: begins, rate: Math.log(1 - Math.min(amount, MOST)) / deep };
}

const p = phrasesOf<Haze>();

export const haze: SceneThing<Haze, 'haze'> = {
  id: 'haze',
  name: 'the haze',
  line: 'light',
  style: wholeStyle(),
  schema: z.object({
    amount: boundedNumber().min(0).max(1),
    from: boundedNumber().min(0).max(1),
    sparesValues: z.boolean(),
  }),
  plain,
  defaults: () => plain,
  opening: 'Haze ',
  silent: ({ amount }) => amount === 0,
  phrase: p.styled(
    ({ amount }) => [
      words(', '),
      {
        text: amount === 0 ? 'clear air' : amount < 0.6 ? 'some haze' : 'thick haze',
        control: { kind: 'setting', thing: 'haze' },
      },
    ],
    p.row(
      p.text('takes '),
      p.share('amount'),
      p.suffixes(
        { usual: { from: 0 }, phrase: p.row(p.text('from '), p.share('from'), p.text(' of the way')) },
        {
          usual: { sparesValues: true },
          phrase: p.row(p.text('values too'), p.fixed('sparesValues', false)),
        },
      ),
    ),
  ),
  controls: [
    { kind: 'share', key: 'amount', label: 'Lost in haze far away', called: 'strength' },
    { kind: 'share', key: 'from', label: 'Begins at', called: 'beginning', when: isHazy },
    { kind: 'tick', key: 'sparesValues', label: 'Values keep the colours of their legend', when: isHazy },
  ],
};
