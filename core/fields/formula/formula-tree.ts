import type {
  AccessorNode,
  ConditionalNode,
  ConstantNode,
  FunctionNode,
  MathNode,
  OperatorNode,
  ParenthesisNode,
  RelationalNode,
  SymbolNode,
} from 'mathjs';
import { create, parseDependencies } from 'mathjs/number';
import { byName } from '../../model/by-name.ts';
import { literalPattern } from '../../model/literal-pattern.ts';
import { QUOTED } from '../../model/quoted-text.ts';
import { isUnit } from '../../model/units.ts';
import { FormulaError } from './formula-error.ts';
import { formulaFunctions } from './functions/registry.ts';
import { quantityFunctions } from './quantity-functions.ts';

/** Only the parser of the library: nothing it reads is ever evaluated by it. */
const { parse: parseMath } = create({ parseDependencies });

/** A formula as a tree of our own. `says` is the piece of text it stands for. */
export type FormulaNode = { says: string } & (
  | { kind: 'number'; value: number }
  | { kind: 'text'; text: string }
  /** Of something measured or stored, by its name or by how it is made. */
  | { kind: 'name'; name: string }
  | { kind: 'component'; letters: string; of: FormulaNode }
  | { kind: 'apply'; what: string; args: FormulaNode[] }
);

/** A quantity that is made of what stands in brackets: `gradient(T * 2)`. */
export interface MadeName {
  /** How its key begins. */
  prefix: string;
  /** The name it is made of, where it is one; else null. */
  of: string | null;
  /** What stands in its brackets. */
  text: string;
  /** What stands in its brackets is no quantity, but the name of something else. */
  ofName?: true;
  /** What stands before the quantity in the key: the run or the step it is of, where that is another one. */
  leading?: string;
}

export interface ParsedFormula {
  tree: FormulaNode;
  names: Set<string>;
  /** Of the names, those that quantities are made of first. */
  made: Map<string, MadeName>;
  /** Of the names, numbers that are measured: the sentences that ask for them. */
  measured: Map<string, string>;
}

/** Parts of a text that are not between quotation marks. */
const outsideQuotes = (text: string, change: (part: string) => string): string =>
  text.replace(new RegExp(`${QUOTED}|'[^']*'|[^"']+|["']`, 'g'), (part) =>
    /^["']./.test(part) ? part : change(part),
  );

const hex = (name: string): string =>
  [...new TextEncoder().encode(name)].map((b) => b.toString(16).padStart(2, '0')).join('');
const asOneWord = (name: string): string => `name$${hex(name)}`;
const plainName = (name: string): string =>
  name.startsWith('name$')
    ? new TextDecoder().decode(
        Uint8Array.from(name.slice(5).match(/../g) ?? [], (h) => Number.parseInt(h, 16)),
      )
    : name;

const ONE_WORD = /^[\p{L}_$][\p{L}\p{N}_$]*$/u;
/** Words of the parser, which a name can only be in brackets. */
const TAKEN = /^(?:and|or|not|xor|mod|to|in|true|false|null|undefined|NaN|Infinity)$/;
const SIGNED_UNIT = /(?<=[\d\s.])(?:°C|°F|°|µm|µs|µT|%(?!\s*[\p{L}\p{N}(.[]))(?![\p{L}\p{N}])/gu;

/** A name as it can stand in a formula: in brackets when it is more than one word. */
export const inFormula = (name: string): string =>
  ONE_WORD.test(name) && !TAKEN.test(name) && !Object.hasOwn(formulaFunctions, name) ? name : `[${name}]`;

const patterns = new WeakMap<readonly string[], RegExp | null>();

/** Finds names of more than one word, the longest first. */
function longNames(names: readonly string[]): RegExp | null {
  const known = patterns.get(names);
  if (known !== undefined) return known;
  const long = names.filter((n) => n !== '' && !ONE_WORD.test(n)).sort((a, b) => b.length - a.length);
  const pattern =
    long.length > 0
      ? new RegExp(
          `(?<![\\p{L}\\p{N}_.])(?:${long.map(literalPattern).join('|')})(?![\\p{L}\\p{N}_(])`,
          'giu',
        )
      : null;
  patterns.set(names, pattern);
  return pattern;
}

/** A formula as people write it in the words of the parser. */
function prepared(text: string, names: readonly string[]): string {
  const long = longNames(names);
  const quoted = outsideQuotes(text, (part) => part.replace(/“|”|`/g, '"'));
  return outsideQuotes(quoted, (part) =>
    part
      // Names in brackets become one word that cannot be anything else; back to names in `nameOf`.
      .replace(/\[([^\]]+)\]/g, (_, name: string) => asOneWord(name))
      .split(/(name\$[0-9a-f]+)/)
      .map((piece, i) => (i % 2 === 1 || !long ? piece : piece.replace(long, asOneWord)))
      .join('')
      .replace(SIGNED_UNIT, asOneWord)
      .replace(/≥/g, '>=')
      .replace(/≤/g, '<=')
      .replace(/≠/g, '!=')
      .replace(/[·×]/g, '*')
      .replace(/−/g, '-')
      .replace(/([²³])/g, (_, c: string) => (c === '²' ? '^2' : '^3'))
      .replace(/(?<![<>=!])=(?!=)/g, '==')
      .replace(/!(?!=)/g, ' not '),
  );
}

/**
 * @param names that may stand without brackets though they are more than one word
 * @throws FormulaError saying what is not understood
 */
export function formulaTree(text: string, names: readonly string[] = []): ParsedFormula {
  if (text.trim() === '')
    throw new FormulaError('Nothing stands here yet. Write something like "temperature > 200".');
  const ready = prepared(text, names);
  const doubled = /&&?|\|\|?/.exec(ready)?.[0];
  if (doubled) throw new FormulaError(`"${doubled}" is not understood; use "and" and "or".`);
  const parsed: ParsedFormula = {
    tree: { kind: 'number', value: 0, says: '' },
    names: new Set(),
    made: new Map(),
    measured: new Map(),
  };
  parsed.tree = ours(parseReady(ready), parsed);
  return parsed;
}

function parseReady(ready: string): MathNode {
  try {
    return parseMath(ready);
  } catch (error) {
    const { char, message } = error as { char?: number; message: string };
    const rest =
      char === undefined
        ? ''
        : restored(ready.slice(char - 1))
            .slice(0, 12)
            .trim();
    if (/operator ,/.test(message)) throw new FormulaError(ONE_ASKED);
    throw new FormulaError(
      `Not understood${rest ? ` at "${rest}"` : ''}: ${restored(message).replace(/ \(char \d+\)/, '')}.`,
    );
  }
}

const ONE_ASKED = 'One formula is asked for; join several conditions with "and" or "or".';

const restored = (text: string): string =>
  text.replace(/name\$[0-9a-f]+/g, (word) => inFormula(plainName(word)));

/** What stands in brackets counts as itself. */
const bare = (node: MathNode): MathNode =>
  node.type === 'ParenthesisNode' ? bare((node as ParenthesisNode).content) : node;

/** `.x` and the like: a name behind a dot. */
function letterOf(node: AccessorNode): string | null {
  const index = node.index as unknown as { dotNotation: boolean; getObjectProperty(): string };
  return index.dotNotation ? index.getObjectProperty.call(index) : null;
}

/** What is not there: left out of means, extremes and pictures. */
const fixedNumbers = byName({ pi: Math.PI, none: Number.NaN });

const LETTERS = /^(?:[xyz]{1,2}|magnitude|length)$/;

const relations: Record<string, string> = {
  smaller: '<',
  larger: '>',
  smallerEq: '<=',
  largerEq: '>=',
  equal: '==',
  unequal: '!=',
};

const operators = new Set(['+', '-', '*', '/', '%', '^', '<', '>', '<=', '>=', '==', '!=', 'and', 'or']);
const signs: Record<string, string> = { '-': 'minus', '+': 'plus', not: 'not' };

/** A node of the library as one of ours; notes the names it meets. */
function ours(given: MathNode, parsed: ParsedFormula): FormulaNode {
  const node = bare(given);
  const says = restored(node.toString()).replaceAll('==', '=');
  const all = (nodes: MathNode[]): FormulaNode[] => nodes.map((n) => ours(n, parsed));
  const apply = (what: string, args: MathNode[]): FormulaNode => ({
    kind: 'apply',
    what,
    args: all(args),
    says,
  });
  switch (node.type) {
    case 'SymbolNode': {
      const name = plainName((node as SymbolNode).name);
      if (name in fixedNumbers) return { kind: 'number', value: fixedNumbers[name], says };
      parsed.names.add(name);
      return { kind: 'name', name, says };
    }
    case 'AccessorNode': {
      const { object } = node as AccessorNode;
      const letters = letterOf(node as AccessorNode);
      if (letters === null || !LETTERS.test(letters))
        throw new FormulaError(
          `"${says}" is not understood; parts of a vector are .x .y .z, of a tensor .xx .xy and so on.`,
        );
      return { kind: 'component', letters, of: ours(object, parsed), says };
    }
    case 'ConstantNode': {
      const { value } = node as ConstantNode;
      if (typeof value === 'number') return { kind: 'number', value, says };
      if (typeof value === 'string') return { kind: 'text', text: value, says };
      throw new FormulaError(`"${String(value)}" is neither a number nor a text.`);
    }
    case 'OperatorNode': {
      const { op, args } = node as OperatorNode;
      if (args.length === 1 && Object.hasOwn(signs, op)) return apply(signs[op], args);
      if (args.length === 2 && operators.has(op)) return apply(op, args);
      throw new FormulaError(`"${op}" is not understood; use "and" and "or".`);
    }
    case 'RelationalNode': {
      // `1 < a < 3` holds where each of its parts does.
      const { params, conditionals } = node as RelationalNode & { conditionals: string[] };
      const values = all(params);
      return conditionals
        .map(
          (c, i): FormulaNode => ({
            kind: 'apply',
            what: relations[c],
            args: [values[i], values[i + 1]],
            says,
          }),
        )
        .reduce((a, b) => ({ kind: 'apply', what: 'and', args: [a, b], says }));
    }
    case 'ConditionalNode': {
      const { condition, trueExpr, falseExpr } = node as ConditionalNode;
      return apply('if', [condition, trueExpr, falseExpr]);
    }
    case 'FunctionNode':
      return called(node as FunctionNode, says, parsed);
    default:
      throw new FormulaError(ONE_ASKED);
  }
}

function called({ fn, args }: FunctionNode, says: string, parsed: ParsedFormula): FormulaNode {
  const symbol = fn as unknown as MathNode;
  const what = symbol.type === 'SymbolNode' ? plainName((symbol as SymbolNode).name) : '?';
  if (what === MEASURED) return measured(args, parsed);
  if (Object.hasOwn(quantityFunctions, what)) {
    parsed.names.add(says);
    parsed.made.set(says, madeName(what, args, parsed));
    return { kind: 'name', name: says, says };
  }
  if (!Object.hasOwn(formulaFunctions, what))
    throw new FormulaError(
      `There is no function "${what}"; there are ${[...Object.keys(formulaFunctions), ...Object.keys(quantityFunctions), MEASURED].filter((f) => /^\w+$/.test(f)).join(', ')}.`,
    );
  return { kind: 'apply', what, args: args.map((a) => ours(a, parsed)), says };
}

/** What a function makes of a quantity: `gradient(T)`, `in_run("fan slow", T)`, `at_step(5, T)`, `distance("tins")`. */
function madeName(what: string, args: MathNode[], parsed: ParsedFormula): MadeName {
  const { prefix, takes } = quantityFunctions[what];
  const [first] = args.map((a) => (bare(a) as ConstantNode).value as unknown);
  switch (takes) {
    case undefined:
      if (args.length !== 1) throw new FormulaError(`"${what}" takes one quantity, not ${args.length}.`);
      return { prefix, ...quantityIn(args[0], parsed) };
    case 'part':
      if (args.length !== 1 || typeof first !== 'string')
        throw new FormulaError(`"${what}" takes a name between quotation marks, as in ${what}("tins").`);
      return { prefix, of: null, text: first, ofName: true };
    case 'run':
      if (args.length !== 2 || typeof first !== 'string')
        throw new FormulaError(
          `"${what}" takes the name of a run between quotation marks, and a quantity, as in ${what}("fan slow", T).`,
        );
      break;
    case 'step':
      if (args.length !== 2 || !Number.isInteger(first) || Number(first) < 1)
        throw new FormulaError(
          `"${what}" takes the number of a step, from 1, and a quantity, as in ${what}(5, T).`,
        );
  }
  return { prefix, ...quantityIn(args[1], parsed), leading: encodeURIComponent(String(first)) };
}

/** What stands for a quantity in brackets: by its name where it is one, and as a formula. */
function quantityIn(given: MathNode, parsed: ParsedFormula): Pick<MadeName, 'of' | 'text'> {
  const inner = bare(given);
  // Says what is wrong within it here already.
  ours(inner, { ...parsed, names: new Set(), made: new Map(), measured: new Map() });
  const of = inner.type === 'SymbolNode' ? plainName((inner as SymbolNode).name) : null;
  return { of, text: restored(inner.toString()) };
}

/** Asks for a number of the run by a sentence: `measured("average of T over everything")`. */
export const MEASURED = 'measured';

function measured(args: MathNode[], parsed: ParsedFormula): FormulaNode {
  const sentence = args.length === 1 ? (bare(args[0]) as ConstantNode).value : null;
  if (typeof sentence !== 'string')
    throw new FormulaError(
      `"${MEASURED}" takes a sentence between quotation marks, as in ${MEASURED}("average of T over everything").`,
    );
  const name = `${MEASURED}(${JSON.stringify(sentence)})`;
  parsed.names.add(name);
  parsed.measured.set(name, sentence);
  return { kind: 'name', name, says: name };
}

/**
 * A name that only says the unit of the numbers before it, as in `2 bar`, `0.5 m/s`. What it says where something has that name is
 * for others to decide.
 */
export function isUnitTerm(node: FormulaNode, known: (name: string) => boolean): boolean {
  const pieces = (n: FormulaNode): boolean => {
    if (n.kind === 'number') return true;
    if (n.kind === 'name') return isUnit(n.name) && !known(n.name);
    if (n.kind !== 'apply') return false;
    if (n.what === 'minus') return pieces(n.args[0]);
    if (n.what === '^') return pieces(n.args[0]) && n.args[1].kind === 'number';
    return (n.what === '*' || n.what === '/') && n.args.every(pieces);
  };
  return pieces(node) && firstOf(node).kind === 'number';
}

const firstOf = (node: FormulaNode): FormulaNode => (node.kind === 'apply' ? firstOf(node.args[0]) : node);
