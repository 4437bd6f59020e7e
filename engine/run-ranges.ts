import {
  followsCycle,
  originOf,
  unmeasured,
  withOfferedQuantities,
  withQuantities,
} from '#core/fields/quantity-sources.ts';
import type { MeshField } from '#core/model/field.ts';
import { type Component, quantityKey, quantityStatistics } from '#core/model/quantity.ts';
import {
  fieldByKey,
  type MeasuredNumber,
  type MeasuredRange,
  type RunDescription,
  type RunPart,
} from '#core/model/run.ts';
import { type FieldStatistics, joinFieldStatistics, type Statistics } from '#core/model/statistics.ts';
import type { ArraySource } from './array-source.ts';
import { quantityValues, rangeOnMesh } from './quantity-values.ts';
import { meshKey } from './run-builder.ts';
import { readStoredMesh } from './stored-mesh.ts';

/**
 * What is asked of a run as a whole: the range of a quantity, its quantiles, a number at every step, or another run. The key is that
 * of the quantity, the sentence that asks for the number, or the name of the other run.
 */
export type RunQuestion =
  | { kind: 'range'; key: string }
  | { kind: 'shares'; key: string; component: Component }
  | { kind: 'number'; key: string }
  | { kind: 'run'; key: string };

export type RunAnswer = MeasuredRange | number[] | MeasuredNumber | OtherRun;

/** Another run, or why there is none. */
export type OtherRun = RunDescription | { trouble: string };

/** How far work is, 0..1. */
export type Progress = (done: number) => void;

/** A part at a step that has a quantity. */
interface WholePlace {
  step: number;
  /** Tells its values from others. */
  id: string;
  values(): Promise<MeshField>;
  range(): Promise<FieldStatistics>;
}

/** The values of a quantity on each part at each step, each computed once however many steps it serves. */
class WholeQuantity {
  private readonly run: RunDescription;
  private readonly known = new Map<string, FieldStatistics>();

  constructor(
    run: RunDescription,
    private readonly key: string,
    private readonly arrays: ArraySource,
  ) {
    this.run = withQuantities(withOfferedQuantities(run), [key]);
  }

  /** Every part at every step that has the quantity, with what tells its values from others. */
  *places(turn = 0): Generator<WholePlace> {
    const { run, key, arrays } = this;
    for (const step of run.steps.keys())
      for (const part of run.parts) {
        const shown = part.steps[step];
        const origin = shown && originOf({ field: key }, { run, part, step, turn });
        if (!shown || !origin) continue;
        const on = this.on(part, shown.mesh);
        yield {
          step,
          id: `${meshKey(part.meshes[shown.mesh])}/${origin.id}`,
          values: () => quantityValues(origin, on, arrays),
          range: () => rangeOnMesh(key, origin, on, arrays),
        };
      }
  }

  async statistics({ id, range }: WholePlace): Promise<FieldStatistics> {
    let found = this.known.get(id);
    if (!found) this.known.set(id, (found = await range()));
    return found;
  }

  private on(part: RunPart, mesh: number) {
    const { origin } = this.run;
    return { part: part.name, origin, mesh: () => readStoredMesh(part.meshes[mesh], this.arrays) };
  }
}

/**
 * The range of a quantity over a whole run, of each step and of all together: it depends on the run alone, never on
 * what was looked at.
 *
 * @param key of the quantity
 */
export async function measureRange(
  run: RunDescription,
  key: string,
  arrays: ArraySource,
  progress: Progress = () => undefined,
): Promise<MeasuredRange> {
  const whole = new WholeQuantity(run, key, arrays);
  const places = [...whole.places()];
  const ofStep = run.steps.map((): FieldStatistics[] => []);
  for (const [i, place] of places.entries()) {
    ofStep[place.step].push(await whole.statistics(place));
    progress((i + 1) / places.length);
  }
  const perStep = ofStep.map(joined);
  return { perStep, overall: joined(perStep.filter((s) => s !== null)) };
}

const joined = (list: FieldStatistics[]): FieldStatistics | null =>
  list.length > 0 ? list.reduce(joinFieldStatistics) : null;

/** Quantiles that are told: from the lowest value to the highest, a hundredth of all between each and the next. */
const SHARES = 101;
/** Bins of the histogram they are read from: an error of at most one bin. */
const BINS = 1 << 14;
/** How often in its cycle a swinging quantity is looked at for its quantiles. */
const CYCLE_SAMPLES = 8;

/**
 * Evenly spaced quantiles of a quantity over a whole run, from a histogram of `BINS` bins between its lowest and highest
 * value: each is off by at most the width of a bin. Values that are not numbers do not count.
 */
export async function measureShares(
  run: RunDescription,
  key: string,
  component: Component,
  arrays: ArraySource,
  progress: Progress = () => undefined,
): Promise<number[]> {
  const overall = await extremesOf(run, key, component, arrays, (p) => progress(p / 2));
  if (!overall || !(overall.max >= overall.min)) return [0, 1];
  const { min, max } = overall;
  if (min === max) return [min, max];
  const counts = new Float64Array(BINS);
  const scale = BINS / (max - min);
  const whole = new WholeQuantity(run, key, arrays);
  const turns = followsCycle(key) ? CYCLE_SAMPLES : 1;
  const places = Array.from({ length: turns }, (_, k) => [...whole.places((2 * Math.PI * k) / turns)]).flat();
  for (const [i, { values }] of places.entries()) {
    const { data, components } = await values();
    for (let at = 0; at < data.length; at += components) {
      const v = valueAt(data, at, components, component);
      if (!Number.isNaN(v)) counts[Math.min(BINS - 1, Math.max(0, Math.floor((v - min) * scale)))]++;
    }
    progress(0.5 + (i + 1) / places.length / 2);
  }
  return quantilesOf(counts, min, max);
}

/** The extremes of a quantity: as the import found them, or measured. */
async function extremesOf(
  run: RunDescription,
  key: string,
  component: Component,
  arrays: ArraySource,
  progress: Progress,
): Promise<Statistics | null> {
  const field = unmeasured([key], run).length === 0 ? fieldByKey(run, key) : null;
  const known = field && quantityStatistics(field, component, null);
  if (known) return known;
  const { overall } = await measureRange(run, key, arrays, progress);
  return overall && ofComponent(overall, component);
}

const ofComponent = (s: FieldStatistics, component: Component) =>
  component === 'magnitude' ? (s.magnitude ?? s.components[0]) : s.components[component];

function valueAt(data: ArrayLike<number>, at: number, components: number, component: Component): number {
  if (component !== 'magnitude') return data[at + component];
  let squares = 0;
  for (let k = 0; k < components; k++) squares += data[at + k] ** 2;
  return Math.sqrt(squares);
}

/** Where the running total of a histogram passes each share, straight within a bin. */
function quantilesOf(counts: Float64Array, min: number, max: number): number[] {
  const total = counts.reduce((a, b) => a + b, 0);
  const width = (max - min) / counts.length;
  const out = [min];
  let bin = 0;
  let below = 0;
  for (let i = 1; i < SHARES - 1; i++) {
    const wanted = (total * i) / (SHARES - 1);
    while (below + counts[bin] < wanted) below += counts[bin++];
    out.push(min + width * (bin + (wanted - below) / counts[bin]));
  }
  out.push(max);
  return out;
}

/**
 * The range of a quantity, or its quantiles.
 *
 * @throws Error for a number or a run, which others find
 */
export function answerRange(
  run: RunDescription,
  question: RunQuestion,
  arrays: ArraySource,
  progress?: Progress,
): Promise<RunAnswer> {
  if (question.kind === 'range') return measureRange(run, question.key, arrays, progress);
  if (question.kind === 'shares')
    return measureShares(run, question.key, question.component, arrays, progress);
  throw new Error(`"${question.key}" is not measured here.`);
}

/** Where a run keeps the answer to a question: in which of its lists, and under which name. */
function placeOf(question: RunQuestion): [list: 'measured' | 'shares' | 'numbers' | 'others', name: string] {
  if (question.kind === 'range') return ['measured', question.key];
  if (question.kind === 'number') return ['numbers', question.key];
  if (question.kind === 'run') return ['others', question.key];
  return ['shares', quantityKey(question.key, question.component)];
}

/** A run that keeps an answer. */
export function withAnswer(run: RunDescription, question: RunQuestion, answer: RunAnswer): RunDescription {
  const [list, name] = placeOf(question);
  return { ...run, [list]: { ...run[list], [name]: answer } };
}

/** What a run says to a question already, or null. */
export function knownAnswer(run: RunDescription, question: RunQuestion): RunAnswer | null {
  const [list, name] = placeOf(question);
  const answers: Record<string, RunAnswer> = run[list] ?? {};
  return Object.hasOwn(answers, name) ? answers[name] : null;
}

export const isQuantityOf = (run: RunDescription, key: string): boolean =>
  fieldByKey(withQuantities(withOfferedQuantities(run), [key]), key) !== null;
