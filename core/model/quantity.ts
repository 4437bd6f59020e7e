import type { FieldLocation } from './field.ts';
import type { FieldRole } from './roles.ts';
import type { RunField } from './run.ts';
import type { Statistics } from './statistics.ts';

/** A component of a field, counted from 0, or the length of a vector. */
export type Component = number | 'magnitude';

/** A quantity of the run as sentences name it. */
export interface Quantity {
  field: string;
  component: Component;
  name: string;
  unit: string | null;
  components: number;
  location: FieldLocation;
  /** What it seems to mean for the job. */
  role: FieldRole;
  /** Over all steps. */
  low: number;
  high: number;
  mean: number;
}

type NamedField = Pick<RunField, 'name' | 'components'> & Partial<Pick<RunField, 'tensor' | 'role'>>;

const vectorLetters = ['x', 'y', 'z'];
const tensorLetters = ['xx', 'yy', 'zz', 'xy', 'yz', 'xz'];

/** A name as files give it, without the unit that stands behind it in brackets: `T` for `T [K]`. */
export const nameWithoutUnit = (name: string): string => name.replace(/\s*\[[^\]]*\]\s*$/, '');

/** A name with its unit behind it, as heads of columns have it: `fan [rpm]`. */
export const nameWithUnit = ({ name, unit }: { name: string; unit: string | null }): string =>
  unit ? `${name} [${unit}]` : name;

/** `velocity`, `velocity x`, `stress xy`; the length of a vector goes by the vector's own name. */
export function quantityName(field: NamedField, component: Component): string {
  const plain = nameWithoutUnit(field.name);
  if (component === 'magnitude' || field.components === 1) return plain;
  return `${plain} ${componentName(field, component)}`;
}

/**
 * Letters for vectors and tensors, numbers from 1 for everything else. Six components are those of a tensor where the
 * file says so, or where they are stresses or strains, which the formats all write in this order.
 */
export function componentName({ components, tensor, role }: NamedField, component: Component): string {
  if (component === 'magnitude') return 'magnitude';
  if (components <= 3) return vectorLetters[component];
  if (components === 9) return ['xx', 'xy', 'xz', 'yx', 'yy', 'yz', 'zx', 'zy', 'zz'][component];
  const six = components === 6 && (tensor || role === 'stress' || role === 'strain');
  return six ? tensorLetters[component] : String(component + 1);
}

export const quantityKey = (field: string, component: Component): string => `${field}#${component}`;

export function parseQuantity(quantity: string): { field: string; component: Component } {
  const at = quantity.lastIndexOf('#');
  const tail = quantity.slice(at + 1);
  return { field: quantity.slice(0, at), component: tail === 'magnitude' ? 'magnitude' : Number(tail) };
}

/** The components a field can be coloured by, the natural one first. */
export function componentsOf(field: Pick<RunField, 'components'>): Component[] {
  const each = Array.from({ length: field.components }, (_, i) => i);
  if (field.components === 1) return [0];
  return field.components <= 3 ? ['magnitude', ...each] : each;
}

/** Statistics of a quantity over all steps, or of one step. */
export function quantityStatistics(
  field: RunField,
  component: Component,
  step: number | null,
): Statistics | null {
  const stats = step === null ? field.overall : field.perStep[step];
  if (!stats) return null;
  return component === 'magnitude'
    ? (stats.magnitude ?? stats.components[0])
    : (stats.components[component] ?? null);
}
