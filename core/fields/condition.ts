import { cellTypes } from '../model/cell-types.ts';
import type { MeshField } from '../model/field.ts';
import { likelyName } from '../model/likely-name.ts';
import { cellCount, type Mesh, pointCount } from '../model/mesh.ts';
import { nearestNames } from '../model/nearest-names.ts';
import { nameWithoutUnit } from '../model/quantity.ts';
import { replay, replayAll } from '../model/recipe.ts';
import { isUnit } from '../model/units.ts';
import { cellsToPoints, pointsToCells } from './averages.ts';
import type { FieldsOnMesh } from './fields-on-mesh.ts';
import { formulaKey, isNameless } from './formula/expanded-formula.ts';
import { type Column, type Formula, FormulaError, parseFormula } from './formula/parse-formula.ts';
import { setQuantity } from './sources/part-set.ts';
import type { FieldNeed } from './sources/quantity-source.ts';

const LETTERS = ['x', 'y', 'z'];

/** What a formula knows without a field: the place, and what tells points, cells and parts from each other. */
export const ownNames: readonly string[] = [...LETTERS, 'id', 'type', 'part'];

/** A field of the run under the name a formula uses. */
export interface NamedField {
  need: FieldNeed;
  unit: string | null;
}

/** A number that is the same everywhere, under the name a formula uses. */
export interface NamedNumber {
  /** Three of a vector. */
  value: number | readonly number[];
  unit: string | null;
}

/** What formulas may know of fields before their numbers are there. */
export type KnownField = { key: string; name: string; components: number; unit?: string | null };

/** The field that is meant by a name: by its key, its name, or the name it had before it was given another. */
export function fieldByName<F extends KnownField>(name: string, fields: readonly F[]): F | null {
  const wanted = name.toLowerCase();
  const is = (given: string): boolean => nameWithoutUnit(given).toLowerCase() === wanted;
  return (
    fields.find((f) => f.key === name) ??
    fields.find((f) => is(f.name) && !isNameless(f)) ??
    fields.find((f) => is(f.key.slice(f.key.indexOf(':') + 1)) && !isNameless(f)) ??
    null
  );
}

const long = new WeakMap<readonly KnownField[], string[]>();

/** Names that formulas may use without brackets though they are more than one word. */
export function namesToKnow(fields: readonly KnownField[]): readonly string[] {
  const known = long.get(fields);
  if (known) return known;
  const named = fields.filter((f) => !isNameless(f));
  const names = named.map((f) => nameWithoutUnit(f.name)).filter((name) => /\s/.test(name));
  long.set(fields, names);
  return names;
}

/** The key of a quantity that a formula makes of others; see `quantityFunctions`. */
export function madeKey(name: string, formula: Formula, fields: readonly KnownField[]): string | null {
  const made = formula.made.get(name);
  if (!made) return null;
  if (made.ofName) return `${made.prefix}:${made.text}`;
  const of = made.of === null ? null : fieldByName(made.of, fields);
  const key = of?.key ?? formulaKey(made.text);
  return [made.prefix, ...(made.leading === undefined ? [] : [made.leading]), key].join(':');
}

/**
 * What the names of a condition stand for. `x y z` is the place (of a cell: the mean of its nodes), `id` the number
 * of the point or cell, `type` the type of the cell, `part` the name of the part; everything else is a field by its
 * name, and `[tins]` also a part set, 1 inside and 0 outside.
 *
 * @throws FormulaError for a name that is none of these, and for pieces that do not fit each other
 */
export function fieldsOfCondition(
  condition: string,
  fields: readonly KnownField[],
  sets: readonly string[],
): Map<string, NamedField> {
  const formula = parseFormula(condition, namesToKnow(fields));
  const out = new Map<string, NamedField>();
  const meant = (name: string): KnownField | null => {
    const key = madeKey(name, formula, fields);
    if (key !== null) return fields.find((f) => f.key === key) ?? null;
    return fieldByName(name, fields) ?? setField(name, sets);
  };
  const known = (name: string): boolean => ownNames.includes(name) || meant(name) !== null;
  for (const name of formula.namesBeside(known)) {
    if (ownNames.includes(name)) continue;
    const field = meant(name);
    if (!field) throw new FormulaError(unknownName(name, formula, [...fields.map((f) => f.name), ...sets]));
    out.set(name, { need: { field: field.key }, unit: field.unit ?? null });
  }
  formula.typed((name) => ownKind(name, null) ?? kindOfField(meant(name)));
  return out;
}

/** What a name is before its numbers are there. */
export const kindOfField = (field: KnownField | null): { components: number; unit: string | null } | null =>
  field && { components: shapeOf(field.components), unit: field.unit ?? null };

/** A pair counts as a vector; of what is neither a vector nor a tensor, the first number counts. */
const shapeOf = (components: number): number =>
  components === 2 ? 3 : [1, 3, 6, 9].includes(components) ? components : 1;

/** What the names are that need no field. */
export function ownKind(name: string, lengthUnit: string | null) {
  if (LETTERS.includes(name)) return { components: 1, unit: lengthUnit };
  if (name === 'id') return { components: 1, unit: '' };
  return name === 'type' || name === 'part' ? { components: 0, unit: '' } : null;
}

const setField = (name: string, sets: readonly string[]): KnownField | null => {
  const set = sets.find((s) => s.toLowerCase() === name.toLowerCase());
  return set === undefined ? null : { key: setQuantity(set), name: set, components: 1, unit: '' };
};

/** Says that a name is not known, and which one may be meant. */
export function unknownName(name: string, formula: Formula, others: readonly string[]): string {
  if (formula.made.has(name) || formula.measured.has(name))
    return `"${name}" cannot be had within a condition; make it a quantity of its own and use its name.`;
  if (isUnit(name))
    return `"${name}" is a unit and stands behind no number here: put numbers with their units in brackets, as in a / (2 m/s).`;
  const all = [...others, ...ownNames];
  const likely = likelyName(name, all) ?? nearestNames(name, all)[0];
  const meant = likely ? `; "${likely}" may be meant` : '';
  return `"${name}" is not known here${meant}. Known are ${all.slice(0, 12).join(', ')}.`;
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
): ArrayLike<number> {
  const { mesh } = input;
  const rows = on === 'cells' ? cellCount(mesh) : pointCount(mesh);
  const lacking = Object.values(names).some(({ need }) => input.field(need) === null);
  if (lacking) return new Uint8Array(rows);
  const values = formulaOn(input, text, names, on);
  // What is not a number holds nowhere.
  return values.map((v) => (Number.isNaN(v) ? 0 : v));
}

/** What a formula may know beside fields. */
export interface FormulaSetting {
  lengthUnit: string | null;
  numbers: Record<string, NamedNumber>;
}

/** The values of a formula at each point or cell of a mesh that has all it reads. */
export function formulaOn(
  input: FieldsOnMesh,
  text: string,
  names: Record<string, NamedField>,
  on: 'cells' | 'points',
  { lengthUnit, numbers }: FormulaSetting = { lengthUnit: null, numbers: {} },
): Float32Array {
  const { mesh } = input;
  const rows = on === 'cells' ? cellCount(mesh) : pointCount(mesh);
  const column = (name: string): Column | null => {
    if (Object.hasOwn(names, name)) return wholeColumn(input.field(names[name].need)!, mesh, on);
    if (Object.hasOwn(numbers, name)) return sameInRows(numbers[name].value, rows);
    if (LETTERS.includes(name)) return placeColumn(input, LETTERS.indexOf(name), on);
    if (name === 'id') return Float64Array.from({ length: rows }, (_, i) => i);
    if (name === 'part') return input.part;
    if (name === 'type') return on === 'cells' ? typeColumn(mesh) : 'point';
    return null;
  };
  const unitOf = (name: string): string | null =>
    Object.hasOwn(names, name)
      ? names[name].unit
      : Object.hasOwn(numbers, name)
        ? numbers[name].unit
        : (ownKind(name, lengthUnit)?.unit ?? null);
  return parseFormula(text, Object.keys(names)).evaluate(rows, column, unitOf);
}

const sameInRows = (value: NamedNumber['value'], rows: number): Column =>
  typeof value === 'number'
    ? value
    : {
        components: value.length,
        data: Float64Array.from({ length: rows * value.length }, (_, i) => value[i % value.length]),
      };

const typeColumn = (mesh: Mesh): Column =>
  Array.from(mesh.types, (id) => cellTypes.get(id)?.name ?? String(id));

function placeColumn({ mesh, origin }: FieldsOnMesh, k: number, on: 'cells' | 'points'): Column {
  const { points } = mesh;
  if (on === 'points')
    return Float64Array.from({ length: points.length / 3 }, (_, i) => points[3 * i + k] + origin[k]);
  const out = replay(pointsToCells(mesh), points, 3, k);
  return Float64Array.from(out, (v) => v + origin[k]);
}

/** All components of a field at each point or cell. */
function wholeColumn(field: MeshField, mesh: Mesh, on: 'cells' | 'points'): Column {
  const { data, components, location } = field;
  if (components > 1 && shapeOf(components) === 1) return fieldColumn(field, 0, mesh, on);
  if ((location === 'cell') === (on === 'cells')) return { data, components };
  const gather = on === 'cells' ? pointsToCells(mesh) : cellsToPoints(mesh);
  return { data: replayAll(gather, data, components), components };
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
