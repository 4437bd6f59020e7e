import { phrasesOf } from '../../language/phrase.ts';
import { wholeNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { secondsIn } from '../../model/units.ts';
import type { OperationSetting } from '../../ops/chain/operation.ts';
import type { SceneThing } from './declaration.ts';
import { placeControls, placeInPicture, sayPlace } from './place-in-picture.ts';

/** The time written on the picture, and what else a picture has to say to be understood. */
export interface Stamp {
  visible: boolean;
  /** Whether it says by how much shapes are exaggerated and which parts are left out. */
  notes: boolean;
  style: 'decimals' | 'clock';
  decimals: number;
  /** Unit shown; null for the unit of the run. */
  unit: string | null;
  x: number;
  y: number;
}

const p = phrasesOf<Stamp>();

/** Whether the time of a run can be shown in other units. */
const convertible = ({ timeUnit }: Pick<OperationSetting, 'timeUnit'>): boolean =>
  typeof timeUnit === 'string' && timeUnit in secondsIn;

export const stamp: SceneThing<Stamp, 'stamp'> = {
  id: 'stamp',
  name: 'the time on the picture',
  line: 'words',
  version: 2,
  // Where it was switched off it said nothing at all.
  migrations: { 1: (old) => ({ notes: old.visible !== false, ...old }) },
  schema: z.object({
    visible: z.boolean(),
    notes: z.boolean(),
    style: z.enum(['decimals', 'clock']),
    decimals: wholeNumber().min(0).max(6),
    unit: z.string().max(40).nullable(),
    x: placeInPicture(),
    y: placeInPicture(),
  }),
  plain: { visible: true, notes: true, style: 'decimals', decimals: 2, unit: null, x: 0.03, y: 0.95 },
  // What a picture has to say of its shape stands with the time.
  defaults: ({ times, displacement }) => ({
    visible: times.length > 1 || (displacement !== null && displacement.high > 0),
    notes: true,
    style: 'decimals',
    decimals: stampDecimals(times),
    unit: null,
    x: 0.03,
    y: 0.95,
  }),
  opening: 'Time in ',
  phrase: p.styled(
    ({ visible, style, unit }, { timeUnit = null }) => {
      const shown = unit ?? timeUnit;
      const said = !visible
        ? 'No time'
        : style === 'clock'
          ? 'Time as a clock'
          : shown && !(shown in secondsIn)
            ? 'The step'
            : `Time${shown ? ` in ${shown}` : ''}`;
      return [{ text: said, control: { kind: 'setting', thing: 'stamp' } }];
    },
    p.row(
      p.choice('style', [
        { text: 'decimals', value: 'decimals' },
        { text: 'clock', value: 'clock' },
      ]),
      p.text(' at '),
      sayPlace<Stamp>(),
      p.suffixes(
        { usual: {}, phrase: p.row(p.number('decimals'), p.text(' decimals')) },
        { usual: { unit: null }, phrase: p.row(p.text('unit '), p.quoted('unit')) },
        { usual: { visible: true }, phrase: p.row(p.text('hidden'), p.fixed('visible', false)) },
        { usual: { notes: true }, phrase: p.row(p.text('without notes'), p.fixed('notes', false)) },
      ),
    ),
  ),
  controls: [
    { kind: 'tick', key: 'visible', label: 'Shown' },
    { kind: 'tick', key: 'notes', label: 'Say exaggeration and hidden parts' },
    {
      kind: 'choice',
      key: 'style',
      label: 'As',
      called: 'form',
      choices: [
        { value: 'decimals', label: 'decimals' },
        { value: 'clock', label: 'minutes and seconds' },
      ],
      when: (_, s) => convertible(s),
    },
    {
      kind: 'word',
      key: 'unit',
      label: 'Unit',
      words: () => Object.keys(secondsIn),
      usual: ({ timeUnit }) => timeUnit ?? '',
      when: ({ style }, s) => style === 'decimals' && convertible(s),
    },
    { kind: 'number', key: 'decimals', label: 'Decimals', whole: true, range: () => [0, 6] },
    ...placeControls<Stamp>(),
  ],
};

/** Enough decimals to tell neighbouring times apart. */
export function stampDecimals(times: readonly number[]): number {
  const gaps = times
    .slice(1)
    .map((t, i) => Math.abs(t - times[i]))
    .filter((g) => g > 0);
  if (gaps.length === 0) return 0;
  return Math.min(6, Math.max(0, Math.ceil(-Math.log10(Math.min(...gaps)) - 1e-9)));
}
