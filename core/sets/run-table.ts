import { nameWithoutUnit } from '../model/quantity.ts';

/** What a column of a set of runs tells: what was chosen for each run, what came of it, or what the runs are called. */
export type ColumnRole = 'input' | 'output' | 'label';

/** Of a number or a text; null where a run says nothing. */
export type RunValue = number | string | null;

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
  const keys = [...new Set(runs.flatMap((r) => Object.keys(r.parameters)))];
  const findings: string[] = [];
  const read = keys.map((key) => {
    const said = runs.map((r) => {
      const value = r.parameters[key];
      return value === undefined || value === '' || Number.isNaN(value) ? null : value;
    });
    return { key, ...asNumbers(key, said, runs, findings) };
  });
  const guessed = guessRoles(read, named);
  const columns = read.map((column, i): RunColumn => {
    const { role = guessed[i], unit = unitInName(column.key), name } = wishes[column.key] ?? {};
    return { ...column, name: name ?? nameWithoutUnit(column.key), unit, role };
  });
  findings.push(...findingsOf(runs, columns));
  return { rows: runs.map(({ id, name }) => ({ id, name })), columns, findings };
}

const unitInName = (key: string): string | null => /\[([^\]]+)\]\s*$/.exec(key)?.[1].trim() ?? null;

/** A text that stands for nothing. */
const NOTHING = /^(?:n\/?a|nan|none|null|-+|–|\?)$/i;

/**
 * The values of a column, as numbers where most of them are: a text among numbers is told and left out, a word for nothing
 * is only left out.
 */
function asNumbers(
  key: string,
  said: readonly RunValue[],
  runs: readonly RunRow[],
  findings: string[],
): Pick<RunColumn, 'numeric' | 'values'> {
  const known = said.filter((v) => v !== null && !(typeof v === 'string' && NOTHING.test(v.trim())));
  const numbers = known.map(numberOf).filter((v) => v !== null);
  if (numbers.length * 2 <= known.length || numbers.length === 0)
    return { numeric: false, values: said.map((v) => (v === null ? null : String(v))) };
  const values = said.map((v, row) => {
    const number = numberOf(v);
    if (number === null && typeof v === 'string' && !NOTHING.test(v.trim()))
      findings.push(
        `“${v}” of ${runs[row].name} is no number, as the others of “${key}” are; it is left out.`,
      );
    return number;
  });
  return { numeric: true, values };
}

function numberOf(value: RunValue): number | null {
  if (typeof value === 'number') return Number.isFinite(value) ? value : null;
  if (value === null || value.trim() === '') return null;
  // A decimal comma, where nothing else in it could be one.
  const number = Number(value.trim().replace(/^([-+]?\d+),(\d+)$/, '$1.$2'));
  return Number.isFinite(number) ? number : null;
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
