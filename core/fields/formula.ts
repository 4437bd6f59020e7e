import jsep from 'jsep';

jsep.addBinaryOp('and', 2);
jsep.addBinaryOp('or', 1);
jsep.addBinaryOp('^', 11, true);
jsep.addBinaryOp('=', 6);
jsep.addBinaryOp('≥', 7);
jsep.addBinaryOp('≤', 7);
jsep.addBinaryOp('≠', 6);
jsep.addUnaryOp('not');

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
  '≤': (a: number, b: number) => truth(a <= b),
  '≥': (a: number, b: number) => truth(a >= b),
  '=': (a: unknown, b: unknown) => truth(a === b),
  '==': (a: unknown, b: unknown) => truth(a === b),
  '!=': (a: unknown, b: unknown) => truth(a !== b),
  '≠': (a: unknown, b: unknown) => truth(a !== b),
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

function parse(text: string): jsep.Expression {
  if (text.trim() === '')
    throw new FormulaError('There is no condition yet. Write one like "temperature > 200".');
  // Names in brackets become one word that cannot be anything else; back to names in `check` and `compile`.
  const prepared = text
    .replace(/“|”|`/g, '"')
    .replace(/\[([^\]]+)\]/g, (_, name: string) => `name$${hex(name)}`);
  try {
    return jsep(prepared);
  } catch (error) {
    const { description, index } = error as { description?: string; index?: number };
    throw new FormulaError(
      `Not understood${index === undefined ? '' : ` at "${prepared.slice(index, index + 12)}"`}: ${description ?? (error as Error).message}.`,
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
function nameOf(node: jsep.Expression): string | null {
  if (node.type === 'Identifier') return plainName((node as jsep.Identifier).name);
  if (node.type === 'MemberExpression') {
    const { object, property, computed } = node as jsep.MemberExpression;
    if (computed || object.type !== 'Identifier' || property.type !== 'Identifier') return null;
    return `${plainName((object as jsep.Identifier).name)}.${(property as jsep.Identifier).name}`;
  }
  return null;
}

function check(node: jsep.Expression, names: Set<string>): void {
  const name = nameOf(node);
  if (name !== null) {
    if (name !== 'pi') names.add(name);
    return;
  }
  switch (node.type) {
    case 'Literal': {
      const { value } = node as jsep.Literal;
      if (typeof value !== 'number' && typeof value !== 'string')
        throw new FormulaError(`"${String(value)}" is neither a number nor a text.`);
      return;
    }
    case 'UnaryExpression': {
      const { operator, argument } = node as jsep.UnaryExpression;
      if (!['-', '+', 'not', '!'].includes(operator))
        throw new FormulaError(`"${operator}" is not understood.`);
      check(argument, names);
      return;
    }
    case 'BinaryExpression': {
      const { operator, left, right } = node as jsep.BinaryExpression;
      if (!(operator in binary))
        throw new FormulaError(`"${operator}" is not understood; use "and" and "or".`);
      check(left, names);
      check(right, names);
      return;
    }
    case 'CallExpression': {
      const { callee, arguments: given } = node as jsep.CallExpression;
      const called = nameOf(callee);
      if (called === null || !Object.hasOwn(functions, called))
        throw new FormulaError(
          `There is no function "${called ?? '?'}"; there are ${Object.keys(functions).join(', ')}.`,
        );
      for (const g of given) check(g, names);
      return;
    }
    default:
      throw new FormulaError('One condition is asked for; join several with "and" or "or".');
  }
}

type Value = (row: number) => number | string;

function compile(node: jsep.Expression, columns: Map<string, Column>): Value {
  const name = nameOf(node);
  if (name === 'pi') return () => Math.PI;
  if (name !== null) {
    const column = columns.get(name)!;
    return typeof column === 'object' ? (i) => column[i] : () => column;
  }
  switch (node.type) {
    case 'Literal': {
      const value = (node as jsep.Literal).value as number | string;
      return () => value;
    }
    case 'UnaryExpression': {
      const { operator, argument } = node as jsep.UnaryExpression;
      const a = compile(argument, columns);
      if (operator === '-') return (i) => -(a(i) as number);
      if (operator === '+') return a;
      return (i) => truth(a(i) === 0);
    }
    case 'BinaryExpression': {
      const { operator, left, right } = node as jsep.BinaryExpression;
      const a = compile(left, columns);
      const b = compile(right, columns);
      const f = binary[operator] as (a: unknown, b: unknown) => number;
      return (i) => f(a(i), b(i));
    }
    default: {
      const { callee, arguments: given } = node as jsep.CallExpression;
      const f = functions[nameOf(callee)!];
      const values = given.map((g) => compile(g, columns));
      return (i) => f(...values.map((v) => v(i) as number));
    }
  }
}
