import { fieldUnit, type Phrase, type PhraseSetting, sayValue } from '../../language/phrase.ts';
import { type SentencePiece, words } from '../../language/sentence.ts';
import type { SentenceReader } from '../../language/sentence-reader.ts';
import { type Levels, levelValues } from '../../model/levels.ts';
import type { Component } from '../../model/quantity.ts';
import type { OperationSetting } from './operation.ts';

type Holder = Record<string, unknown>;

/** `bands` of a colour scale, whose ends are those of the scale, or `values` of a quantity. */
export type LevelsOf = 'values' | 'bands';

/**
 * Levels in a sentence: `100, 150 and 200 °C`, `9 values from 20 to 220 °C`, `5 values from 1 to 10000 by ratio`,
 * `values every 25 °C`, `4 values of equal shares`, `the levels of its colours`.
 */
export const levelsPhrase = <O extends object>(
  key: keyof O & string,
  of: LevelsOf = 'values',
  unitOf: (options: Partial<O>, setting: PhraseSetting) => string | null = fieldUnit,
): Phrase<O> => ({
  say(o, s) {
    const levels = (o as Holder)[key] as Levels | null;
    if (!levels) return null;
    return sayLevels(levels, key, of, unitOf(o, s), s);
  },
  read(reader, into, s) {
    const unit = unitOf(into, s);
    const found = reader.first<Levels>([
      () => readScaleLevels(reader, of),
      () => readCounted(reader, of, unit),
      () => readEvery(reader, of, unit),
      () => readList(reader, of, unit),
    ]);
    if (!found) return false;
    (into as Holder)[key] = found;
    return true;
  },
});

function sayLevels(
  levels: Levels,
  key: string,
  of: LevelsOf,
  unit: string | null,
  s: PhraseSetting,
): SentencePiece[] {
  const control = { kind: 'option' as const, step: '', key };
  const say = (v: number): string => sayValue(v, null, s);
  switch (levels.kind) {
    case 'scale':
      return [{ text: 'the levels of its colours', control }];
    case 'share':
      return [{ text: `${levels.count} ${of} of equal shares`, control }];
    case 'every':
      return [{ text: `${of} every ${sayValue(levels.step, unit, s)}`, control }];
    case 'list': {
      const said = levels.values.map(say);
      const all =
        said.length < 2
          ? (said[0] ?? 'no value')
          : `${said.slice(0, -1).join(', ')} and ${said[said.length - 1]}`;
      const text = `${of === 'bands' ? 'bands at ' : ''}${all}${unit ? ` ${unit}` : ''}`;
      return [{ text, control }];
    }
    default: {
      const { count, low, high, kind } = levels;
      const ends: SentencePiece[] =
        low === null || high === null
          ? []
          : [
              words(' from '),
              { text: sayValue(low, unit, s), control },
              words(' to '),
              { text: sayValue(high, unit, s), control },
            ];
      return [{ text: `${count} ${of}`, control }, ...ends, words(kind === 'log' ? ' by ratio' : '')];
    }
  }
}

const readScaleLevels = (reader: SentenceReader, of: LevelsOf): Levels | undefined =>
  of === 'values' && reader.words('the levels of its colours') ? { kind: 'scale' } : undefined;

function readCounted(reader: SentenceReader, of: LevelsOf, unit: string | null): Levels | undefined {
  const said = reader.number(null, 'how many');
  if (said === undefined || !(said >= 1)) return undefined;
  const count = Math.round(said);
  // "9 levels from 20 to 220" lie between these, not at them: the ends are those of what is parted.
  const inside = of === 'values' && reader.words('levels');
  if (!inside && !reader.words(of)) return undefined;
  if (reader.first([() => reader.words('of equal shares')])) return { kind: 'share', count };
  const ends = reader.first([
    () => {
      const low = reader.words('from') ? reader.number(unit, 'a number', true) : undefined;
      const high =
        low !== undefined && reader.words('to') ? reader.number(unit, 'a number', true) : undefined;
      return high === undefined ? undefined : { low: low!, high };
    },
  ]) ?? { low: null, high: null };
  const kind = reader.first([() => reader.words('by ratio')]) ? ('log' as const) : ('count' as const);
  if (inside && ends.low !== null && kind === 'count')
    return { kind, count, ...innerEnds(count, ends.low, ends.high) };
  return { kind, count, ...ends };
}

function readEvery(reader: SentenceReader, of: LevelsOf, unit: string | null): Levels | undefined {
  const step = reader.words(`${of} every`) ? reader.number(unit, 'a number', true) : undefined;
  return step !== undefined && step > 0 ? { kind: 'every', step } : undefined;
}

/** Ends of `count` even levels that part a range in one more, none of them at its ends. */
export function innerEnds(count: number, low: number, high: number): { low: number; high: number } {
  const gap = (high - low) / (count + 1);
  return { low: low + gap, high: high - gap };
}

function readList(reader: SentenceReader, of: LevelsOf, unit: string | null): Levels | undefined {
  if (of === 'bands' && !reader.words('bands at')) return undefined;
  const values: number[] = [];
  let behind = reader.at;
  do {
    const value = reader.number(unit, 'a number', true);
    // A comma that no number follows belongs to what comes next.
    if (value === undefined) break;
    values.push(value);
    behind = reader.at;
  } while (reader.words(',') || reader.words('and'));
  reader.at = behind;
  return values.length > 0 ? { kind: 'list', values } : undefined;
}

/** Options with their levels as numbers, from what the run and the colour scale say. */
export function settledLevels<O extends { field: string; component: Component; levels: Levels }>(
  options: O,
  { quantities, levels: scale, sharesOf }: OperationSetting,
): O {
  const { field, component, levels } = options;
  const { low, high } = quantities.find((q) => q.field === field && q.component === component) ?? {
    low: 0,
    high: 1,
  };
  const shares = levels.kind === 'share' ? sharesOf(field, component) : null;
  return { ...options, levels: { kind: 'list', values: levelValues(levels, { low, high, shares, scale }) } };
}

/** Levels settled to numbers, for what is computed without the run. */
export const numbersOf = (levels: Levels): number[] =>
  levelValues(levels, { low: 0, high: 1, shares: null, scale: [] });
