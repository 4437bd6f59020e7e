import type { MeasuredRange, RunDescription } from '../model/run.ts';
import { meshMeasure } from './sources/mesh-measure.ts';
import { partSet } from './sources/part-set.ts';
import type { FieldNeed, FieldOrigin, PartAtStep, QuantitySource } from './sources/quantity-source.ts';
import { stored } from './sources/stored.ts';

/** Where quantities come from. A new kind is a file of its own and a line here. */
const sources: readonly QuantitySource[] = [stored, partSet, meshMeasure];

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

/** Whether the values on one mesh may differ from step to step. */
export const changesWithSteps = (key: string): boolean => named(key).source?.changes ?? false;

/** What a run lacks for a quantity, in words behind "the run has no"; null when it has it. */
export function lackingQuantity(key: string, run: RunDescription): string | null {
  const { source, prefix, name } = named(key);
  return source ? source.lacking(name, prefix, run) : `quantity "${key}"`;
}

/** Where the numbers of a quantity come from at a part; null when the part does not have it. */
export function originOf(need: FieldNeed, at: PartAtStep): FieldOrigin | null {
  const { source, name } = named(need.field);
  return source?.origin(need, name, at) ?? null;
}

/** Keys of quantities whose range is not stated by the files and was not computed yet. */
export function unmeasured(keys: readonly string[], run: RunDescription): string[] {
  const offered = new Set(sources.flatMap((s) => s.offers(run)).map((f) => f.key));
  return [...new Set(keys)].filter((key) => offered.has(key) && !Object.hasOwn(run.measured, key));
}

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
  const keys = new Set(run.fields.map((f) => f.key));
  const offered = sources.flatMap((s) => s.offers(run)).filter((f) => !keys.has(f.key));
  const whole = offered.length > 0 ? { ...run, fields: [...run.fields, ...offered] } : run;
  known.set(run, whole);
  known.set(whole, whole);
  return whole;
}
