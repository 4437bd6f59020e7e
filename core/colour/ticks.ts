import { format } from 'd3-format';
import { scaleLinear, scaleLog, scaleSymlog } from 'd3-scale';
import type { Levels } from '../model/levels.ts';
import { type NumberStyle, PLAIN_NUMBERS, raised, writtenNumber } from './number-style.ts';

/**
 * Ticks as texts with the same number of decimals, just enough to tell them apart; very large and small values
 * share a power of ten that is returned beside them (0 when there is none).
 */
export function tickTexts(ticks: number[]): { texts: string[]; power: number } {
  const largest = Math.max(...ticks.map(Math.abs), 0);
  const power =
    largest >= 1e6 || (largest > 0 && largest < 1e-3) ? 3 * Math.floor(Math.log10(largest) / 3) : 0;
  const scaled = ticks.map((t) => t / 10 ** power);
  const gap = Math.min(
    ...scaled.slice(1).map((t, i) => Math.abs(t - scaled[i])),
    Math.max(...scaled.map(Math.abs), 1e-12),
  );
  for (let decimals = 0; decimals < 8; decimals++) {
    const texts = scaled.map((t) => t.toFixed(decimals));
    if (scaled.every((t, i) => Math.abs(Number(texts[i]) - t) <= 0.006 * gap) || decimals === 7) {
      const say = format(`.${decimals}f`);
      return { texts: scaled.map((t, i) => say(Number(texts[i]) === 0 ? 0 : t)), power };
    }
  }
  return { texts: scaled.map(String), power };
}

/**
 * Round numbers between `low` and `high`: steps of 1, 2 or 5 times a power of ten, about `wanted` of them. Common
 * practice, no source; by d3-scale.
 */
export function roundTicks(low: number, high: number, wanted = 5): number[] {
  if (!(high > low) || !Number.isFinite(high - low)) return Number.isFinite(low) ? [low] : [];
  return scaleLinear([low, high], [0, 1]).ticks(Math.max(1, wanted));
}

/** Ends of a range that are round numbers, none of it left out. */
export function tidyEnds(low: number, high: number): [number, number] {
  return high > low ? (scaleLinear([low, high], [0, 1]).nice(10).domain() as [number, number]) : [low, high];
}

/** Of powers of ten, only those; where there are few, 2 and 5 of each, or round numbers as on an even scale. */
export function logTicks(low: number, high: number, wanted = 5): number[] {
  if (!(high > low) || !(low > 0)) return roundTicks(low, high, wanted);
  const decades = Math.log10(high / low);
  if (decades < 1) return roundTicks(low, high, wanted);
  const powers: number[] = [];
  const first = Math.ceil(Math.log10(low) - 1e-9);
  const last = Math.floor(Math.log10(high) + 1e-9);
  const every = Math.max(1, Math.ceil((last - first) / (wanted + 2)));
  for (let n = first; n <= last; n += every) powers.push(Number(`1e${n}`));
  if (powers.length > 2) return powers;
  return scaleLog([low, high], [0, 1])
    .ticks(20)
    .filter((v) => [1, 2, 5].includes(Number((v / 10 ** Math.floor(Math.log10(v) + 1e-9)).toPrecision(3))));
}

/** Zero, and powers of ten to both sides of it from where the scale stops being straight. */
export function symlogTicks(low: number, high: number, linear: number, wanted = 5): number[] {
  if (!(high > low)) return roundTicks(low, high, wanted);
  const side = (end: number): number[] =>
    end > linear ? logTicks(linear, end, Math.max(2, Math.ceil(wanted / 2))).filter((v) => v >= linear) : [];
  const ticks = [
    ...side(-low)
      .map((v) => -v)
      .reverse(),
    ...(low <= 0 && high >= 0 ? [0] : []),
    ...side(high),
  ].filter((v) => v >= low && v <= high);
  return ticks.length > 1 ? ticks : scaleSymlog([low, high], [0, 1]).constant(linear).ticks(wanted);
}

/** About so many levels within a range, evenly spaced at round numbers. */
export function roundLevels(low: number, high: number, about: number): Levels {
  const within = scaleLinear()
    .domain([low, high])
    .ticks(about)
    .filter((v) => v > low && v < high);
  if (within.length === 0) return { kind: 'count', count: 1, low, high };
  return { kind: 'count', count: within.length, low: within[0], high: within[within.length - 1] };
}

/** Numbers as texts that stand alone, with the digits needed to tell them apart. */
export function numberTexts(numbers: number[]): string[] {
  const { texts, power } = textsInStyle(numbers, PLAIN_NUMBERS);
  if (power === 0) return texts;
  return texts.map((t) => (Number(t) === 0 ? t : `${t}·10${raised(power)}`));
}

/** Whether numbers lie so that decimals which tell the smallest apart would be idle in the largest, as powers of ten do. */
function areFarApart(numbers: readonly number[]): boolean {
  const gaps = numbers.slice(1).map((v, i) => Math.abs(v - numbers[i]));
  return gaps.length > 1 && Math.min(...gaps) < 0.02 * Math.max(...gaps);
}

const isSaidBy = (v: number, digits: number): boolean =>
  Math.abs(Number(v.toPrecision(digits)) - v) <= 1e-4 * Math.abs(v);

/** Each by itself: plain where all are easily read so, else as powers of ten. */
function eachAsNeeded(numbers: readonly number[]): { texts: string[]; power: number } {
  const sizes = numbers.filter((v) => v !== 0).map(Math.abs);
  const plain = Math.max(...sizes) < 1e6 && Math.min(...sizes) >= 1e-4;
  const style: NumberStyle = plain
    ? { kind: 'digits', count: 4 }
    : { kind: 'powers', count: [1, 2, 3].find((d) => numbers.every((v) => isSaidBy(v, d))) ?? 4 };
  return { texts: numbers.map((v) => writtenNumber(v, style)), power: 0 };
}

/** Numbers in a style: as needed, with a shared power of ten beside them (0 when there is none); else each by itself. */
export function textsInStyle(numbers: number[], style: NumberStyle): { texts: string[]; power: number } {
  if (style.kind === 'as needed') return areFarApart(numbers) ? eachAsNeeded(numbers) : tickTexts(numbers);
  return { texts: numbers.map((v) => writtenNumber(v, style)), power: 0 };
}

/**
 * Which of some labels along a line are said: the first, the last, and every so many of those between, as many as have
 * room.
 *
 * @param places middles of the labels, in order
 * @param lengths of the labels along the line
 */
export function labelsWithRoom(places: readonly number[], lengths: readonly number[]): boolean[] {
  const count = places.length;
  const apart = (i: number, j: number): boolean =>
    Math.abs(places[i] - places[j]) >= (lengths[i] + lengths[j]) / 2;
  const fits = (chosen: readonly number[]): boolean =>
    chosen.every((i, n) => n === 0 || apart(i, chosen[n - 1]));
  let best: number[] | null = null;
  for (let every = 1; every < count; every++) {
    const chosen = places.flatMap((_, i) => (i % every === 0 ? [i] : []));
    const whole = chosen[chosen.length - 1] === count - 1;
    // The last is always said; where it is none of the row, the one before it gives way.
    if (!whole) chosen.push(count - 1);
    if (!whole && chosen.length > 2 && !apart(count - 1, chosen[chosen.length - 2]))
      chosen.splice(chosen.length - 2, 1);
    if (!fits(chosen)) continue;
    best ??= chosen;
    // An even row is worth as many as half of its labels.
    if (whole && chosen.length >= best.length / 2) {
      best = chosen;
      break;
    }
    if (chosen.length < best.length / 2) break;
  }
  best ??= count === 0 ? [] : [0];
  return places.map((_, i) => best.includes(i));
}
