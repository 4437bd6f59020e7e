import { sayNumber } from '../language/sentence.ts';
import { frequencyUnit } from '../model/along-steps.ts';
import type { RunStep, StepKind } from '../model/run.ts';
import type { Stamp } from '../scene/document.ts';
import { sayTime } from './time-text.ts';

type Shown = Pick<Stamp, 'style' | 'decimals' | 'unit'>;
type Step = Pick<RunStep, 'time' | 'kind' | 'number'>;

const hertz = (time: number, unit: string | null): string => `${sayNumber(time, 5)} ${frequencyUnit(unit)}`;

/**
 * A step as it is spoken of everywhere: a time, a load case, a mode with its frequency, a frequency or a frame.
 *
 * @param unit of time of the run
 * @param stamp how times are written
 */
export function sayStep({ time, kind, number }: Step, unit: string | null, stamp: Shown): string {
  switch (kind) {
    case 'load case':
      return `load case ${number}`;
    case 'mode':
      return `mode ${number}, ${hertz(time, unit)}`;
    case 'frequency':
      return hertz(time, unit);
    case 'frame':
      return `frame ${number}`;
    default:
      return sayTime(time, unit, stamp);
  }
}

/** What steps of a kind are called together. */
export const pluralKind: Record<StepKind, string> = {
  time: 'times',
  'load case': 'load cases',
  mode: 'modes',
  frequency: 'frequencies',
  frame: 'frames',
};

/** All steps of a run together: `60 steps, t = 0 to 120 s`, `1 load case, 8 modes, 102 to 8059 Hz`. */
export function saySteps(steps: readonly Step[], unit: string | null): string {
  if (steps.length === 0) return 'no steps';
  if (steps.every((s) => s.kind === 'time')) {
    if (steps.length === 1) return 'one step';
    const label = unit ? ` ${unit}` : '';
    return `${steps.length} steps, t = ${sayNumber(steps[0].time)} to ${sayNumber(steps[steps.length - 1].time)}${label}`;
  }
  const kinds = [...new Set(steps.map((s) => s.kind))];
  return kinds
    .map((kind) => {
      const own = steps.filter((s) => s.kind === kind);
      const counted = own.length === 1 ? `1 ${kind}` : `${own.length} ${pluralKind[kind]}`;
      if (kind !== 'mode' && kind !== 'frequency') return counted;
      const low = sayNumber(own[0].time, 5);
      return `${counted}, ${own.length > 1 ? `${low} to ` : ''}${hertz(own[own.length - 1].time, unit)}`;
    })
    .join(', ');
}
