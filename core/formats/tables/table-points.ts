import type { NumberArray } from '../../model/arrays.ts';
import type { FieldHeader } from '../../model/field.ts';
import { nameWithoutUnit } from '../../model/quantity.ts';
import type { PointsReading } from '../../model/table-reading.ts';
import { pointCells } from '../cells/grid-cells.ts';
import { openedRun } from '../door/opened-run.ts';
import type { OpenedMesh, OpenedRun, OpenedTable } from '../format.ts';

/** Times of the steps a table holds as points. */
export function stepsOfTable(table: OpenedTable, reading: PointsReading): (number | null)[] {
  return reading.step === null ? [null] : [...rowsByStep(table, reading.step).keys()];
}

function rowsByStep(table: OpenedTable, column: number): Map<number, number[]> {
  const steps = new Map<number, number[]>();
  const values = table.numbers(column);
  for (let r = 0; r < values.length; r++) {
    const rows = steps.get(values[r]);
    if (rows) rows.push(r);
    else steps.set(values[r], [r]);
  }
  return new Map([...steps].sort((a, b) => a[0] - b[0]));
}

/**
 * A table as points: rows are particles, columns that are no coordinates become fields, vectors are put together.
 * Text columns count their different entries, so that they can be coloured.
 */
export function pointsOfTable(table: OpenedTable, reading: PointsReading): OpenedRun {
  const { x, y, z, step } = reading;
  const steps = step === null ? new Map([[Number.NaN, null]]) : rowsByStep(table, step);
  const times = [...steps.keys()];
  const fields = fieldColumns(table, reading);
  const headers: FieldHeader[] = fields.map(({ name, unit, columns }) => ({
    name,
    unit,
    location: 'point',
    components: columns.length,
  }));
  const state = (at: number): OpenedMesh | null => {
    const rows = steps.get(times[at]);
    if (rows === undefined) return null;
    const take = (values: ArrayLike<number>): Float64Array =>
      rows ? Float64Array.from(rows, (r) => values[r]) : Float64Array.from(values);
    const count = rows?.length ?? table.rows;
    return {
      points: count,
      cells: count,
      fields: headers,
      meshKey: step === null ? 'rows' : null,
      readMesh() {
        const points = new Float64Array(3 * count);
        for (const [k, column] of [x, y, z].entries()) {
          if (column === null) continue;
          const values = take(table.numbers(column));
          for (let r = 0; r < count; r++) points[3 * r + k] = values[r];
        }
        return { points, ...pointCells(count) };
      },
      readField: (index) => interleaved(fields[index].columns.map((c) => take(valuesOf(table, c)))),
    };
  };
  return openedRun([{ name: null, kind: 'particles', at: state }], {
    steps: times.map((t) => (Number.isNaN(t) ? null : t)),
    lengthUnit: table.columns[x]?.unit ?? null,
    timeUnit: step === null ? null : (table.columns[step]?.unit ?? null),
    findings: table.findings,
  });
}

interface FieldColumns {
  name: string;
  unit: string | null;
  /** Null stands for zeros. */
  columns: (number | null)[];
}

function fieldColumns(table: OpenedTable, reading: PointsReading): FieldColumns[] {
  const inVectors = new Set(reading.vectors.flatMap((v) => v.columns));
  const out: FieldColumns[] = reading.vectors.map((v) => ({
    name: v.name,
    unit: table.columns[v.columns[0]]?.unit ?? null,
    columns: v.columns,
  }));
  for (const [i, column] of table.columns.entries()) {
    if (i === reading.step || inVectors.has(i)) continue;
    if (!column.numeric && new Set(table.texts(i)).size > table.rows / 2) {
      table.findings.add(`the texts of "${column.name}" are left out: nearly every row has its own`);
      continue;
    }
    // Coordinates stay fields too: their numbers can be asked for like any other.
    out.push({ name: nameWithoutUnit(column.name), unit: column.unit, columns: [i] });
  }
  return out;
}

function valuesOf(table: OpenedTable, column: number | null): ArrayLike<number> {
  if (column === null) return new Float64Array(table.rows);
  return table.columns[column].numeric ? table.numbers(column) : countedTexts(table.texts(column));
}

/** Texts as whole numbers, in the order of their first appearance. */
function countedTexts(texts: string[]): Float64Array {
  const codes = new Map<string, number>();
  return Float64Array.from(texts, (t) => {
    const known = codes.get(t);
    if (known !== undefined) return known;
    codes.set(t, codes.size);
    return codes.size - 1;
  });
}

/** Columns as one array, component fastest. */
export function interleaved(columns: ArrayLike<number>[]): NumberArray {
  if (columns.length === 1 && columns[0] instanceof Float64Array) return columns[0];
  const n = columns[0].length;
  const out = new Float64Array(n * columns.length);
  for (const [k, column] of columns.entries())
    for (let i = 0; i < n; i++) out[i * columns.length + k] = column[i];
  return out;
}
