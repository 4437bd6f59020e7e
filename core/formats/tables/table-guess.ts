import type { PointsReading, RunsReading, TableReading } from '../../model/table-reading.ts';
import type { OpenedTable } from '../format.ts';

/** A column name without its unit, in small letters. */
export const plainName = (name: string): string =>
  name
    .replace(/\s*[[(].*$/, '')
    .trim()
    .toLowerCase();

/** Reads a table the way its names and values suggest. Common practice, no source. */
export function guessReading(table: OpenedTable): TableReading {
  const names = table.columns.map((c) => plainName(c.name));
  const file = table.columns.findIndex((c, i) => !c.numeric && looksLikeFiles(table, i));
  if (file >= 0 && table.rows <= 10_000) return { as: 'runs', file };
  const points = guessPoints(table, names);
  if (points) return points;
  const time = names.findIndex(
    (n, i) => /^(time|t|step|iteration|iter|zeit|increment)$/.test(n) && table.columns[i].numeric,
  );
  if (time >= 0) return { as: 'history', time };
  const first = table.columns.findIndex((c) => c.numeric);
  return { as: 'history', time: Math.max(0, first) };
}

function looksLikeFiles(table: OpenedTable, column: number): boolean {
  const sample = table.preview(5).map((row) => row[column] ?? '');
  return sample.length > 0 && sample.every((s) => /^[^\s:]+\.[a-z][a-z0-9]{1,7}$/i.test(s));
}

const axisNames = [
  ['x', 'y', 'z'],
  ['x_coordinate', 'y_coordinate', 'z_coordinate'],
  ['x-coordinate', 'y-coordinate', 'z-coordinate'],
  ['coord_x', 'coord_y', 'coord_z'],
  ['pos_x', 'pos_y', 'pos_z'],
  ['position_x', 'position_y', 'position_z'],
  ['px', 'py', 'pz'],
  ['points:0', 'points:1', 'points:2'],
  ['points_0', 'points_1', 'points_2'],
  ['xp', 'yp', 'zp'],
];

function guessPoints(table: OpenedTable, names: string[]): PointsReading | null {
  for (const axes of axisNames) {
    const [x, y, z] = axes.map((a) => names.indexOf(a));
    if (x < 0 || y < 0) continue;
    const used = new Set([x, y, z]);
    const vectors = guessVectors(names, used, table);
    const diameter = find(names, /^(d|dia|diam|diameter|size)$/, used);
    const id = find(names, /^(id|particle_?id|atom_?id|number|index)$/, used);
    const step = stepColumn(table, names, used);
    return { as: 'points', x, y, z: z < 0 ? null : z, vectors, diameter, step, id };
  }
  return null;
}

function find(names: string[], pattern: RegExp, used: Set<number>): number | null {
  const i = names.findIndex((n, k) => pattern.test(n) && !used.has(k));
  return i < 0 ? null : i;
}

/** A column of times is one of steps when many rows share each of its values. */
function stepColumn(table: OpenedTable, names: string[], used: Set<number>): number | null {
  const i = find(names, /^(time|t|step|timestep|frame)$/, used);
  if (i === null || table.rows < 4) return null;
  const distinct = new Set<number>();
  for (const v of table.numbers(i)) {
    distinct.add(v);
    if (distinct.size > table.rows / 2) return null;
  }
  return distinct.size > 1 ? i : null;
}

function guessVectors(names: string[], used: Set<number>, table: OpenedTable): PointsReading['vectors'] {
  const out: PointsReading['vectors'] = [];
  const take = (name: string, columns: number[]): void => {
    if (columns.slice(0, 2).some((c) => c < 0 || used.has(c) || !table.columns[c].numeric)) return;
    const z = columns[2] >= 0 && !used.has(columns[2]) ? columns[2] : null;
    for (const c of [columns[0], columns[1], ...(z === null ? [] : [z])]) used.add(c);
    out.push({ name, columns: [columns[0], columns[1], z] });
  };
  for (const axes of [
    ['u', 'v', 'w'],
    ['vx', 'vy', 'vz'],
    ['ux', 'uy', 'uz'],
    ['velocity_x', 'velocity_y', 'velocity_z'],
  ]) {
    take(
      'velocity',
      axes.map((a) => names.indexOf(a)),
    );
  }
  for (const [i, name] of names.entries()) {
    const match = /^(.+?)[_:\s-]?(x|0)$/.exec(name);
    if (!match || used.has(i)) continue;
    const [second, third] = match[2] === 'x' ? ['y', 'z'] : ['1', '2'];
    const like = (letter: string): number => names.indexOf(name.slice(0, -1) + letter);
    take(table.columns[i].name.replace(/[_:\s-]?(x|0)(\s*[[(].*)?$/i, '') || match[1], [
      i,
      like(second),
      like(third),
    ]);
  }
  return out;
}

/** Numbers of a column, and what stands where there is none: whoever reads them tells of it. */
function asNumbers(table: OpenedTable, column: number): (number | string)[] {
  const numbers = Array.from(table.numbers(column));
  if (!numbers.some(Number.isNaN)) return numbers;
  const texts = table.texts(column);
  return numbers.map((number, row) => (Number.isNaN(number) ? texts[row] : number));
}

/** The rows of a table of runs: the file and the parameters of each. */
export function rowsOfRuns(
  table: OpenedTable,
  { file }: RunsReading,
): { file: string; parameters: Record<string, number | string> }[] {
  if (file === null) return [];
  const files = table.texts(file);
  const columns = table.columns.flatMap((c, i) =>
    i === file ? [] : [{ name: c.name, values: c.numeric ? asNumbers(table, i) : table.texts(i) }],
  );
  return files.map((name, r) => ({
    file: name,
    parameters: Object.fromEntries(columns.map((c) => [c.name, c.values[r]])),
  }));
}
