import type {
  AccessorNode,
  ConstantNode,
  FunctionNode,
  MathNode,
  OperatorNode,
  ParenthesisNode,
  RelationalNode,
  SymbolNode,
} from 'mathjs';
import { create, parseDependencies } from 'mathjs/number';

/** Only the parser of the library: nothing it reads is ever evaluated by it. */
const { parse: parseMath } = create({ parseDependencies });

/** Values a formula works on: one number or one text for each row, or the same for all. */
export type Column = number | string | ArrayLike<number> | readonly string[];

/** A formula that is not understood: what, and where in its text. */
export class FormulaError extends Error {
  override readonly name = 'FormulaError';
}

const functions: Record<string, (...x: number[]) => number> = {
  abs: Math.abs,
  sqrt: Math.sqrt,
  exp: Math.exp,
  log: Math.log,
  sin: Math.sin,
  cos: Math.cos,
  tan: Math.tan,
  atan2: Math.atan2,
  min: Math.min,
  max: Math.max,
  floor: Math.floor,
  round: Math.round,
};

const truth = (b: boolean): number => (b ? 1 : 0);
const binary: Record<string, (a: never, b: never) => number> = {
  '+': (a: number, b: number) => a + b,
  '-': (a: number, b: number) => a - b,
  '*': (a: number, b: number) => a * b,
  '/': (a: number, b: number) => a / b,
  '%': (a: number, b: number) => a % b,
  '^': (a: number, b: number) => a ** b,
  '<': (a: number, b: number) => truth(a < b),
  '>': (a: number, b: number) => truth(a > b),
  '<=': (a: number, b: number) => truth(a <= b),
  '>=': (a: number, b: number) => truth(a >= b),
  '==': (a: unknown, b: unknown) => truth(a === b),
  '!=': (a: unknown, b: unknown) => truth(a !== b),
  and: (a: number, b: number) => truth(a !== 0 && b !== 0),
  or: (a: number, b: number) => truth(a !== 0 || b !== 0),
};

/**
 * A formula over rows of values: numbers, names, `+ - * / ^`, comparisons, `and or not`, brackets and a few functions.
 * Names with spaces stand in `[brackets]`, texts between quotation marks or backticks. Nothing of it is ever run as
 * code.
 */
export interface Formula {
  text: string;
  /** Names it uses, as they stand there. */
  names: string[];
  /**
   * @param rows how many rows there are
   * @param column gives the values of a name
   * @throws FormulaError for a name that has no values
   */
  evaluate(rows: number, column: (name: string) => Column | null): Float64Array;
}

/** @throws FormulaError saying what is not understood */
export function parseFormula(text: string): Formula {
  const tree = parse(text);
  const names = new Set<string>();
  check(tree, names);
  return {
    text,
    names: [...names],
    evaluate(rows, column) {
      const columns = new Map<string, Column>();
      for (const name of names) {
        const values = column(name);
        if (values === null) throw new FormulaError(`"${name}" is not known here.`);
        columns.set(name, values);
      }
      const value = compile(tree, columns);
      const out = new Float64Array(rows);
      for (let i = 0; i < rows; i++) out[i] = value(i) as number;
      return out;
    },
  };
}

/** Parts of a text that are not between quotation marks. */
const outsideQuotes = (text: string, change: (part: string) => string): string =>
  text.replace(/"[^"]*"|'[^']*'|[^"']+/g, (part) => (/^["']/.test(part) ? part : change(part)));

/** A formula as people write it in the words of the parser. */
function prepared(text: string): string {
  return outsideQuotes(text.replace(/“|”|`/g, '"'), (part) =>
    part
      // Names in brackets become one word that cannot be anything else; back to names in `nameOf`.
      .replace(/\[([^\]]+)\]/g, (_, name: string) => `name$${hex(name)}`)
      .replace(/≥/g, '>=')
      .replace(/≤/g, '<=')
      .replace(/≠/g, '!=')
      .replace(/(?<![<>=!])=(?!=)/g, '==')
      .replace(/!(?!=)/g, ' not '),
  );
}

function parse(text: string): MathNode {
  if (text.trim() === '')
    throw new FormulaError('There is no condition yet. Write one like "temperature > 200".');
  const ready = prepared(text);
  const doubled = /&&?|\|\|?/.exec(ready)?.[0];
  if (doubled) throw new FormulaError(`"${doubled}" is not understood; use "and" and "or".`);
  try {
    return parseMath(ready);
  } catch (error) {
    const { char, message } = error as { char?: number; message: string };
    const rest = char === undefined ? '' : ready.slice(char - 1, char + 11).trim();
    if (/operator ,/.test(message))
      throw new FormulaError('One condition is asked for; join several with "and" or "or".');
    throw new FormulaError(
      `Not understood${rest ? ` at "${rest}"` : ''}: ${message.replace(/ \(char \d+\)/, '')}.`,
    );
  }
}

const hex = (name: string): string =>
  [...new TextEncoder().encode(name)].map((b) => b.toString(16).padStart(2, '0')).join('');
const plainName = (name: string): string =>
  name.startsWith('name$')
    ? new TextDecoder().decode(
        Uint8Array.from(name.slice(5).match(/../g) ?? [], (h) => Number.parseInt(h, 16)),
      )
    : name;

/** `velocity.x` and plain names. */
function nameOf(node: MathNode): string | null {
  if (node.type === 'SymbolNode') return plainName((node as SymbolNode).name);
  if (node.type === 'AccessorNode') {
    const { object, index } = node as AccessorNode;
    const { dotNotation, getObjectProperty } = index as unknown as {
      dotNotation: boolean;
      getObjectProperty(): string;
    };
    if (!dotNotation || object.type !== 'SymbolNode') return null;
    return `${plainName((object as SymbolNode).name)}.${getObjectProperty.call(index)}`;
  }
  return null;
}

/** What stands in brackets counts as itself. */
const bare = (node: MathNode): MathNode =>
  node.type === 'ParenthesisNode' ? bare((node as ParenthesisNode).content) : node;

const relations: Record<string, string> = {
  smaller: '<',
  larger: '>',
  smallerEq: '<=',
  largerEq: '>=',
  equal: '==',
  unequal: '!=',
};

function check(given: MathNode, names: Set<string>): void {
  const node = bare(given);
  const name = nameOf(node);
  if (name !== null) {
    if (name !== 'pi') names.add(name);
    return;
  }
  switch (node.type) {
    case 'ConstantNode': {
      const { value } = node as ConstantNode;
      if (typeof value !== 'number' && typeof value !== 'string')
        throw new FormulaError(`"${String(value)}" is neither a number nor a text.`);
      return;
    }
    case 'OperatorNode': {
      const { op, args } = node as OperatorNode;
      const known = args.length === 1 ? ['-', '+', 'not'].includes(op) : Object.hasOwn(binary, op);
      if (!known) throw new FormulaError(`"${op}" is not understood; use "and" and "or".`);
      for (const a of args) check(a, names);
      return;
    }
    case 'RelationalNode':
      for (const p of (node as RelationalNode).params) check(p, names);
      return;
    case 'FunctionNode': {
      const { fn, args } = node as FunctionNode;
      const called = nameOf(fn as unknown as MathNode);
      if (called === null || !Object.hasOwn(functions, called))
        throw new FormulaError(
          `There is no function "${called ?? '?'}"; there are ${Object.keys(functions).join(', ')}.`,
        );
      for (const a of args) check(a, names);
      return;
    }
    default:
      throw new FormulaError('One condition is asked for; join several with "and" or "or".');
  }
}

type Value = (row: number) => number | string;

function compile(given: MathNode, columns: Map<string, Column>): Value {
  const node = bare(given);
  const name = nameOf(node);
  if (name === 'pi') return () => Math.PI;
  if (name !== null) {
    const column = columns.get(name)!;
    return typeof column === 'object' ? (i) => column[i] : () => column;
  }
  switch (node.type) {
    case 'ConstantNode': {
      const { value } = node as ConstantNode<number | string>;
      return () => value;
    }
    case 'OperatorNode': {
      const { op, args } = node as OperatorNode;
      const [a, b] = args.map((arg) => compile(arg, columns));
      if (b) {
        const f = binary[op] as (a: unknown, b: unknown) => number;
        return (i) => f(a(i), b(i));
      }
      if (op === '-') return (i) => -(a(i) as number);
      return op === '+' ? a : (i) => truth(a(i) === 0);
    }
    case 'RelationalNode': {
      // `1 < a < 3` holds where each of its parts does.
      const { params, conditionals } = node as RelationalNode & { conditionals: string[] };
      const values = params.map((p) => compile(p, columns));
      const tests = conditionals.map((c) => binary[relations[c]] as (a: unknown, b: unknown) => number);
      return (i) => truth(tests.every((test, k) => test(values[k](i), values[k + 1](i)) === 1));
    }
    default: {
      const { fn, args } = node as FunctionNode;
      const f = functions[nameOf(fn as unknown as MathNode)!];
      const values = args.map((g) => compile(g, columns));
      return (i) => f(...values.map((v) => v(i) as number));
    }
  }
}
