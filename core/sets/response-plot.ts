import { problemOf } from '../model/read-error.ts';
import { fitResponse, type ResponseFit } from '../response/fit-response.ts';
import { responseKinds } from '../response/registry.ts';
import { endsOfNumbers, numberIn, numbersIn } from './column-numbers.ts';
import { compareValues } from './compare-values.ts';
import { varyingInputs } from './run-matrix.ts';
import type { RunColumn, RunTable, RunValue } from './run-table.ts';

/** An output against inputs, all by the keys of their columns. */
export interface ResponseWish {
  output: string | null;
  across: string | null;
  /** Each of its values is a curve of its own; null for one curve. */
  group: string | null;
  /** An input that stands at one of its values; null for none. */
  stepped: string | null;
  at: RunValue;
  /** Id of a way of fitting, with its options; null for none. */
  fit: { kind: string; options: Record<string, unknown> } | null;
}

/** A run as a point. */
export interface ResponsePoint {
  row: number;
  x: number;
  y: number;
}

/** Runs that belong together, and what is fitted through them. */
export interface ResponseCurve {
  /** Of the input that groups; null where nothing does. */
  group: RunValue;
  /** By `x`. */
  points: ResponsePoint[];
  /** What the fit says along the way; none where there is no fit. `off` is a standard deviation, where the fit can tell. */
  fitted: { x: number; y: number; off: number | null }[];
}

export interface ResponsePlot {
  output: RunColumn;
  across: RunColumn;
  curves: ResponseCurve[];
  /** Values of the input that is stepped through, in order, and the one that is shown. */
  steps: RunValue[];
  at: RunValue;
  fit: ResponseFit | null;
  /** Rows the fit was made of, as `residuals` and `leftOut` of the fit count them. */
  rows: number[];
  /** Why there is no fit though one is wished for, in words. */
  trouble: string | null;
}

/** Places along a fitted curve. */
const PLACES = 61;

/**
 * An output against an input, in curves by a second, with a third at one of its values.
 *
 * @param rows those that are shown, as indices into the table
 * @returns null where there is no such output or input of numbers
 */
export function responsePlot(
  table: RunTable,
  rows: readonly number[],
  wish: ResponseWish,
): ResponsePlot | null {
  const column = (key: string | null) => table.columns.find((c) => c.key === key && c.numeric);
  const [output, across] = [column(wish.output), column(wish.across)];
  if (!output || !across) return null;
  const group = table.columns.find((c) => c.key === wish.group) ?? null;
  const stepped = table.columns.find((c) => c.key === wish.stepped) ?? null;
  const steps = stepped ? valuesIn(stepped, rows) : [];
  const at = stepped && steps.includes(wish.at) ? wish.at : (steps[0] ?? null);
  const shown = stepped ? rows.filter((row) => stepped.values[row] === at) : rows;
  const inputs = [across, group, stepped].filter((c): c is RunColumn => c?.numeric === true);
  const { fit, trouble } = fitted(wish, inputs, output, rows);
  const groups = group ? valuesIn(group, shown) : [null];
  const [low, high] = endsOfNumbers(numbersIn(across, shown));
  const curves = groups.map((value): ResponseCurve => {
    const own = group ? shown.filter((row) => group.values[row] === value) : shown;
    const points = own
      .map((row) => ({ row, x: numberIn(across, row), y: numberIn(output, row) }))
      .filter(({ x, y }) => Number.isFinite(x) && Number.isFinite(y))
      .sort((a, b) => a.x - b.x || a.row - b.row);
    const places =
      fit && high > low
        ? Array.from({ length: PLACES }, (_, i) => low + ((high - low) * i) / (PLACES - 1))
        : [];
    const rest = [
      ...(group?.numeric ? [value as number | null] : []),
      ...(stepped?.numeric ? [at as number | null] : []),
    ];
    const isTold = rest.every((v) => v !== null);
    return {
      group: value,
      points,
      fitted: isTold
        ? places.map((x) => {
            const place = [x, ...(rest as number[])];
            return { x, y: fit!.surface.at(place), off: fit!.surface.deviation?.(place) ?? null };
          })
        : [],
    };
  });
  return { output, across, curves, steps, at, fit, rows: [...rows], trouble };
}

const valuesIn = (column: RunColumn, rows: readonly number[]): RunValue[] =>
  [...new Set(rows.map((row) => column.values[row]))].sort((a, b) => compareValues(a, b));

function fitted(
  { fit }: ResponseWish,
  inputs: readonly RunColumn[],
  output: RunColumn,
  rows: readonly number[],
): { fit: ResponseFit | null; trouble: string | null } {
  const kind = fit && responseKinds.find(({ id }) => id === fit.kind);
  if (!kind) return { fit: null, trouble: null };
  const options = kind.schema.safeParse({ ...kind.defaults, ...fit.options });
  try {
    const made = fitResponse(kind, options.success ? options.data : kind.defaults, {
      inputs: rows.map((row) => inputs.map((c) => numberIn(c, row))),
      outputs: numbersIn(output, rows),
    });
    return { fit: made, trouble: null };
  } catch (error) {
    const { reason, remedy } = problemOf('', error);
    return { fit: null, trouble: `No fit: ${reason}. ${remedy}` };
  }
}

/** What is likely looked at first: the first output against the input with the most values that come back, by the next. */
export function likelyResponse(table: RunTable): Pick<ResponseWish, 'output' | 'across' | 'group'> {
  const output = table.columns.find((c) => c.role === 'output' && c.numeric);
  const varying = varyingInputs(table);
  const across = varying.find(({ column }) => column.numeric)?.column ?? null;
  const group = varying
    .filter(({ column, differs }) => column !== across && !differs)
    .sort((a, b) => a.count - b.count)[0];
  return { output: output?.key ?? null, across: across?.key ?? null, group: group?.column.key ?? null };
}
