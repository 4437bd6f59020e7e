import { type AxisName, type CurveData, curveAt, curveFrom, neighbours, onTheWay } from './curve-data.ts';

/** More places than this are told apart by nobody in a picture. */
const MOST = 1024;

/** A curve at every step, put beside each other: a number at each place of it, at each step. */
export interface Sheet {
  /** What its numbers are called and measured in. */
  of: AxisName;
  /** Along the curves, rising. */
  places: Float64Array;
  /** The numbers of the first step, then those of the next one; not a number where there is none. */
  values: Float64Array;
}

/** A curve that is a picture over the steps: along them at `x`, up along the curves that were put together. */
export type SheetData = CurveData & { sheet: Sheet };

export const isSheet = (curve: CurveData): curve is SheetData => curve.sheet !== undefined;

/**
 * Curves of the same quantity, one a step, put together. Where their places differ they are met straight between their own.
 *
 * @param curves null for a step without one
 * @param along what the steps lie along
 * @param x where each of them is
 * @throws Error in words where there is nothing to put together
 */
export function sheetOf(
  curves: readonly (CurveData | null)[],
  along: AxisName,
  x: ArrayLike<number>,
): SheetData {
  const steps = Array.from(x, (_, i) => i)
    .filter((i) => Number.isFinite(x[i]))
    .sort((a, b) => x[a] - x[b]);
  const sorted = steps.map(
    (i) => curves[i] && curveFrom(curves[i].along, curves[i].up, curves[i].x, curves[i].y, false),
  );
  const known = sorted.filter((c) => c !== null);
  const [first] = known;
  if (!first) throw new Error('There is no step with a curve.');
  if (known.some((c) => c.x.length < 2)) throw new Error('A picture over the steps needs curves, not dots.');
  const places = placesOf(known.map((c) => c.x));
  const values = new Float64Array(sorted.length * places.length).fill(Number.NaN);
  for (const [step, own] of sorted.entries()) {
    if (!own) continue;
    const same = own.x.length === places.length && own.x.every((v, i) => v === places[i]);
    for (let i = 0; i < places.length; i++)
      values[step * places.length + i] = same ? own.y[i] : curveAt(own, places[i]);
  }
  return {
    along,
    up: first.along,
    x: Float64Array.from(steps, (i) => x[i]),
    y: new Float64Array(steps.length).fill(Number.NaN),
    overSteps: true,
    sheet: { of: first.up, places, values },
  };
}

/** Those that all have, or evenly spaced ones as fine as the finest. */
function placesOf(all: readonly Float64Array[]): Float64Array {
  const [first] = all;
  const rising = first.every((v, i) => i === 0 || v > first[i - 1]);
  if (
    rising &&
    first.length <= MOST &&
    all.every((x) => x.length === first.length && x.every((v, i) => v === first[i]))
  )
    return first;
  const low = Math.min(...all.map((x) => x[0]));
  const high = Math.max(...all.map((x) => x[x.length - 1]));
  const count = Math.min(MOST, Math.max(...all.map((x) => x.length)));
  return Float64Array.from({ length: count }, (_, i) => low + ((high - low) * i) / (count - 1));
}

const ranges = new WeakMap<Sheet, [number, number] | null>();

/** Lowest and highest number of it, looked for once; null where there is none. */
export function rangeOfSheet(sheet: Sheet): [number, number] | null {
  let known = ranges.get(sheet);
  if (known === undefined) ranges.set(sheet, (known = rangeOf(sheet)));
  return known;
}

function rangeOf({ values }: Sheet): [number, number] | null {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const v of values) {
    if (!Number.isFinite(v)) continue;
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  return low <= high ? [low, high] : null;
}

/** Straight between steps and places; not a number beyond its ends, or next to a step without a number. */
export function sheetAt({ x, sheet: { places, values } }: SheetData, at: number, place: number): number {
  const steps = neighbours(x, at);
  const own = neighbours(places, place);
  if (!steps || !own) return Number.NaN;
  const row = (step: number): number => {
    const from = step * places.length;
    return onTheWay(values[from + own.low], values[from + own.high], own.share);
  };
  return onTheWay(row(steps.low), row(steps.high), steps.share);
}
