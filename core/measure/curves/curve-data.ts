import { csvCell } from '../../model/csv-text.ts';
import { nameWithUnit } from '../../model/quantity.ts';
import type { Sheet } from './sheet.ts';

/** What numbers are called and measured in. */
export interface AxisName {
  name: string;
  unit: string | null;
}

/** A curve: so many places along something, a number at each; not a number where there is none. */
export interface CurveData {
  along: AxisName;
  up: AxisName;
  x: Float64Array;
  y: Float64Array;
  /** Whether it runs over the steps of the run, so that it is somewhere at the step on show. */
  overSteps: boolean;
  /** Drawn as dots, for places that follow on nothing. */
  scattered?: boolean;
  /** Drawn as bars, each from one place to the next. */
  bars?: boolean;
  /** What was found about it, such as the slope of a fit. */
  notes?: readonly string[];
  /** Of a picture over the steps, which `up` then runs along curves: its numbers. */
  sheet?: Sheet;
}

/** A curve in the order of its places; those without a place are left out. */
export function curveFrom(
  along: AxisName,
  up: AxisName,
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  overSteps: boolean,
): CurveData {
  const order = Array.from(x, (_, i) => i)
    .filter((i) => Number.isFinite(x[i]))
    .sort((a, b) => x[a] - x[b]);
  return {
    along,
    up,
    x: Float64Array.from(order, (i) => x[i]),
    y: Float64Array.from(order, (i) => y[i]),
    overSteps,
  };
}

/** Two neighbours among rising places around another, and how much of the way lies behind it; null beyond the ends. */
export function neighbours(
  x: ArrayLike<number>,
  place: number,
): { low: number; high: number; share: number } | null {
  let [low, high] = [0, x.length - 1];
  if (high < 0 || !(place >= x[0] && place <= x[high])) return null;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (x[middle] <= place) low = middle;
    else high = middle;
  }
  const gap = x[high] - x[low];
  return { low, high, share: gap > 0 ? (place - x[low]) / gap : 0 };
}

/** A share of the way from one number to the next; at its beginning the next one may be missing. */
export const onTheWay = (from: number, to: number, share: number): number =>
  share === 0 ? from : share === 1 ? to : from + share * (to - from);

/** Where it is at a place between its own; not a number beyond its ends. */
export function curveAt({ x, y }: Pick<CurveData, 'x' | 'y'>, place: number): number {
  const found = neighbours(x, place);
  return found ? onTheWay(y[found.low], y[found.high], found.share) : Number.NaN;
}

/** A curve as a table, with the names and units at its head; numbers in full. */
export function curvesCsv(curves: readonly { name: string; data: CurveData }[]): string {
  const head = (axis: AxisName): string => csvCell(nameWithUnit(axis));
  const same = (a: CurveData, b: CurveData): boolean =>
    a.x.length === b.x.length && a.x.every((v, i) => v === b.x[i]);
  // Curves along the same places share a column of them.
  const groups: (typeof curves)[number][][] = [];
  for (const one of curves.filter(({ data }) => !data.sheet)) {
    const group = groups.find(([first]) => same(first.data, one.data));
    if (group) group.push(one);
    else groups.push([one]);
  }
  const columns = [
    ...groups.flatMap((group) => [
      { head: head(group[0].data.along), values: group[0].data.x },
      ...group.map(({ name, data }) => ({ head: head({ name, unit: data.up.unit }), values: data.y })),
    ]),
    ...curves.flatMap(({ name, data: { along, up, x, sheet } }) => {
      if (!sheet) return [];
      const { of, places, values } = sheet;
      const when = (at: number): string =>
        `${name} at ${along.name} ${[at, along.unit ?? ''].join(' ').trim()}`;
      return [
        { head: head(up), values: places },
        ...Array.from(x, (at, step) => ({
          head: head({ name: when(at), unit: of.unit }),
          values: values.subarray(step * places.length, (step + 1) * places.length),
        })),
      ];
    }),
  ];
  const rows = Math.max(0, ...columns.map((c) => c.values.length));
  const cell = (value: number | undefined): string =>
    value === undefined || Number.isNaN(value) ? '' : String(value);
  return `${[
    columns.map((c) => c.head).join(','),
    ...Array.from({ length: rows }, (_, i) => columns.map((c) => cell(c.values[i])).join(',')),
  ].join('\n')}\n`;
}
