import { nameWithoutUnit } from '../model/quantity.ts';
import { convertUnit, isUnit } from '../model/units.ts';

/** What a table says of a run: a number or a text; null where it says nothing. */
export type SaidValue = number | string | null;

/** A number, and the unit that is said with it. */
export interface SaidNumber {
  value: number;
  unit: string | null;
}

/** A text that stands for nothing. */
const NOTHING = /^(?:n\/?a|nan|none|null|-+|–|\?)$/i;

export const saysNothing = (said: SaidValue): boolean =>
  said === null || (typeof said === 'string' && (said.trim() === '' || NOTHING.test(said.trim())));

/** The unit in the name of a column, as in `power [kW]`. */
export const unitInName = (key: string): string | null => /\[([^\]]+)\]\s*$/.exec(key)?.[1].trim() ?? null;

/**
 * The number that a text says, alone or with a unit behind it, as in `1,2 kW`.
 *
 * @param expected a unit that need not be one of ours
 */
export function saidNumber(said: SaidValue, expected: string | null = null): SaidNumber | null {
  if (typeof said === 'number') return Number.isFinite(said) ? { value: said, unit: null } : null;
  if (said === null) return null;
  const [, digits, unit] = /^([-+]?(?:\d+[.,]?\d*|[.,]\d+)(?:e[-+]?\d+)?)\s*(.*)$/i.exec(said.trim()) ?? [];
  if (digits === undefined) return null;
  if (unit !== '' && unit !== expected && !isUnit(unit)) return null;
  // A decimal comma, where nothing else in it could be one.
  const value = Number(digits.replace(/^([-+]?\d*),(\d+)$/, '$1.$2'));
  return Number.isFinite(value) ? { value, unit: unit === '' ? null : unit } : null;
}

/** A key of a column that others, which differ by their unit only, are said in. */
export interface KeyInUnit {
  key: string;
  /** Brings a number of the other key into the unit of this one. */
  inItsUnit(value: number): number;
}

/**
 * Keys that name the same in units that can be told in each other (`power [W]`, `power [kW]`), where no run says both: each but the
 * first leads to that one.
 */
export function keysInOtherUnits(
  keys: readonly string[],
  runs: readonly { parameters: Readonly<Record<string, unknown>> }[],
): ReadonlyMap<string, KeyInUnit> {
  const firsts = new Map<string, { key: string; unit: string }>();
  const out = new Map<string, KeyInUnit>();
  for (const key of keys) {
    const [name, unit] = [nameWithoutUnit(key), unitInName(key)];
    if (unit === null) continue;
    const first = firsts.get(name);
    if (!first) {
      firsts.set(name, { key, unit });
      continue;
    }
    const both = runs.some((r) => Object.hasOwn(r.parameters, key) && Object.hasOwn(r.parameters, first.key));
    if (both || convertUnit(1, unit, first.unit) === null) continue;
    out.set(key, { key: first.key, inItsUnit: (value) => convertUnit(value, unit, first.unit)! });
  }
  return out;
}
