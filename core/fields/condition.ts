import { cellTypes } from '../model/cell-types.ts';
import type { MeshField } from '../model/field.ts';
import { likelyName } from '../model/likely-name.ts';
import { cellCount, type Mesh, pointCount } from '../model/mesh.ts';
import { replay } from '../model/recipe.ts';
import { cellsToPoints, pointsToCells } from './averages.ts';
import type { FieldsOnMesh } from './fields-on-mesh.ts';
import { type Column, type Formula, FormulaError, parseFormula } from './formula.ts';
import { setQuantity } from './sources/part-set.ts';
import type { FieldNeed } from './sources/quantity-source.ts';

const own = new Set(['x', 'y', 'z', 'id', 'type', 'part']);
const LETTERS = ['x', 'y', 'z'];

/** A field of the run under the name a condition uses, with the component that is meant. */
export interface NamedField {
  need: FieldNeed;
  component: number | 'magnitude';
}

/**
 * What the names of a condition stand for. `x y z` is the place (of a cell: the mean of its nodes), `id` the number
 * of the point or cell, `type` the type of the cell, `part` the name of the part; everything else is a field by its
 * name, `velocity.x` a component of it, and `[tins]` also a part set, 1 inside and 0 outside.
 *
 * @param fields keys of the fields of the run
 * @throws FormulaError for a name that is none of these
 */
export function fieldsOfCondition(
  formula: Formula,
  fields: readonly { key: string; name: string; components: number }[],
  sets: readonly string[],
): Map<string, NamedField> {
  const out = new Map<string, NamedField>();
  for (const name of formula.names) {
    if (own.has(name)) continue;
    const dot = name.lastIndexOf('.');
    const letter = dot > 0 ? LETTERS.indexOf(name.slice(dot + 1)) : -1;
    const plain = letter >= 0 ? name.slice(0, dot) : name;
    const is = (given: string): boolean =>
      given.replace(/\s*\[[^\]]*\]\s*$/, '').toLowerCase() === plain.toLowerCase();
    const field =
      fields.find((f) => f.key === plain) ??
      fields.find((f) => is(f.name)) ??
      // By the name it had before it was given another.
      fields.find((f) => is(f.key.slice(f.key.indexOf(':') + 1)));
    if (field) {
      const component =
        letter >= 0 ? letter : field.components === 2 || field.components === 3 ? 'magnitude' : 0;
      out.set(name, { need: { field: field.key }, component });
      continue;
    }
    const set = sets.find(is);
    if (!set) {
      const all = [...fields.map((f) => f.name), ...sets, ...own];
      const likely = likelyName(plain, all);
      const meant = likely ? `; "${likely}" may be meant` : '';
      throw new FormulaError(
        `"${name}" is not known here${meant}. Known are ${all.slice(0, 12).join(', ')}.`,
      );
    }
    out.set(name, { need: { field: setQuantity(set) }, component: 0 });
  }
  return out;
}

/**
 * Where a condition holds, 1 or 0 for each point or cell. Point fields count on a cell by the mean of its nodes, cell
 * fields on a point by the mean of its cells. Where the part lacks a field the condition does not hold.
 */
export function whereCondition(
  input: FieldsOnMesh,
  text: string,
  names: Record<string, NamedField>,
  on: 'cells' | 'points',
): Float64Array {
  const { mesh } = input;
  const rows = on === 'cells' ? cellCount(mesh) : pointCount(mesh);
  const lacking = Object.values(names).some(({ need }) => input.field(need) === null);
  return lacking ? new Float64Array(rows) : formulaOn(input, text, names, on);
}

/** The values of a formula at each point or cell of a mesh that has all it reads. */
export function formulaOn(
  input: FieldsOnMesh,
  text: string,
  names: Record<string, NamedField>,
  on: 'cells' | 'points',
): Float64Array {
  const { mesh } = input;
  const rows = on === 'cells' ? cellCount(mesh) : pointCount(mesh);
  return parseFormula(text).evaluate(rows, (name) => {
    if (LETTERS.includes(name)) return placeColumn(input, LETTERS.indexOf(name), on);
    if (name === 'id') return Float64Array.from({ length: rows }, (_, i) => i);
    if (name === 'part') return input.part;
    if (name === 'type') return on === 'cells' ? typeColumn(mesh) : 'point';
    const named = Object.hasOwn(names, name) ? names[name] : null;
    return named ? fieldColumn(input.field(named.need)!, named.component, mesh, on) : null;
  });
}

const typeColumn = (mesh: Mesh): Column =>
  Array.from(mesh.types, (id) => cellTypes.get(id)?.name ?? String(id));

function placeColumn({ mesh, origin }: FieldsOnMesh, k: number, on: 'cells' | 'points'): Column {
  const { points } = mesh;
  if (on === 'points')
    return Float64Array.from({ length: points.length / 3 }, (_, i) => points[3 * i + k] + origin[k]);
  const out = replay(pointsToCells(mesh), points, 3, k);
  return Float64Array.from(out, (v) => v + origin[k]);
}

/** One number for each point or cell from a field on either. */
export function fieldColumn(
  { data, components, location }: MeshField,
  component: number | 'magnitude',
  mesh: Mesh,
  on: 'cells' | 'points',
): ArrayLike<number> {
  const n = data.length / components;
  const values = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    if (component !== 'magnitude') values[i] = data[i * components + component];
    else {
      let squares = 0;
      for (let c = 0; c < components; c++) squares += data[i * components + c] ** 2;
      values[i] = Math.sqrt(squares);
    }
  }
  if ((location === 'cell') === (on === 'cells')) return values;
  return replay(on === 'cells' ? pointsToCells(mesh) : cellsToPoints(mesh), values, 1, 0);
}
