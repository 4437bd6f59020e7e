import type { RunDescription, RunStep } from './run.ts';

/** Where a run is shown: at a step, or a share of the way on to the next one. */
export interface Moment {
  /** Index of the step. */
  step: number;
  /** From 0 to below 1. */
  onward: number;
}

/** The step of a moment as it is told: between two steps its time, or its number, is between theirs. */
export function stepOfMoment({ steps }: Pick<RunDescription, 'steps'>, { step, onward }: Moment): RunStep {
  const here = steps[Math.min(step, steps.length - 1)];
  const next = steps[step + 1];
  if (onward === 0 || !next) return here;
  const between = (a: number, b: number): number => a + onward * (b - a);
  return { ...here, time: between(here.time, next.time), number: between(here.number, next.number) };
}

/** A number that each step has, at a moment. */
export const atMoment = (values: readonly number[], { step, onward }: Moment): number =>
  onward === 0 || step + 1 >= values.length
    ? values[step]
    : values[step] + onward * (values[step + 1] - values[step]);

/** Numbers on their way from what they are to what they will be, each straight; `share` of the way is behind. */
export function mixedArrays(from: ArrayLike<number>, to: ArrayLike<number>, share: number): Float32Array {
  const out = new Float32Array(from.length);
  for (let i = 0; i < out.length; i++) out[i] = from[i] + share * (to[i] - from[i]);
  return out;
}
