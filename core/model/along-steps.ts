import type { RunStep } from './run.ts';

/** Hertz is what frequencies are written in unless the run says otherwise. Common practice, no source. */
export const frequencyUnit = (unit: string | null): string =>
  unit !== null && /hz|rad/i.test(unit) ? unit : 'Hz';

/** What a curve over steps is drawn along, one number a step. */
export interface AlongSteps {
  name: string;
  unit: string | null;
  values: number[];
}

/** Times, frequencies, or the numbers of frames and load cases; the places of steps of several kinds. */
export function alongSteps(
  steps: readonly Pick<RunStep, 'time' | 'kind' | 'number'>[],
  unit: string | null,
): AlongSteps {
  const kinds = new Set(steps.map((s) => s.kind));
  const only = kinds.size === 1 ? steps[0].kind : null;
  switch (only) {
    case 'time':
      return { name: 'time', unit, values: steps.map((s) => s.time) };
    case 'mode':
    case 'frequency':
      return { name: 'frequency', unit: frequencyUnit(unit), values: steps.map((s) => s.time) };
    case 'frame':
    case 'load case':
      return { name: only, unit: null, values: steps.map((s) => s.number) };
    default:
      return { name: 'step', unit: null, values: steps.map((_, i) => i + 1) };
  }
}

/** The index of the place that is nearest to one; the first of those that are as near. */
export const nearestPlace = (places: readonly number[], to: number): number =>
  places.reduce((best, v, i) => (Math.abs(v - to) < Math.abs(places[best] - to) ? i : best), 0);
