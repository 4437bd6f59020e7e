import { unitProduct } from '../../model/unit-products.ts';
import { convertUnit, inBaseUnits, shortUnit, unitChange } from '../../model/units.ts';
import { constant } from './expression.ts';
import { FormulaError } from './formula-error.ts';
import { type FormulaNode, isUnitTerm } from './formula-tree.ts';
import type { Argument, FormulaFunction, Kind } from './functions/formula-function.ts';
import { PURE, sayKind } from './functions/formula-function.ts';
import { formulaFunctions } from './functions/registry.ts';

/** A formula of which every piece is known to fit the others, with the conversions of units it needs. */
export type TypedNode = {
  kind: Kind;
  says: string;
  /** What is taken for granted because a unit is not known. */
  unsure?: string;
} & (
  | { does: 'constant'; value: number }
  | { does: 'text'; text: string }
  | { does: 'column'; name: string }
  | { does: 'component'; of: TypedNode; at: number }
  /** Another unit: times a factor, and shifted. */
  | { does: 'convert'; of: TypedNode; factor: number; shift: number }
  | { does: 'apply'; by: FormulaFunction; args: TypedNode[] }
  /** Whether texts are the same. */
  | { does: 'same text'; args: [TypedNode, TypedNode]; wanted: boolean }
);

/** What stands behind a name of a formula. */
export type NameKind = Pick<Kind, 'components' | 'unit'>;

const letters: Record<number, readonly string[]> = {
  3: ['x', 'y', 'z'],
  6: ['xx', 'yy', 'zz', 'xy', 'yz', 'xz', 'yx', 'zy', 'zx'],
  9: ['xx', 'xy', 'xz', 'yx', 'yy', 'yz', 'zx', 'zy', 'zz'],
};

/**
 * Checks that the pieces of a formula fit, and their units with them.
 *
 * @param kindOf what a name stands for; null for what has no name
 * @throws FormulaError saying which pieces do not fit, and what to write instead
 */
export function typedFormula(node: FormulaNode, kindOf: (name: string) => NameKind | null): TypedNode {
  const inner = (n: FormulaNode): TypedNode => typedFormula(n, kindOf);
  const { says } = node;
  if (node.kind === 'number')
    return { does: 'constant', value: node.value, kind: { ...PURE, bare: true, value: node.value }, says };
  if (node.kind === 'text') return { does: 'text', text: node.text, kind: { ...PURE, components: 0 }, says };
  if (node.kind === 'name') return named(node.name, says, kindOf);
  if (node.kind === 'component') return component(inner(node.of), node.letters, says);
  if (isUnitTerm(node, (name) => kindOf(name) !== null)) {
    const { value, unit } = measured(node);
    return { does: 'constant', value, kind: { components: 1, unit, bare: unit === '', value }, says };
  }
  const args = node.args.map(inner);
  if ((node.what === '==' || node.what === '!=') && args.every((a) => a.kind.components === 0)) {
    const [a, b] = args;
    return { does: 'same text', args: [a, b], wanted: node.what === '==', kind: PURE, says };
  }
  return applied(node.what, args, says);
}

function named(name: string, says: string, kindOf: (name: string) => NameKind | null): TypedNode {
  const found = kindOf(name);
  if (!found) throw new FormulaError(`"${name}" is not known here.`);
  return { does: 'column', name, kind: { ...found, bare: false }, says };
}

/** What numbers with units come to: `5 m/s`. */
function measured(node: FormulaNode): { value: number; unit: string | null } {
  if (node.kind === 'number') return { value: node.value, unit: '' };
  if (node.kind === 'name') return { value: 1, unit: node.name };
  if (node.kind !== 'apply') throw new FormulaError(`"${node.says}" is no number with a unit.`);
  const [a, b] = node.args.map(measured);
  if (node.what === 'minus') return { ...a, value: -a.value };
  if (node.what === '^') return { value: a.value ** b.value, unit: unitProduct([a.unit, b.value]) };
  const over = node.what === '/';
  return {
    value: over ? a.value / b.value : a.value * b.value,
    unit: unitProduct([a.unit, 1], [b.unit, over ? -1 : 1]),
  };
}

function component(of: TypedNode, wanted: string, says: string): TypedNode {
  const { components, unit } = of.kind;
  if (wanted === 'magnitude' || wanted === 'length') return applied('length', [of], says);
  const at = letters[components]?.indexOf(wanted) ?? -1;
  if (at < 0)
    throw new FormulaError(
      `"${of.says}" is ${sayKind(of.kind)} and has no .${wanted}${letters[components] ? `; it has .${letters[components].slice(0, components).join(' .')}` : ''}.`,
    );
  // The components of a symmetric tensor on the other side of its diagonal are the same.
  return {
    does: 'component',
    of,
    at: components === 6 && at > 5 ? at - 3 : at,
    kind: { components: 1, unit, bare: false },
    says,
    ...(of.unsure && { unsure: of.unsure }),
  };
}

const argument = ({ kind, says }: TypedNode): Argument => ({ ...kind, says });

function applied(what: string, given: TypedNode[], says: string): TypedNode {
  const by = formulaFunctions[what];
  const [least, most] = by.takes;
  if (given.length < least || given.length > most)
    throw new FormulaError(`"${by.written}" takes ${sayCount(least, most)}, not ${given.length}.`);
  const args = by.only ? given.map((a) => asNumber(a, by)) : given;
  const { kind, wanted = [] } = by.outcome(args.map(argument));
  const unsure = args.find((a) => a.unsure)?.unsure ?? unknownBeside(args);
  const typed: TypedNode = {
    does: 'apply',
    by,
    args: args.map((a, i) => inUnit(a, wanted[i] ?? null)),
    kind: { components: kind.components, unit: kind.unit, bare: kind.bare },
    says,
    ...(unsure && { unsure }),
  };
  return tidied(folded(typed));
}

/** What a number with a unit counts as beside what has none that is known. */
function unknownBeside(args: readonly TypedNode[]): string | undefined {
  const unknown = args.find((a) => a.kind.unit === null && a.kind.components > 0);
  const said = args.find((a) => a.does === 'constant' && a.kind.unit && !a.kind.bare);
  if (!unknown || said?.does !== 'constant') return undefined;
  return `the unit of ${unknown.says.replace(/[[\]]/g, '')} is not known, so ${said.says} counts as ${said.value}`;
}

/** Says a unit in a shorter way, and makes pure numbers of what has a unit only by the way it was written. */
function tidied(node: TypedNode): TypedNode {
  const { unit, bare } = node.kind;
  if (!unit || bare) return node;
  const bases = /[·/]/.test(unit) ? inBaseUnits(unit) : null;
  if (bases?.unit !== '') return { ...node, kind: { ...node.kind, unit: shortUnit(unit) } };
  return {
    does: 'convert',
    of: node,
    factor: bases.factor,
    shift: 0,
    kind: { ...node.kind, unit: '' },
    says: node.says,
    ...(node.unsure && { unsure: node.unsure }),
  };
}

const sayCount = (least: number, most: number): string =>
  least === most ? (least === 1 ? 'one' : String(least)) : `${least} to ${most}`;

function asNumber(a: TypedNode, by: FormulaFunction): TypedNode {
  const { components } = a.kind;
  if (components === 1 || components === 0) return a;
  if (components === 3 && by.only === 'lengths') return applied('length', [a], `length(${a.says})`);
  const instead =
    components === 3 ? `length(${a.says}) or ${a.says}.x` : `one of its components, as in ${a.says}.xx`;
  throw new FormulaError(
    `"${by.written}" takes numbers, and "${a.says}" is ${sayKind(a.kind)}: write ${instead}.`,
  );
}

function inUnit(of: TypedNode, wanted: string | null): TypedNode {
  const { unit, bare } = of.kind;
  if (wanted === null || unit === null || bare || unit === wanted || unit === '') return of;
  const change = unitChange(unit, wanted);
  if (!change) return of;
  const kind = { ...of.kind, unit: wanted };
  if (of.does === 'constant') {
    const value = convertUnit(of.value, unit, wanted)!;
    return { ...of, value, kind: { ...kind, value } };
  }
  return { does: 'convert', of, ...change, kind, says: of.says };
}

/** Numbers alone are worked out once. */
function folded(node: TypedNode): TypedNode {
  if (node.does !== 'apply' || node.kind.components !== 1) return node;
  if (!node.args.every((a) => a.does === 'constant')) return node;
  const [made] = node.by.code(node.args.map((a) => [constant((a as { value: number }).value)]));
  if (made.op !== 'constant') return node;
  const { value } = made;
  return { does: 'constant', value, kind: { ...node.kind, value }, says: node.says };
}
