import { create, type MathJsInstance, unitDependencies } from 'mathjs';
import { byName } from './by-name.ts';
import { unitProduct } from './unit-products.ts';

/**
 * Units that can be typed in place of a run's own and that are offered for numbers on show, those of a row for each
 * other. What they measure and by what factor comes from mathjs; rows only say what is offered, in which order.
 */
const rows: readonly (readonly string[])[] = [
  ['m', 'mm', 'cm', 'km', 'µm', 'um', 'nm', 'in', 'ft'],
  ['K', '°C', '°F', 'C', 'degC'],
  ['Pa', 'hPa', 'kPa', 'MPa', 'GPa', 'bar', 'mbar', 'N/mm²', 'N/mm^2', 'psi', 'atm'],
  ['m/s', 'mm/s', 'cm/s', 'km/h', 'ft/s'],
  ['s', 'ms', 'µs', 'min', 'h'],
  ['kg', 'g', 't'],
  ['N', 'kN', 'mN', 'lbf'],
  ['W', 'kW', 'mW', 'MW'],
  ['°', 'deg', 'degrees', 'rad'],
  ['%'],
  ['rad/s', 'rpm', '°/s'],
  ['m/s²', 'm/s^2', 'mm/s²'],
  ['Hz', 'kHz', 'MHz', 'GHz'],
  ['J', 'kJ', 'MJ', 'kWh'],
  ['W/m²', 'W/m^2', 'kW/m²', 'W/cm²'],
  ['kg/m³', 'kg/m^3', 'g/cm³'],
  ['kg/s', 'g/s', 'kg/h'],
  ['m³/s', 'm^3/s', 'l/min', 'm³/h'],
  ['Pa s', 'Pa·s', 'Pa*s', 'mPa s'],
  ['N m', 'N·m', 'N*m', 'kN m'],
  ['V', 'mV', 'kV'],
  ['V/m', 'kV/m'],
  ['A', 'mA', 'kA'],
  ['T', 'mT', 'µT'],
];

const rowOf = byName(Object.fromEntries(rows.flatMap((row) => row.map((unit) => [unit, row]))));

/** Other ways to write a unit of the library. */
const written = byName({
  C: 'degC',
  '°C': 'degC',
  '°F': 'degF',
  '°': 'deg',
  degrees: 'deg',
  t: 'tonne',
  rpm: 'cycle/min',
  '°/s': 'deg/s',
});

const raised = '⁰¹²³⁴⁵⁶⁷⁸⁹';

/** A unit as the library reads it. */
function inLibrary(unit: string): string {
  if (unit in written) return written[unit];
  return unit
    .replace(/µ|μ/g, 'u')
    .replace(
      /⁻?[⁰¹²³⁴⁵⁶⁷⁸⁹]+/g,
      (said) => `^${[...said].map((c) => (c === '⁻' ? '-' : raised.indexOf(c))).join('')}`,
    )
    .replace(/[·.*]/g, ' ');
}

let math: MathJsInstance | null = null;

/** A number in one unit said in another, unrounded; null when the two do not measure the same. */
function convertInLibrary(value: number, from: string, to: string): number | null {
  math ??= create({ unitDependencies }) as MathJsInstance;
  try {
    return math.unit(value, inLibrary(from)).toNumber(inLibrary(to));
  } catch {
    return null;
  }
}

/** Whether a word is a unit that can be typed. */
export const isUnit = (unit: string): boolean => unit in rowOf;

interface Change {
  factor: number;
  /** Added after the factor. */
  shift: number;
}

const changes = new Map<string, Change | null>();

/** How numbers in one unit become numbers in another; null when the two do not measure the same. */
export function unitChange(from: string, to: string): Change | null {
  if (from === to) return { factor: 1, shift: 0 };
  const key = `${from}\n${to}`;
  let change = changes.get(key);
  if (change === undefined) {
    const shift = convertInLibrary(0, from, to);
    const one = convertInLibrary(1, from, to);
    change =
      shift === null || one === null
        ? null
        : { factor: Number((one - shift).toPrecision(14)), shift: Number(shift.toPrecision(14)) };
    changes.set(key, change);
  }
  return change;
}

/** Base units of the SI in the order in which the library counts their powers. */
const BASES = ['kg', 'm', 's', 'A', 'K', 'cd', 'mol', 'rad'];

export interface InBaseUnits {
  /** Made of base units of the SI; empty for a pure number. */
  unit: string;
  /** How many of it one of the unit is. */
  factor: number;
}

const inBases = new Map<string, InBaseUnits | null>();

/** A unit in base units of the SI; null when it is not understood, or shifted as °C is. */
export function inBaseUnits(unit: string): InBaseUnits | null {
  let found = inBases.get(unit);
  if (found === undefined) inBases.set(unit, (found = readInBases(unit)));
  return found;
}

function readInBases(unit: string): InBaseUnits | null {
  if (unit === '') return { unit: '', factor: 1 };
  math ??= create({ unitDependencies }) as MathJsInstance;
  try {
    const one = math.unit(1, inLibrary(unit)) as unknown as { dimensions: number[]; value: number };
    const zero = math.unit(0, inLibrary(unit)) as unknown as { value: number };
    const made = unitProduct(...BASES.map((base, i): [string, number] => [base, one.dimensions[i]]));
    const factor = Number(one.value.toPrecision(14));
    return zero.value !== 0 || made === null || one.dimensions[8] !== 0 ? null : { unit: made, factor };
  } catch {
    return null;
  }
}

/** Units by one name or a usual few that say the same as a product of others does. */
const usual = [
  'm',
  'm²',
  'm³',
  's',
  'm/s',
  'm/s²',
  'm³/s',
  'kg',
  'kg/s',
  'kg/m³',
  'N',
  'Pa',
  'J',
  'W',
  'W/m²',
  'V',
  'V/m',
];

/** A unit in a shorter way where there is one that says the very same: `Pa` for `kg/(m·s²)`, nothing for `Pa·m²/N`. */
export function shortUnit(unit: string): string {
  // A moment is no energy, though both are measured alike.
  if (usual.includes(unit) || unit === 'N·m' || !/[·/]/.test(unit)) return unit;
  const bases = inBaseUnits(unit);
  if (bases?.factor !== 1) return unit;
  if (bases.unit === '') return '';
  return usual.find((u) => inBaseUnits(u)!.unit === bases.unit && inBaseUnits(u)!.factor === 1) ?? unit;
}

/** A number in one unit said in another; null when the two do not measure the same. */
export function convertUnit(value: number, from: string, to: string): number | null {
  if (from === to) return value;
  const change = unitChange(from, to);
  // Rounded to what double precision holds: 40 cm is 0.4 m, not 0.4000000000000001 m.
  return change && Number((value * change.factor + change.shift).toPrecision(14));
}

/** The units that measure the same as one, for completion. */
export const unitsLike = (unit: string): readonly string[] => rowOf[unit] ?? [unit];

/** The units numbers can be shown in that are stored in another, each way to write it once; the stored one first. */
export function unitsToShow(stored: string): string[] {
  const row = rowOf[stored] ?? rows.find((r) => unitChange(stored, r[0]) !== null) ?? [];
  const seen = new Set<string>();
  return [stored, ...row].filter((unit) => {
    const name = inLibrary(unit);
    return seen.has(name) ? false : seen.add(name);
  });
}

/** Seconds in the units of time a stamp can be shown in. */
export const secondsIn = byName({ ns: 1e-9, µs: 1e-6, ms: 1e-3, s: 1, min: 60, h: 3600 });
