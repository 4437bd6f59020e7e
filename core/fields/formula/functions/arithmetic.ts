import { unitProduct } from '../../../model/unit-products.ts';
import { add, apply, mul, sub, sum } from '../expression.ts';
import { FormulaError } from '../formula-error.ts';
import {
  type Argument,
  commonShape,
  commonUnit,
  type FormulaFunction,
  type Kind,
  type Outcome,
  sayKind,
} from './formula-function.ts';

const SHIFTED = new Set(['°C', 'C', 'degC']);

/** The difference of two temperatures in °C is a number of kelvins. */
const differenceUnit = (unit: string | null): string | null =>
  unit !== null && SHIFTED.has(unit) ? 'K' : unit;

const isShifted = ({ unit, bare }: Argument): boolean => !bare && unit !== null && SHIFTED.has(unit);

/** To a temperature in °C a number of kelvins is added as a difference. */
function plus([a, b]: readonly Argument[]): Outcome {
  const components = commonShape([a, b], 'added');
  const shifted = [a, b].filter(isShifted);
  if (shifted.length === 1 && [a, b].some((one) => one.unit === 'K'))
    return { kind: { components, unit: shifted[0].unit, bare: false } };
  const { unit, bare } = commonUnit(a, b, 'added');
  return { kind: { components, unit, bare }, wanted: [unit, unit] };
}

const difference =
  (what: string): FormulaFunction['outcome'] =>
  ([a, b]) => {
    const components = commonShape([a, b], what);
    const { unit, bare } = commonUnit(a, b, what);
    return { kind: { components, unit: differenceUnit(unit), bare }, wanted: [unit, unit] };
  };

/** The unit of a product; bare numbers have none. */
const productUnit = (a: Argument, b: Argument, power: 1 | -1): Pick<Kind, 'unit' | 'bare'> => ({
  unit: unitProduct([a.bare ? '' : a.unit, 1], [b.bare ? '' : b.unit, power]),
  bare: a.bare && b.bare,
});

function times([a, b]: readonly Argument[]): Outcome {
  const both = [a.components, b.components].sort((p, q) => p - q);
  if (both[0] === 0) throw new FormulaError(`"${a.says}" times "${b.says}": a text is no number.`);
  const tensorOnVector = a.components >= 6 && b.components === 3;
  if (both[0] !== 1 && !tensorOnVector)
    throw new FormulaError(
      `"${a.says}" is ${sayKind(a)}, "${b.says}" ${sayKind(b)}: write dot(${a.says}, ${b.says}) or cross(${a.says}, ${b.says}) for their product.`,
    );
  return { kind: { components: tensorOnVector ? 3 : both[1], ...productUnit(a, b, 1) } };
}

/** Rows of a tensor by where its components stand. */
const rowsOf: Record<number, readonly (readonly number[])[]> = {
  6: [
    [0, 3, 5],
    [3, 1, 4],
    [5, 4, 2],
  ],
  9: [
    [0, 1, 2],
    [3, 4, 5],
    [6, 7, 8],
  ],
};

/** Arithmetic signs. */
export const arithmetic: Record<string, FormulaFunction> = {
  '+': {
    written: 'a + b',
    says: 'sum, of numbers, vectors or tensors',
    takes: [2, 2],
    outcome: plus,
    code: ([a, b]) => a.map((x, k) => add(x, b[k])),
  },
  '-': {
    written: 'a - b',
    says: 'difference',
    takes: [2, 2],
    outcome: difference('subtracted'),
    code: ([a, b]) => a.map((x, k) => sub(x, b[k])),
  },
  '*': {
    written: 'a * b',
    says: 'product; of a tensor with a vector, the vector it makes of it',
    takes: [2, 2],
    outcome: times,
    code([a, b]) {
      if (a.length >= 6 && b.length === 3)
        return rowsOf[a.length].map((row) => sum(row.map((at, k) => mul(a[at], b[k]))));
      return a.length === 1 ? b.map((y) => mul(a[0], y)) : a.map((x) => mul(x, b[0]));
    },
  },
  '/': {
    written: 'a / b',
    says: 'quotient',
    takes: [2, 2],
    outcome([a, b]) {
      if (a.components === 0 || b.components !== 1)
        throw new FormulaError(
          `"${a.says}" is ${sayKind(a)}, "${b.says}" ${sayKind(b)}: it cannot be divided by that.`,
        );
      return { kind: { components: a.components, ...productUnit(a, b, -1) } };
    },
    code: ([a, [b]]) => a.map((x) => apply('div', x, b)),
  },
  '%': {
    written: 'a % b',
    says: 'what is left of a division',
    takes: [2, 2],
    only: 'numbers',
    outcome: difference('divided with a rest'),
    code: ([[a], [b]]) => [apply('mod', a, b)],
  },
  '^': {
    written: 'a ^ b',
    says: 'power; of a vector, that of its length',
    takes: [2, 2],
    only: 'lengths',
    outcome([a, b]) {
      const plain = a.bare || a.unit === '';
      if (b.unit && !b.bare) throw new FormulaError(`"${b.says}" is in ${b.unit}: a power is a pure number.`);
      if (!plain && a.unit !== null && b.value === undefined)
        throw new FormulaError(
          `"${a.says}" is in ${a.unit}: it can be raised only to a number that stands there, as in ${a.says} ^ 2.`,
        );
      const unit = plain ? '' : unitProduct([a.unit, b.value ?? 1]);
      return { kind: { components: 1, unit, bare: a.bare && b.bare } };
    },
    code([[a], [b]]) {
      if (b.op === 'constant' && b.value === 2) return [mul(a, a)];
      if (b.op === 'constant' && b.value === 3) return [mul(mul(a, a), a)];
      return [apply('pow', a, b)];
    },
  },
  minus: {
    written: '-a',
    says: 'with the other sign',
    takes: [1, 1],
    outcome: ([a]) => ({ kind: { ...a } }),
    code: ([a]) => a.map((x) => apply('neg', x)),
  },
  plus: {
    written: '+a',
    says: 'as it is',
    takes: [1, 1],
    outcome: ([a]) => ({ kind: { ...a } }),
    code: ([a]) => [...a],
  },
};
