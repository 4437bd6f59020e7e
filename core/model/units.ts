import { byName } from './by-name.ts';

/**
 * Units that can be typed in place of a run's own: factor to the first of their row, which is the coherent SI unit,
 * and what is added before. Exact by definition (BIPM SI Brochure, 9th edition; inch and foot: international yard
 * agreement of 1959); from memory.
 */
const tables: Record<string, [factor: number, shift?: number]>[] = [
  {
    m: [1],
    mm: [1e-3],
    cm: [1e-2],
    km: [1e3],
    µm: [1e-6],
    um: [1e-6],
    nm: [1e-9],
    in: [0.0254],
    ft: [0.3048],
  },
  { K: [1], '°C': [1, 273.15], C: [1, 273.15], degC: [1, 273.15], '°F': [5 / 9, 459.67] },
  {
    Pa: [1],
    hPa: [100],
    kPa: [1e3],
    MPa: [1e6],
    GPa: [1e9],
    bar: [1e5],
    mbar: [100],
    'N/mm²': [1e6],
    'N/mm^2': [1e6],
  },
  { 'm/s': [1], 'mm/s': [1e-3], 'cm/s': [1e-2], 'km/h': [1 / 3.6] },
  { s: [1], ms: [1e-3], µs: [1e-6], min: [60], h: [3600] },
  { kg: [1], g: [1e-3], t: [1e3] },
  { N: [1], kN: [1e3], mN: [1e-3] },
  { W: [1], kW: [1e3], mW: [1e-3], MW: [1e6] },
  { '°': [1], deg: [1], degrees: [1], rad: [180 / Math.PI] },
  { '%': [1] },
];
const rows = tables.map(byName);

/** Whether a word is a unit that is known here. */
export const isUnit = (unit: string): boolean => rows.some((r) => unit in r);

/** A number in one unit said in another; null when the two do not measure the same. */
export function convertUnit(value: number, from: string, to: string): number | null {
  if (from === to) return value;
  const row = rows.find((r) => from in r && to in r);
  if (!row) return null;
  const [f, a = 0] = row[from];
  const [g, b = 0] = row[to];
  // Rounded to what double precision holds: 40 cm is 0.4 m, not 0.4000000000000001 m.
  return Number((((value + a) * f) / g - b).toPrecision(14));
}

/** The units that measure the same as one, for completion. */
export const unitsLike = (unit: string): string[] =>
  Object.keys(rows.find((r) => unit in r) ?? { [unit]: 1 });

/** Seconds in the units of time a stamp can be shown in. */
export const secondsIn = byName({ ns: 1e-9, µs: 1e-6, ms: 1e-3, s: 1, min: 60, h: 3600 });
