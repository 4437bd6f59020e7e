import type { MeshField } from '../../model/field.ts';
import { nameWithoutUnit } from '../../model/quantity.ts';
import type { RunDescription, RunField, StepKind } from '../../model/run.ts';
import { isVector } from '../../model/statistics.ts';
import { unitProduct } from '../../model/unit-products.ts';
import {
  type Folding,
  madeField,
  type PartAtStep,
  type QuantityFinder,
  type QuantitySource,
} from './quantity-source.ts';

/** One kind of quantity over the steps: which of them it looks at, and how they come to one. */
interface OverSteps {
  /** @param over what the steps are, such as `load cases`; null for times */
  name(of: string, over: string | null): string;
  /** Whether it means something for steps that are no times, which then count alike. */
  anySteps?: boolean;
  /** Which steps it looks at, of so many, at one of them. */
  steps(now: number, count: number): number[];
  /** Whether it differs from step to step even where it looks at the same ones. */
  ofNow?: boolean;
  /** Of vectors it takes the length. */
  length?: boolean;
  unit?(of: string | null, time: string | null): string | null;
  /**
   * @param times of the steps that are looked at
   * @param now time of the step on show
   */
  fold(
    times: readonly number[],
    now: number,
  ): { start: number; add(sum: number, value: number, i: number): number; end(sum: number): number };
}

const all = (_: number, count: number): number[] => Array.from({ length: count }, (__, i) => i);
const upToNow = (now: number): number[] => Array.from({ length: now + 1 }, (_, i) => i);

/**
 * How much each step counts in a mean over time: half of the way to its neighbours on both sides, as the trapezoidal rule has
 * it. Steps without a time between them count alike.
 */
export function weightsOverTime(times: readonly number[]): number[] {
  const n = times.length;
  const span = times[n - 1] - times[0];
  if (!(span > 0)) return times.map(() => 1 / n);
  return times.map((_, i) => (times[Math.min(n - 1, i + 1)] - times[Math.max(0, i - 1)]) / (2 * span));
}

/**
 * Weights of the slope at a time of the parabola through three steps, or of the line through two (Fornberg: Generation of
 * finite difference formulas on arbitrarily spaced grids, Math. Comp. 51 (1988); from memory).
 */
export function slopeWeights(times: readonly number[], at: number): number[] {
  if (times.length === 2) return [-1, 1].map((sign) => sign / (times[1] - times[0]));
  return times.map((t, i) => {
    const others = times.filter((_, k) => k !== i);
    return (2 * at - others[0] - others[1]) / ((t - others[0]) * (t - others[1]));
  });
}

const meanOf: OverSteps['fold'] = (times) => {
  const weights = weightsOverTime(times);
  return { start: 0, add: (sum, value, i) => sum + weights[i] * value, end: (sum) => sum };
};

const extremeOf =
  (pick: (a: number, b: number) => number): OverSteps['fold'] =>
  () => ({
    start: Number.NaN,
    add: (best, value) => (Number.isNaN(best) ? value : Number.isNaN(value) ? best : pick(best, value)),
    end: (best) => best,
  });

const kinds: Record<string, OverSteps> = {
  'time-mean': {
    name: (of, over) => (over ? `mean over ${over} of ${of}` : `time mean of ${of}`),
    anySteps: true,
    steps: all,
    fold: meanOf,
  },
  'time-maximum': {
    name: (of, over) => (over ? `maximum over ${over} of ${of}` : `time maximum of ${of}`),
    anySteps: true,
    steps: all,
    length: true,
    fold: extremeOf(Math.max),
  },
  'time-minimum': {
    name: (of, over) => (over ? `minimum over ${over} of ${of}` : `time minimum of ${of}`),
    anySteps: true,
    steps: all,
    length: true,
    fold: extremeOf(Math.min),
  },
  'time-rms': {
    name: (of, over) => (over ? `rms over ${over} of ${of}` : `time rms of ${of}`),
    anySteps: true,
    steps: all,
    length: true,
    fold(times) {
      const weights = weightsOverTime(times);
      return { start: 0, add: (sum, value, i) => sum + weights[i] * value * value, end: Math.sqrt };
    },
  },
  'step-sum': {
    name: (of, over) => `sum over ${over ?? 'the steps'} of ${of}`,
    anySteps: true,
    steps: all,
    fold: () => ({ start: 0, add: (sum, value) => sum + value, end: (sum) => sum }),
  },
  'running-mean': { name: (of) => `running mean of ${of}`, steps: upToNow, fold: meanOf },
  'time-rate': {
    name: (of) => `time rate of ${of}`,
    steps(now, count) {
      const first = Math.min(Math.max(now - 1, 0), Math.max(0, count - 3));
      return Array.from({ length: Math.min(3, count) }, (_, i) => first + i);
    },
    ofNow: true,
    unit: (of, time) => unitProduct([of, 1], [time, -1]),
    fold(times, now) {
      const weights = slopeWeights(times, now);
      return { start: 0, add: (sum, value, i) => sum + weights[i] * value, end: (sum) => sum };
    },
  },
};

/** How many fields are offered with all of this: with more the list would be of nothing else. */
const OFFERED_FIELDS = 4;

const overTime = (run: RunDescription): boolean =>
  run.steps.length > 1 && run.steps.every((s) => s.kind === 'time');

const MANY: Record<StepKind, string> = {
  time: 'the steps',
  'load case': 'load cases',
  mode: 'modes',
  frequency: 'frequencies',
  frame: 'frames',
};

/** What the steps are that are no times; null for times. */
const overWhat = ({ steps }: RunDescription): string | null => {
  const [first] = steps;
  return first.kind === 'time' ? null : MANY[first.kind];
};

const fits = ({ anySteps }: OverSteps, run: RunDescription): boolean =>
  overTime(run) ||
  (anySteps === true && run.steps.length > 1 && run.steps.every((s) => s.kind === run.steps[0].kind));

function fieldOf(run: RunDescription, prefix: string, inner: RunField | null): RunField | null {
  const kind = kinds[prefix];
  if (!inner || !fits(kind, run)) return null;
  const one = kind.length && isVector(inner.components);
  return madeField(run, {
    key: `${prefix}:${inner.key}`,
    name: kind.name(nameWithoutUnit(inner.name), overWhat(run)),
    location: inner.location,
    components: one ? 1 : inner.components,
    unit: kind.unit ? kind.unit(inner.unit, run.timeUnit) : inner.unit,
  });
}

/** What a quantity is at the steps that are looked at, of those at which the part is there. */
function stepsOf(
  name: string,
  prefix: string,
  step: number | null | undefined,
  at: PartAtStep,
  find: QuantityFinder,
) {
  const { part, run } = at;
  const now = step ?? at.step;
  const there = [...run.steps.keys()].filter((i) => part.steps[i]);
  const place = there.indexOf(now);
  if (place < 0) return null;
  const looked = kinds[prefix].steps(place, there.length).map((i) => there[i]);
  const of = looked.map((i) => find.origin({ field: name, step: i }, at));
  if (of.some((o) => o === null)) return null;
  return {
    of: of as NonNullable<(typeof of)[number]>[],
    // What is no time counts alike, however far its numbers are apart.
    options: {
      prefix,
      times: looked.map((i) => (overTime(run) ? run.steps[i].time : 0)),
      now: run.steps[now].time,
    },
  };
}

/** A short name for many: two different lists have the same one as good as never. */
function digest(text: string): string {
  let [a, b] = [0xdeadbeef, 0x41c6ce57];
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    a = Math.imul(a ^ code, 2654435761);
    b = Math.imul(b ^ code, 1597334677);
  }
  return `${(a >>> 0).toString(36)}${(b >>> 0).toString(36)}${text.length.toString(36)}`;
}

/**
 * Quantities over the steps of a run, on a mesh that stays: mean, highest, lowest and root mean square over time, the sum, the
 * mean so far, and how fast it changes. Steps are taken one by one, never all at once.
 */
export const overSteps: QuantitySource = {
  id: 'over steps',
  prefixes: Object.keys(kinds),
  usual: false,
  changes: true,
  needsMesh: false,
  // Shapes of modes have no size of their own, and frames seldom one mesh.
  offers: (run) =>
    (['mode', 'frame'].includes(run.steps[0]?.kind) ? [] : run.fields)
      .filter((f) => f.role !== 'other' && !f.pair && /^(?:point|cell):/.test(f.key))
      .slice(0, OFFERED_FIELDS)
      .flatMap((f) => Object.keys(kinds).flatMap((prefix) => fieldOf(run, prefix, f) ?? [])),
  field: (name, prefix, run, find) => fieldOf(run, prefix, find.field(name, run)),
  lacking(name, prefix, run, find) {
    const lacking = find.lacking(name, run);
    if (lacking) return lacking;
    const kind = kinds[prefix];
    if (fits(kind, run)) return null;
    const steps = kind.anySteps ? 'more than one step of a kind' : 'steps in time';
    return `${kind.name('it', null)}: it has no ${steps}`;
  },
  origin({ step }, name, prefix, at, find) {
    const found = stepsOf(name, prefix, step, at, find);
    if (!found) return null;
    const [first] = found.of;
    const one = kinds[prefix].length && isVector(first.components);
    return {
      source: 'over steps',
      id: `${prefix}${kinds[prefix].ofNow ? ` at ${found.options.now}` : ''} ${digest(found.of.map((o) => o.id).join())}`,
      location: first.location,
      components: one ? 1 : first.components,
      axial: first.axial && !one,
      arrays: [],
      of: found.of,
      options: found.options,
    };
  },
  folding({ options, components }): Folding {
    const { prefix, times, now } = options as { prefix: string; times: number[]; now: number };
    const { start, add, end } = kinds[prefix].fold(times, now);
    let sums: Float64Array | null = null;
    return {
      add({ data, components: own }: MeshField, step: number) {
        const n = (data.length / own) * components;
        sums ??= new Float64Array(n).fill(start);
        if (own === components) for (let i = 0; i < n; i++) sums[i] = add(sums[i], data[i], step);
        else
          for (let i = 0; i < n; i++) {
            let squares = 0;
            for (let k = 0; k < own; k++) squares += data[own * i + k] ** 2;
            sums[i] = add(sums[i], Math.sqrt(squares), step);
          }
      },
      end: () => Float32Array.from(sums ?? [], end),
    };
  },
  compute(origin, { of }) {
    const folding = this.folding!(origin);
    for (const [i, field] of of.entries()) folding.add(field, i);
    return folding.end();
  },
};
