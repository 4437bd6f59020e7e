import { format } from 'd3-format';
import { scaleLinear } from 'd3-scale';
import type { Levels } from '../model/levels.ts';

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

/** About so many levels within a range, evenly spaced at round numbers. */
export function roundLevels(low: number, high: number, about: number): Levels {
  const within = scaleLinear()
    .domain([low, high])
    .ticks(about)
    .filter((v) => v > low && v < high);
  if (within.length === 0) return { kind: 'count', count: 1, low, high };
  return { kind: 'count', count: within.length, low: within[0], high: within[within.length - 1] };
}

const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹';

/** Numbers as texts that stand alone, with the digits needed to tell them apart. */
export function numberTexts(numbers: number[]): string[] {
  const { texts, power } = tickTexts(numbers);
  if (power === 0) return texts;
  const raised = [...String(power)].map((c) => (c === '-' ? '⁻' : RAISED[Number(c)])).join('');
  return texts.map((t) => (Number(t) === 0 ? t : `${t}·10${raised}`));
}

/**
 * Which of some labels along a line have room: the first and the last, and of the others each that does not touch one
 * that is said already.
 *
 * @param places middles of the labels, in order
 * @param lengths of the labels along the line
 */
export function labelsWithRoom(places: readonly number[], lengths: readonly number[]): boolean[] {
  const last = places.length - 1;
  const order = [...new Set([0, last, ...places.keys()])].filter((i) => i >= 0);
  const said: number[] = [];
  for (const i of order)
    if (said.every((j) => Math.abs(places[i] - places[j]) >= (lengths[i] + lengths[j]) / 2)) said.push(i);
  return places.map((_, i) => said.includes(i));
}
