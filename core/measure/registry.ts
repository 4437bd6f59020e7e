import { angleBetween, distanceBetween } from './between.ts';
import { count, sum } from './count.ts';
import { extreme } from './extreme.ts';
import { flowThrough } from './flow-through.ts';
import { force } from './force.ts';
import { histogram } from './histogram.ts';
import { average, integral } from './integral.ts';
import { centreOfMass, inertia } from './mass.ts';
import type { Measure } from './measure.ts';
import { profile } from './profile.ts';
import { scatter } from './scatter.ts';
import { size } from './size.ts';
import { deviation, percentile } from './spread.ts';
import { valueAt } from './value-at.ts';

// biome-ignore lint/suspicious/noExplicitAny: options and parts are those of the measure they belong to
export type AnyMeasure = Measure<any, any>;

/** Every number that can be asked for. A new one is a file beside this and a line here. */
export const measures: readonly AnyMeasure[] = [
  size,
  integral,
  average,
  deviation,
  percentile,
  extreme,
  sum,
  count,
  valueAt,
  flowThrough,
  force,
  centreOfMass,
  distanceBetween,
  angleBetween,
  inertia,
  profile,
  histogram,
  scatter,
];

/** @throws Error when something names a measure this version does not have */
export function measureById(id: string): AnyMeasure {
  const found = measures.find((m) => m.id === id);
  if (!found) throw new Error(`There is no measure "${id}" in this version.`);
  return found;
}
