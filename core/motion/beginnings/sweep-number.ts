import { AXES, phrasesOf, sayValue } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { bothEnds, even, hold } from '../../scene/reel/ease.ts';
import type { NewLane } from '../../scene/reel/lane.ts';
import { type Beginning, type BeginningSetting, settingOfBeginning } from './beginning.ts';
import { lanesOfNumber, numberAt, numberByName } from './moving-numbers.ts';

interface SweepNumber {
  /** Address of what moves. */
  of: string[];
  /** Of a plane: the axis it is swept along, as a letter; null for the one it has. */
  along: 'x' | 'y' | 'z' | null;
  from: number;
  to: number;
}

const p = phrasesOf<SweepNumber>();

const numberOf = ({ of }: Partial<SweepNumber>, setting: object) =>
  numberAt(of ?? [], settingOfBeginning(setting));

const LETTERS = ['x', 'y', 'z'] as const;

/** The axis that a direction is along, by its letter. */
const axisAlong = (direction: readonly number[]): string | null =>
  AXES.find(({ value }) => value.every((v, k) => v === direction[k]))?.text ?? null;

/** A number that moves from one value to another: a plane through a body, an isosurface through its values. */
export const sweepNumber: Beginning<SweepNumber> = {
  id: 'sweep',
  name: 'Sweep',
  purpose: 'a section, a clip, an isosurface or any other number, from one value to another',
  schema: z.object({
    of: z.array(z.string()).min(1),
    along: z.enum(LETTERS).nullable(),
    from: boundedNumber(),
    to: boundedNumber(),
  }),
  defaults({ numbers }) {
    // What is named by itself is what operations are moved by.
    const found = numbers.find((n) => n.normal) ?? numbers.find((n) => n.names.length > 1) ?? numbers[0];
    return found
      ? { of: [...found.address], along: null, from: found.low, to: found.high }
      : 'There is nothing to sweep: no section, no isosurface and no other number. Add a line first.';
  },
  phrase: p.row(
    p.text('sweep '),
    numberByName(),
    p.text(' from '),
    {
      // The axis is said where it is one, and read where it is said.
      say({ of, along }, s) {
        const plane = numberOf({ of }, s)?.normal;
        const axis = along ?? (plane && axisAlong(plane.now));
        return axis ? [{ text: `${axis} = ` }] : [];
      },
      read(reader, into, s) {
        into.along = null;
        const axis = reader.first([() => reader.name(LETTERS.map((a) => ({ text: a, value: a })))]);
        if (axis === undefined) return true;
        if (!reader.words('=')) return false;
        const plane = numberOf(into, s)?.normal;
        if (!plane) return reader.miss('a number');
        into.along = axisAlong(plane.now) === axis ? null : axis;
        return true;
      },
    },
    {
      say: ({ of, from, to }, s) => {
        const unit = numberOf({ of }, s)?.unit ?? null;
        return [
          { text: sayValue(from, null, s), control: { kind: 'option', step: '', key: 'from' } },
          { text: ' to ' },
          { text: sayValue(to, unit, s), control: { kind: 'option', step: '', key: 'to' } },
        ];
      },
      read(reader, into, s) {
        const { unit = null, measured } = numberOf(into, s) ?? {};
        const number = () => reader.number(unit, 'a number', measured);
        const from = number();
        const to = from !== undefined && reader.words('to') ? number() : undefined;
        if (from === undefined || to === undefined) return false;
        Object.assign(into, { from, to });
        return true;
      },
    },
  ),
  controls: (setting) => [
    {
      kind: 'choice',
      key: 'of',
      label: 'What moves',
      choices: setting.numbers.map(({ address, names }) => ({ value: address, label: names[0] })),
      also: (of) => {
        const found = numberAt(of, setting);
        return found ? { from: found.low, to: found.high, along: null } : {};
      },
    },
    { kind: 'number', key: 'from', label: 'From', range: (o) => rangeOf(o, setting) },
    { kind: 'number', key: 'to', label: 'To', range: (o) => rangeOf(o, setting) },
  ],
  ease: bothEnds,
  begin({ of, along, from, to }, span, setting) {
    const found = numberAt(of, setting);
    if (!found) return { lanes: [] };
    const lanes = lanesOfNumber(found, [
      { at: span.from, value: found.value(from), ease: span.ease },
      { at: span.to, value: found.value(to), ease: even },
    ]);
    if (!along || !found.normal) return { lanes };
    const turned: NewLane = {
      of: [...found.normal.address],
      keys: [{ at: span.from, value: AXES.find(({ text }) => text === along)!.value, ease: hold }],
    };
    return { lanes: [turned, ...lanes] };
  },
};

function rangeOf({ of }: SweepNumber, setting: BeginningSetting): [number, number] {
  const found = numberAt(of, setting);
  return found ? [found.low, found.high] : [0, 1];
}
