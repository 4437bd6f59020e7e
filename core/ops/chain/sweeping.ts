import { type Phrase, phrasesOf, quantityOf, type UnitOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { OperationSetting, OptionControl } from './operation.ts';

/** A place or a value that goes from where it is to somewhere else while the cycle of the scene plays. */
export interface Sweeping {
  /** Where it goes to; null where it stays. */
  sweep: number | null;
  /** Whether it comes back within the cycle, so that nothing jumps where that begins anew. */
  back: boolean;
}

export const sweepingSchema = {
  sweep: boundedNumber().nullable().default(null),
  back: z.boolean().default(false),
};

export const sweepingDefaults: Sweeping = { sweep: null, back: false };

/** How far a sweep is, from 0 to 1 and, where it comes back, to 0 again. */
const shareOf = ({ back }: Sweeping, cycle: number): number => (back ? 1 - Math.abs(1 - 2 * cycle) : cycle);

/** Where something is at a place in the cycle. */
export const sweptTo = (
  from: number,
  sweeping: Sweeping,
  { cycle }: Pick<OperationSetting, 'cycle'>,
): number => (sweeping.sweep === null ? from : from + (sweeping.sweep - from) * shareOf(sweeping, cycle));

/** Whether it plays while the step stands, and whether its end is its beginning. */
export const sweepPlays = ({ sweep, back }: Sweeping): 'closed' | 'open' | null =>
  sweep === null ? null : back ? 'closed' : 'open';

/** ` sweeping to 0.8 m and back`. */
export function sweepingPhrase<O extends Sweeping>(unit: UnitOf<O>): Phrase<O> {
  const p = phrasesOf<O>();
  return p.unless(
    'sweep',
    null,
    p.text(' sweeping to '),
    p.number('sweep', unit),
    p.flag('back', ' and back'),
  );
}

/** The fine settings of a sweep. */
export function sweepingControls<O extends Sweeping>(
  unit: 'length' | 'field',
  range: (o: O, s: OperationSetting) => [number, number],
  when: (o: O) => boolean = () => true,
): OptionControl<O>[] {
  return [
    {
      kind: 'number',
      key: 'sweep',
      label: 'Sweeps to',
      called: 'other end',
      none: 'stays',
      unit,
      range,
      when,
    },
    {
      kind: 'tick',
      key: 'back',
      label: 'and back',
      called: 'way back',
      when: (o: O) => when(o) && o.sweep !== null,
    },
  ] as OptionControl<O>[];
}

/** The lowest and highest value of the quantity that options name. */
export function spanOfField(options: object, setting: Parameters<typeof quantityOf>[1]): [number, number] {
  const q = quantityOf(options as Record<string, unknown>, setting);
  return q ? [q.low, q.high] : [0, 1];
}
