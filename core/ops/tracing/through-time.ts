import { ALONG_LINE } from '../../fields/sources/along-line.ts';
import { phrasesOf, type Suffix } from '../../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../../model/bounded-number.ts';
import { LINE } from '../../model/cell-types.ts';
import { boundsDiagonal, boundsOf } from '../../model/mesh.ts';
import { type Component, quantityKey } from '../../model/quantity.ts';
import { copyOf } from '../../model/recipe.ts';
import { z } from '../../model/schema.ts';
import type { Vector } from '../../model/vectors.ts';
import type {
  OperationInput,
  OperationReport,
  OperationResult,
  OperationSetting,
  StepsThrough,
} from '../chain/operation.ts';
import { emptyResult } from '../chain/results.ts';
import { placedSeeds } from './place-seeds.ts';
import { besideSeeds, lackingSeeds, type SeedOptions, seedSchema, usualSeeds } from './seed-options.ts';
import type { LineEnd, TraceLimits } from './trace-line.ts';
import { usualVector } from './usual-vector.ts';

/** A quantity as it was met on the way. */
export interface MetOnTheWay {
  /** What the line is coloured by, told as it was at each step; settled when it runs. */
  shows: { field: string; component: Component } | null;
}

/** Options of lines that follow a flow from step to step. */
export interface ThroughTimeOptions extends SeedOptions, MetOnTheWay {
  field: string;
  component: 'magnitude';
  /** When they are let go; null for the first step. */
  start: number | null;
  /** Largest error of a step, as a part of the diagonal of the body. */
  tolerance: number;
}

export const USUAL_TOLERANCE = 1e-6;

export const metSchema = {
  shows: z
    .object({ field: z.string(), component: z.union([wholeNumber(), z.literal('magnitude')]) })
    .nullable()
    .default(null),
};

export const throughTimeSchema = {
  field: z.string(),
  component: z.literal('magnitude').default('magnitude'),
  ...seedSchema,
  start: boundedNumber().nullable().default(null),
  tolerance: boundedNumber().min(1e-12).max(0.1).default(USUAL_TOLERANCE),
  ...metSchema,
};

export const usualThroughTime = (setting: OperationSetting): ThroughTimeOptions => ({
  field: usualVector(setting)?.field ?? '',
  component: 'magnitude',
  ...usualSeeds(setting),
  start: null,
  tolerance: USUAL_TOLERANCE,
  shows: null,
});

/** The quantity on show is told on the way. */
export const settledMet = <O extends MetOnTheWay>(o: O, { preferred }: OperationSetting): O => ({
  ...o,
  shows: preferred && { field: preferred.field, component: preferred.component },
});

/** What is followed or known by, where it has a name, and what is told on the way. */
export const neededOnTheWay = ({ field, shows }: MetOnTheWay & { field: string }): { field: string }[] =>
  [...new Set([field, shows?.field ?? ''])].filter((f) => f !== '').map((f) => ({ field: f }));

/** Whether a run has steps one after the other in time to go through. */
const hasTimes = (setting: OperationSetting): boolean =>
  setting.dimension >= 2 &&
  usualVector(setting) !== null &&
  setting.times.some((t, i) => i > 0 && t > setting.times[i - 1]);

const timeUnitOf = (_: unknown, s: { timeUnit?: string | null }): string | null => s.timeUnit ?? null;

/** `, let go at 2 s`. */
export function startSuffix<O extends ThroughTimeOptions>(): Suffix<O> {
  const p = phrasesOf<ThroughTimeOptions>();
  const suffix: Suffix<ThroughTimeOptions> = {
    usual: { start: null },
    phrase: p.row(p.text('let go at '), p.number('start', timeUnitOf)),
  };
  return suffix as unknown as Suffix<O>;
}

/** A place on a line through time. */
export interface TimedPoint {
  place: readonly number[];
  /** Since it was let go. */
  time: number;
  length: number;
  value: number;
}

/** Lines of places as a mesh, with what is known of each place. They lead back to no step: what they met is told by them. */
export function timedLines(
  lines: readonly (readonly TimedPoint[])[],
  shows: MetOnTheWay['shows'],
  report: OperationReport,
): OperationResult {
  const drawn = lines.map((line, i) => ({ line, number: i + 1 })).filter(({ line }) => line.length > 1);
  const all = drawn.flatMap(({ line }) => line);
  const n = all.length;
  const segments = n - drawn.length;
  const connectivity = new Uint32Array(2 * segments);
  let at = 0;
  let first = 0;
  for (const { line } of drawn) {
    for (let i = 0; i + 1 < line.length; i++) {
      connectivity[at++] = first + i;
      connectivity[at++] = first + i + 1;
    }
    first += line.length;
  }
  const nothing = (count: number) => ({
    ...copyOf(new Uint32Array(0)),
    width: 0,
    starts: new Uint32Array(count + 1),
    weight: new Float32Array(0),
  });
  return {
    mesh: {
      points: Float32Array.from(all.flatMap(({ place }) => [...place])),
      types: new Uint8Array(segments).fill(LINE),
      offsets: Uint32Array.from({ length: segments + 1 }, (_, i) => 2 * i),
      connectivity,
    },
    recipe: { points: nothing(n), cells: nothing(segments) },
    made: {
      [ALONG_LINE.time]: Float32Array.from(all, (p) => p.time),
      [ALONG_LINE.length]: Float32Array.from(all, (p) => p.length),
      [ALONG_LINE.number]: Float32Array.from(drawn.flatMap(({ line, number }) => line.map(() => number))),
      ...(shows
        ? { [quantityKey(shows.field, shows.component)]: Float32Array.from(all, (p) => p.value) }
        : {}),
    },
    report,
  };
}

/** How many lines there are, and why they end. */
export const reportOfEnds = (
  count: number,
  seeds: number,
  ends: readonly (LineEnd | null)[],
): OperationReport => {
  const counted: Partial<Record<LineEnd, number>> = {};
  // What is carried on when the time on show is reached ends by that.
  for (const end of ends) counted[end ?? 'time'] = (counted[end ?? 'time'] ?? 0) + 1;
  return { lines: { count, seeds, ends: counted } };
};

/** What operations that go through time have in common. */
export const throughTimeOperation = {
  scope: 'layer',
  reads: 'all steps',
  gives: () => 1,
  fits: hasTimes,
  needs: neededOnTheWay,
  beside: besideSeeds,
  settle: settledMet,
  run: () => emptyResult({ lacking: 'steps to go through' }),
} as const;

/** Seeds, and from when to when with which limits things are carried from them; or what is lacking. */
export function begunThroughTime(
  input: OperationInput,
  o: ThroughTimeOptions,
  { times, shown }: StepsThrough,
): { seeds: Vector[]; start: number; now: number; limits: Omit<TraceLimits, 'time'> } | { lacking: string } {
  const lacking = lackingThroughTime(input, times);
  if (lacking) return { lacking };
  const seeds = placedSeeds(input, o);
  if (!seeds) return { lacking: lackingSeeds(o) };
  const diagonal = boundsDiagonal(boundsOf(input.mesh.points));
  const limits = { tolerance: o.tolerance * diagonal, length: Infinity, steps: 100_000 };
  return { seeds, start: o.start ?? times[0], now: times[shown], limits };
}

/** What is lacking to follow a flow through time; null for nothing. */
function lackingThroughTime(input: OperationInput, times: readonly number[]): string | null {
  if (times.length < 2) return 'second step to go to: there is one alone, whose streamlines can be shown';
  if (!times.some((t, i) => i > 0 && t > times[i - 1])) return 'steps in time: they are modes or load cases';
  if (input.dimension < 2) return 'cells to go through: they are points or lines';
  return null;
}
