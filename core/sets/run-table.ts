import { nameWithoutUnit } from '../model/quantity.ts';
import { convertUnit } from '../model/units.ts';
import { keysInOtherUnits, type SaidValue, saidNumber, saysNothing, unitInName } from './read-value.ts';

/** What a column of a set of runs tells: what was chosen for each run, what came of it, or what the runs are called. */
export type ColumnRole = 'input' | 'output' | 'label';

export type RunValue = SaidValue;

/** One parameter or result of all runs of a set. */
export interface RunColumn {
  /** As the files have it. */
  key: string;
  /** Without its unit. */
  name: string;
  unit: string | null;
  role: ColumnRole;
  /** Whether all that it holds are numbers. */
  numeric: boolean;
  /** By the rows of the table. */
  values: readonly RunValue[];
}

/** A run of a set, as what is known of it beside its values. */
export interface RunRow {
  /** Of the run. */
  id: string;
  name: string;
}

/** Runs with their parameters and results. */
export interface RunTable {
  rows: readonly RunRow[];
  columns: readonly RunColumn[];
  /** What is odd about it, in sentences. */
  findings: string[];
}

/** What was corrected of a column by hand. */
export interface ColumnWish {
  role?: ColumnRole;
  unit?: string | null;
  name?: string;
}

interface RunWithValues extends RunRow {
  parameters: Readonly<Record<string, number | string>>;
}

/**
 * The table of some runs: a column for everything that any of them says, in the order in which it is first said.
 *
 * @param wishes what was corrected, by the keys of columns; everything else is guessed
 * @param named keys of what stands in the names of runs: that was chosen
 */
export function runTable(
  runs: readonly RunWithValues[],
  wishes: Readonly<Record<string, ColumnWish>> = {},
  named: ReadonlySet<string> = new Set(),
): RunTable {
  const all = [...new Set(runs.flatMap((r) => Object.keys(r.parameters)))];
  const others = keysInOtherUnits(all, runs);
  const findings: string[] = [];
  const read = all
    .filter((key) => !others.has(key))
    .map((key) => {
      const units = new Set<string>();
      const said = runs.map(({ parameters }) => {
        if (Object.hasOwn(parameters, key)) return parameters[key];
        const other = [...others].find(([k, o]) => o.key === key && Object.hasOwn(parameters, k));
        const number = other && saidNumber(parameters[other[0]]);
        if (!other || !number) return null;
        units.add(unitInName(other[0])!);
        return other[1].inItsUnit(number.value);
      });
      return { key, ...asNumbers(key, said, runs, units, findings) };
    });
  const guessed = guessRoles(read, named);
  const columns = read.map((column, i): RunColumn => {
    const { role = guessed[i], unit = column.unit, name } = wishes[column.key] ?? {};
    return { ...column, name: name ?? nameWithoutUnit(column.key), unit, role };
  });
  findings.push(...findingsOf(runs, columns));
  return { rows: runs.map(({ id, name }) => ({ id, name })), columns, findings };
}

/**
 * The values of a column, as numbers in one unit where most of them are: a text among numbers is told and left out, a word for
 * nothing is only left out.
 *
 * @param units others in which some of it was said already
 */
function asNumbers(
  key: string,
  said: readonly RunValue[],
  runs: readonly RunRow[],
  units: Set<string>,
  findings: string[],
): Pick<RunColumn, 'numeric' | 'values' | 'unit'> {
  const named = unitInName(key);
  const known = said.filter((v) => !saysNothing(v));
  const numbers = known.flatMap((v) => saidNumber(v, named) ?? []);
  if (numbers.length * 2 <= known.length || numbers.length === 0) {
    const values = said.map((v) => (v === null || v === '' ? null : String(v)));
    return { numeric: false, values, unit: named };
  }
  const unit = named ?? numbers.find((n) => n.unit !== null)?.unit ?? null;
  const values = said.map((v, row) => {
    if (saysNothing(v)) return null;
    const number = saidNumber(v, named);
    if (number === null) {
      findings.push(
        `“${v}” of ${runs[row].name} is no number, as the others of “${key}” are; it is left out.`,
      );
      return null;
    }
    if (number.unit === null || number.unit === unit) return number.value;
    const converted = convertUnit(number.value, number.unit, unit!);
    if (converted === null)
      findings.push(
        `“${v}” of ${runs[row].name} does not measure what the others of “${key}” do, in ${unit}; it is left out.`,
      );
    else units.add(number.unit);
    return converted;
  });
  units.delete(unit ?? '');
  if (units.size > 0)
    findings.push(
      `“${nameWithoutUnit(key)}” is said in ${unit} and ${[...units].join(', ')}; here all of it is in ${unit}.`,
    );
  return { numeric: true, values, unit };
}

/** A column of runs that take at most so much of their number as different values was chosen, and not computed. */
const FEW = 0.5;
/** Numbers that are chosen are said in so many digits; common practice, no source. */
const CHOSEN_DIGITS = 4;

type Unguessed = Pick<RunColumn, 'key' | 'numeric' | 'values'>;

/**
 * What each column seems to be. Texts that all differ name the runs. Numbers were chosen where they come back in other runs,
 * or are short; behind the first that was computed, all others that differ in every run were too: tables give what was
 * chosen first. Long ones that come back with the same value of an earlier input only, follow from it. Common practice, no source.
 */
function guessRoles(columns: readonly Unguessed[], named: ReadonlySet<string>): ColumnRole[] {
  let computed = false;
  const chosen: (readonly RunValue[])[] = [];
  const roleOf = ({ key, numeric, values }: Unguessed): ColumnRole => {
    const known = values.filter((v) => v !== null);
    const different = new Set(known).size;
    const comesBack = different <= Math.max(1, FEW * known.length);
    if (!numeric) return comesBack ? 'input' : 'label';
    const short = known.every((v) => digitsOf(v as number) <= CHOSEN_DIGITS);
    if (named.has(key)) return 'input';
    if (comesBack)
      return different > 1 && !short && chosen.some((c) => follows(values, c)) ? 'output' : 'input';
    computed ||= !short;
    return computed ? 'output' : 'input';
  };
  return columns.map((column) => {
    const role = roleOf(column);
    if (role === 'input') chosen.push(column.values);
    return role;
  });
}

/** Whether runs with the same value of an input, which comes back, have the same value here as well. */
function follows(values: readonly RunValue[], input: readonly RunValue[]): boolean {
  const found = new Map<RunValue, RunValue>();
  for (const [row, value] of input.entries()) {
    if (found.has(value) && found.get(value) !== values[row]) return false;
    found.set(value, values[row]);
  }
  return found.size < input.length;
}

/** Digits that tell a number, without zeros at its ends. */
const digitsOf = (value: number): number =>
  value.toExponential().replace(/e.*$/, '').replace(/[-.]/g, '').replace(/0+$/, '').length;

function findingsOf(runs: readonly RunRow[], columns: readonly RunColumn[]): string[] {
  const out: string[] = [];
  if (runs.length === 1) out.push('The set has one run only: there is nothing to compare it with.');
  for (const { name, role, values } of columns) {
    const known = values.filter((v) => v !== null);
    const lacking = values.length - known.length;
    if (lacking > 0) out.push(`“${name}” is lacking in ${lacking} of ${values.length} runs.`);
    if (role === 'input' && known.length > 1 && new Set(known).size === 1)
      out.push(`“${name}” is ${known[0]} in all runs: nothing can be told from it.`);
  }
  out.push(...twins(runs, columns));
  return out;
}

/** Runs that were made with the same inputs. */
function twins(runs: readonly RunRow[], columns: readonly RunColumn[]): string[] {
  const inputs = columns.filter((c) => c.role === 'input');
  if (inputs.length === 0) return [];
  const first = new Map<string, number>();
  return runs.flatMap(({ name }, row) => {
    const key = JSON.stringify(inputs.map((c) => c.values[row]));
    const other = first.get(key);
    if (other === undefined) first.set(key, row);
    return other === undefined ? [] : [`${name} has the same inputs as ${runs[other].name}.`];
  });
}
