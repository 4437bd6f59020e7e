import { apply, constant, type NumberOp, select } from '../expression.ts';
import { FormulaError } from '../formula-error.ts';
import { commonShape, commonUnit, type FormulaFunction, PURE } from './formula-function.ts';

/** Numbers in one unit; vectors count by their lengths. Holds is 1, holds not is 0. */
const comparison = (written: string, says: string, op: NumberOp): FormulaFunction => ({
  written,
  says,
  takes: [2, 2],
  only: 'lengths',
  outcome([a, b]) {
    if (a.components === 0 || b.components === 0)
      throw new FormulaError(`"${a.says}" and "${b.says}": a text can only be = or ≠ another.`);
    const { unit } = commonUnit(a, b, 'compared');
    return { kind: PURE, wanted: [unit, unit] };
  },
  code: ([[a], [b]]) => [apply(op, a, b)],
});

const pureOutcome: FormulaFunction['outcome'] = (args) => {
  const text = args.find((a) => a.components === 0);
  if (text) throw new FormulaError(`"${text.says}" is a text: compare it with another by =.`);
  return { kind: PURE };
};

/** Comparisons, and what joins them. */
export const comparisons: Record<string, FormulaFunction> = {
  '<': comparison('a < b', 'less', 'lt'),
  '>': comparison('a > b', 'more', 'gt'),
  '<=': comparison('a <= b', 'at most', 'le'),
  '>=': comparison('a >= b', 'at least', 'ge'),
  '==': comparison('a = b', 'equal', 'eq'),
  '!=': comparison('a ≠ b', 'not equal', 'ne'),
  and: {
    written: 'a and b',
    says: 'where both hold',
    takes: [2, 2],
    only: 'lengths',
    outcome: pureOutcome,
    code: ([[a], [b]]) => [apply('and', a, b)],
  },
  or: {
    written: 'a or b',
    says: 'where one of them holds',
    takes: [2, 2],
    only: 'lengths',
    outcome: pureOutcome,
    code: ([[a], [b]]) => [apply('or', a, b)],
  },
  not: {
    written: 'not a',
    says: 'where it does not hold',
    takes: [1, 1],
    only: 'lengths',
    outcome: pureOutcome,
    code: ([[a]]) => [apply('eq', a, constant(0))],
  },
  if: {
    written: 'if(condition, a, b)',
    says: 'a where the condition holds, b elsewhere; also condition ? a : b',
    takes: [3, 3],
    outcome([condition, a, b]) {
      if (condition.components !== 1)
        throw new FormulaError(`"${condition.says}" is no condition: compare it with something.`);
      const components = commonShape([a, b], 'chosen between');
      const { unit, bare } = commonUnit(a, b, 'chosen between');
      return { kind: { components, unit, bare }, wanted: [null, unit, unit] };
    },
    code: ([[condition], a, b]) => a.map((x, k) => select(condition, x, b[k])),
  },
};
