import type { MeasuredRange, RunDescription, RunField } from '../model/run.ts';
import { type FieldStatistics, fieldStatistics } from '../model/statistics.ts';
import { alongLine } from './sources/along-line.ts';
import { atStep } from './sources/at-step.ts';
import { betweenSteps, originBetween, sameCells } from './sources/between-steps.ts';
import { complexPart } from './sources/complex-part.ts';
import { distance } from './sources/distance.ts';
import { formula } from './sources/formula.ts';
import { inRun } from './sources/in-run.ts';
import { landed } from './sources/landed.ts';
import { meshMeasure } from './sources/mesh-measure.ts';
import { operator } from './sources/operator.ts';
import { outwardNormal } from './sources/outward-normal.ts';
import { overSteps } from './sources/over-steps.ts';
import { partNumber } from './sources/part-number.ts';
import { partSet } from './sources/part-set.ts';
import { principalDirection } from './sources/principal-direction.ts';
import type {
  FieldNeed,
  FieldOrigin,
  Folding,
  PartAtStep,
  QuantityFinder,
  QuantitySource,
  SourceInput,
} from './sources/quantity-source.ts';
import { smoothed } from './sources/smoothed.ts';
import { stored } from './sources/stored.ts';
import { stressMeasure } from './sources/stress-measure.ts';

/** Where quantities come from. A new kind is a file of its own and a line here. */
const sources: readonly QuantitySource[] = [
  stored,
  partSet,
  partNumber,
  meshMeasure,
  complexPart,
  operator,
  stressMeasure,
  principalDirection,
  overSteps,
  atStep,
  betweenSteps,
  smoothed,
  outwardNormal,
  distance,
  inRun,
  alongLine,
  landed,
  formula,
];

interface Named {
  source: QuantitySource | null;
  prefix: string;
  name: string;
}

/** The one place where the keys of quantities are read. */
function named(key: string): Named {
  const colon = key.indexOf(':');
  const prefix = key.slice(0, Math.max(0, colon));
  return {
    source: sources.find((s) => s.prefixes.includes(prefix)) ?? null,
    prefix,
    name: key.slice(colon + 1),
  };
}

/** A quantity by its own name, without where it comes from. */
export const ownName = (key: string): string => named(key).name;

/** Whether a quantity may be shown to somebody who did not ask for it. */
export const isUsual = (key: string): boolean => named(key).source?.usual ?? false;

/** Whether operations make it together with their shapes, so that no part has it. */
export const comesWithShapes = (key: string): boolean => named(key).source?.comesWithShapes ?? false;

/** Whether the values on one mesh may differ from step to step. */
export const changesWithSteps = (key: string): boolean => named(key).source?.changes ?? false;

/** Whether a quantity changes with the place in the cycle that a scene is shown at. */
export function followsCycle(key: string): boolean {
  const { source, prefix, name } = named(key);
  return source?.followsCycle?.(name, prefix) ?? false;
}

/** What a run lacks for a quantity, in words behind "the run has no"; null when it has it. */
export function lackingQuantity(key: string, run: RunDescription): string | null {
  const { source, prefix, name } = named(key);
  return source ? source.lacking(name, prefix, run, finder) : `quantity "${key}"`;
}

/** What is wrong with a quantity, in a sentence; null when the run has it, or will once it has asked for what it needs. */
export function troubleOfQuantity(key: string, run: RunDescription): string | null {
  const { source, prefix, name } = named(key);
  const own = source?.trouble?.(name, prefix, run, finder);
  if (own) return own;
  const lacking = lackingQuantity(key, run);
  return lacking === null ? null : `The run has no ${lacking}.`;
}

/** A quantity by its key, whether files state it, it is offered, or it can be made; null when the run lacks it. */
export function quantityField(key: string, run: RunDescription): RunField | null {
  const { source, prefix, name } = named(key);
  return source?.field(name, prefix, run, finder) ?? null;
}

/** Where the numbers of a quantity come from at a part; null when the part does not have it. */
export function originOf(need: FieldNeed, at: PartAtStep): FieldOrigin | null {
  const { source, prefix, name } = named(need.field);
  if (!source) return null;
  const { onward = 0, part, step } = at;
  if (onward === 0 || !source.betweenSteps || need.step != null)
    return source.origin(need, name, prefix, at, finder);
  const here = source.origin(need, name, prefix, { ...at, onward: 0 }, finder);
  if (!here || !sameCells(part, step)) return here;
  const next = source.origin(need, name, prefix, { ...at, step: step + 1, onward: 0 }, finder);
  const alike = next && next.location === here.location && next.components === here.components;
  return !alike || next.id === here.id ? here : originBetween(here, next, onward);
}

/** Why a part does not have a quantity at a step, in a sentence; null when it has it, and where nothing is known of that. */
export function absentQuantity(need: FieldNeed, at: PartAtStep): string | null {
  const { source, prefix, name } = named(need.field);
  return source?.absent?.(need, name, prefix, at, finder) ?? null;
}

/** What sources that are made from others find these with. */
const finder: QuantityFinder = {
  field: quantityField,
  origin: originOf,
  lacking: lackingQuantity,
  absent: absentQuantity,
  comesWithShapes,
};

const sourceOf = ({ source: id }: FieldOrigin): QuantitySource => {
  const found = sources.find((s) => s.id === id);
  if (!found) throw new Error(`There is no source "${id}" of quantities in this version.`);
  return found;
};

/** Whether the mesh must be there to compute a quantity, for itself or for one it is made from. */
export const needsMesh = (origin: FieldOrigin): boolean =>
  sourceOf(origin).needsMesh || origin.of.some(needsMesh);

/** The numbers of a quantity, from the arrays and quantities it is made from. */
export const computeQuantity = (origin: FieldOrigin, input: SourceInput): ArrayLike<number> =>
  sourceOf(origin).compute(origin, input);

/** What takes the quantities it is made from one by one; null for those that take them all at once. */
export const foldingOf = (origin: FieldOrigin): Folding | null => sourceOf(origin).folding?.(origin) ?? null;

/** The range of a quantity on one mesh: over the whole cycle where it follows that. */
export function quantityRange(key: string, origin: FieldOrigin, input: SourceInput): FieldStatistics {
  const whole = followsCycle(key) ? sourceOf(origin).overTheCycle : undefined;
  return whole?.(origin, input) ?? fieldStatistics(computeQuantity(origin, input), origin.components);
}

/** Keys of quantities whose range is not stated by the files and was not computed yet. */
export const unmeasured = (keys: readonly string[], run: RunDescription): string[] =>
  [...new Set(keys)].filter((key) => {
    const { source } = named(key);
    if (!source || source === stored || source.comesWithShapes) return false;
    if (Object.hasOwn(run.measured, key)) return false;
    return quantityField(key, run) !== null;
  });

/** A run with a range that was computed. */
export function withRange(run: RunDescription, key: string, range: MeasuredRange): RunDescription {
  const { perStep, overall } = range;
  return {
    ...run,
    measured: { ...run.measured, [key]: range },
    fields: run.fields.map((f) => (f.key === key ? { ...f, perStep, overall: overall ?? f.overall } : f)),
  };
}

const known = new WeakMap<RunDescription, RunDescription>();

/** A run together with the quantities it has without a file saying so. */
export function withOfferedQuantities(run: RunDescription): RunDescription {
  const found = known.get(run);
  if (found) return found;
  const whole = withFields(
    run,
    sources.flatMap((s) => s.offers(run)),
  );
  known.set(run, whole);
  known.set(whole, whole);
  return whole;
}

/** A run together with quantities that are asked for by their keys, as far as it can have them. */
export const withQuantities = (run: RunDescription, keys: readonly string[]): RunDescription =>
  withFields(
    run,
    [...new Set(keys)].flatMap((key) => quantityField(key, run) ?? []),
  );

function withFields(run: RunDescription, more: RunField[]): RunDescription {
  const keys = new Set(run.fields.map((f) => f.key));
  const fresh = more.filter((f) => !keys.has(f.key));
  return fresh.length > 0 ? { ...run, fields: [...run.fields, ...fresh] } : run;
}
