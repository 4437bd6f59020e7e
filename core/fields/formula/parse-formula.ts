import type { Column } from './column.ts';
import { evaluateFormula } from './evaluate-formula.ts';
import { FormulaError } from './formula-error.ts';
import { type FormulaNode, formulaTree, isUnitTerm, type MadeName } from './formula-tree.ts';
import { type NameKind, type TypedNode, typedFormula } from './typed-formula.ts';

export type { Column } from './column.ts';
export { FormulaError } from './formula-error.ts';

/**
 * A formula over rows of values: numbers with or without units, names, `+ - * / % ^`, comparisons, `and or not`, `if`,
 * brackets and functions of numbers, vectors and tensors. Names that are more than one word stand in `[brackets]` where they
 * are not told beforehand, texts between quotation marks or backticks. Nothing of it is ever run as code.
 */
export interface Formula {
  text: string;
  /** Names it uses, as they stand there; units of numbers are not among them. */
  namesBeside(known: (name: string) => boolean): string[];
  /** Of its names, quantities that are made of others by looking at more than one place. */
  made: ReadonlyMap<string, MadeName>;
  /** Of its names, numbers that are measured: the sentences that ask for them. */
  measured: ReadonlyMap<string, string>;
  /** @throws FormulaError where pieces or units do not fit */
  typed(kindOf: (name: string) => NameKind | null): TypedNode;
  /**
   * @param rows how many rows there are
   * @param column gives the values of a name
   * @param unitOf gives its unit; null where it is not known
   * @throws FormulaError for a name that has no values, and where pieces do not fit
   */
  evaluate(
    rows: number,
    column: (name: string) => Column | null,
    unitOf?: (name: string) => string | null,
  ): Float32Array;
}

/**
 * @param names that may stand without brackets though they are more than one word
 * @throws FormulaError saying what is not understood
 */
export function parseFormula(text: string, names: readonly string[] = []): Formula {
  const { tree, made, measured } = formulaTree(text, names);
  return {
    text,
    made,
    measured,
    namesBeside: (known) => [...new Set(namesIn(tree, known))],
    typed: (kindOf) => typedFormula(tree, kindOf),
    evaluate(rows, column, unitOf = () => null) {
      const columns = new Map<string, Column | null>();
      const columnOf = (name: string): Column | null => {
        if (!columns.has(name)) columns.set(name, column(name));
        return columns.get(name)!;
      };
      const typed = typedFormula(tree, (name) => {
        const values = columnOf(name);
        return values === null ? null : { components: shapeOf(values), unit: unitOf(name) };
      });
      return evaluateFormula(typed, rows, (name) => columnOf(name)!);
    },
  };
}

function namesIn(node: FormulaNode, known: (name: string) => boolean): string[] {
  if (node.kind === 'name') return [node.name];
  if (node.kind === 'component') return namesIn(node.of, known);
  if (node.kind !== 'apply' || isUnitTerm(node, known)) return [];
  return node.args.flatMap((a) => namesIn(a, known));
}

/** How many components the rows of a column have, as formulas count them; see `Kind`. */
export function shapeOf(column: Column): number {
  if (typeof column === 'string') return 0;
  if (typeof column === 'number') return 1;
  if ('data' in column) return shapeOfComponents(column.components);
  return typeof column[0] === 'string' ? 0 : 1;
}

/** @throws FormulaError for what is neither number, vector nor tensor */
export function shapeOfComponents(components: number): number {
  if (components === 2) return 3;
  if ([1, 3, 6, 9].includes(components)) return components;
  throw new FormulaError(
    `What has ${components} numbers to a place is neither a number, a vector nor a tensor.`,
  );
}
