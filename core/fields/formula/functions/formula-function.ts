import { unitChange } from '../../../model/units.ts';
import type { Expression } from '../expression.ts';
import { FormulaError } from '../formula-error.ts';

/** What a piece of a formula is, before anything is computed. */
export interface Kind {
  /** 1 for a number, 3 for a vector, 6 for a symmetric tensor (xx yy zz xy yz xz), 9 for any (row by row), 0 for a text. */
  components: number;
  /** Empty for a pure number; null where it is not known. */
  unit: string | null;
  /** Numbers that stand in the formula itself: they are in the unit of whatever they meet. */
  bare: boolean;
  /** What it is, where it is the same everywhere. */
  value?: number;
}

/** A piece that a function is given, with its text for those who read what is wrong. */
export interface Argument extends Kind {
  says: string;
}

/** What comes out, and what has to be done with the arguments first. */
export interface Outcome {
  kind: Kind;
  /** Units the arguments are wanted in; null leaves one as it is. */
  wanted?: readonly (string | null)[];
}

export type Components = readonly Expression[];

/** A function or a sign of a formula: what it takes and gives, and how it is worked out. */
export interface FormulaFunction {
  /** How it is written, for who completes a formula: `max(a, b, …)`. */
  written: string;
  /** What it is, in words. */
  says: string;
  /** How many arguments it takes. */
  takes: readonly [least: number, most: number];
  /** Whether vectors are refused, or count by their lengths; else it takes all sorts. */
  only?: 'numbers' | 'lengths';
  /** @throws FormulaError for what does not fit */
  outcome(args: readonly Argument[]): Outcome;
  /** How each component of what comes out is worked out from the components of the arguments. */
  code(args: readonly Components[]): Expression[];
}

export const PURE: Kind = { components: 1, unit: '', bare: false };

const said: Record<number, string> = {
  0: 'a text',
  1: 'a number',
  3: 'a vector',
  6: 'a tensor',
  9: 'a tensor',
};
export const sayKind = ({ components }: Kind): string => said[components] ?? `${components} numbers`;
export const sayUnit = (unit: string | null): string => (unit ? `in ${unit}` : 'a pure number');

/**
 * The unit two pieces have together, into which the second is brought; bare numbers take that of the other.
 *
 * @param what cannot be done when they do not measure the same, behind "they cannot be"
 */
export function commonUnit(a: Argument, b: Argument, what: string): { unit: string | null; bare: boolean } {
  if (a.bare) return { unit: b.unit, bare: b.bare };
  if (b.bare || a.unit === b.unit) return { unit: a.unit, bare: false };
  if (a.unit === null || b.unit === null) return { unit: null, bare: false };
  if (a.unit === '' || b.unit === '' || !unitChange(b.unit, a.unit))
    throw new FormulaError(
      `"${a.says}" is ${sayUnit(a.unit)}, "${b.says}" ${sayUnit(b.unit)}: they cannot be ${what}.`,
    );
  return { unit: a.unit, bare: false };
}

/** The unit any number of pieces have together. */
export function unitOfAll(args: readonly Argument[], what: string): { unit: string | null; bare: boolean } {
  let all = args[0];
  for (const next of args.slice(1)) all = Object.assign({}, all, commonUnit(all, next, what));
  return { unit: all.unit, bare: all.bare };
}

/** The common shape of pieces that go together number by number. */
export function commonShape(args: readonly Argument[], what: string): number {
  const [first, ...rest] = args;
  const other = rest.find((a) => a.components !== first.components);
  if (other)
    throw new FormulaError(
      `"${first.says}" is ${sayKind(first)}, "${other.says}" ${sayKind(other)}: they cannot be ${what}.`,
    );
  return first.components;
}

/** For functions of pure numbers: what has a unit is refused, with what to write instead. */
export function wantPure({ unit, bare, says }: Argument, of: string): void {
  if (unit && !bare)
    throw new FormulaError(
      `"${of}" takes a pure number, and "${says}" is in ${unit}: divide it by something in ${unit}, as in ${of}(${says} / 1 ${unit}).`,
    );
}
