import { unitProduct } from '../../../model/unit-products.ts';
import { inBaseUnits, unitChange } from '../../../model/units.ts';
import { apply, type NumberOp } from '../expression.ts';
import { FormulaError } from '../formula-error.ts';
import {
  type Argument,
  commonUnit,
  type FormulaFunction,
  type Kind,
  PURE,
  unitOfAll,
  wantPure,
} from './formula-function.ts';

const bareOrPure = ({ bare }: Argument): Kind => ({ ...PURE, bare });

/** The same with the number of one argument. */
const eachBy =
  (op: NumberOp): FormulaFunction['code'] =>
  ([[a]]) => [apply(op, a)];

/** Of a pure number. */
const ofPure = (name: NumberOp, says: string): FormulaFunction => ({
  written: `${name}(a)`,
  says,
  takes: [1, 1],
  only: 'numbers',
  outcome([a]) {
    wantPure(a, name);
    return { kind: bareOrPure(a) };
  },
  code: eachBy(name),
});

/** Of an angle: in its unit, or in radians where it has none. */
const ofAngle = (name: NumberOp): FormulaFunction => ({
  written: `${name}(a)`,
  says: `${name} of an angle, in radians where it has no unit`,
  takes: [1, 1],
  only: 'numbers',
  outcome([a]) {
    if (!a.unit || a.bare) return { kind: bareOrPure(a) };
    if (!unitChange(a.unit, 'rad'))
      throw new FormulaError(`"${name}" takes an angle, and "${a.says}" is in ${a.unit}.`);
    return { kind: PURE, wanted: ['rad'] };
  },
  code: eachBy(name),
});

/** Keeps the unit of what it is given. */
const keeping = (name: NumberOp, says: string): FormulaFunction => ({
  written: `${name}(a)`,
  says,
  takes: [1, 1],
  only: 'numbers',
  outcome: ([{ unit, bare }]) => ({ kind: { components: 1, unit, bare } }),
  code: eachBy(name),
});

const ofMany = (name: 'min' | 'max', says: string): FormulaFunction => ({
  written: `${name}(a, b, …)`,
  says,
  takes: [1, 20],
  only: 'numbers',
  outcome(args) {
    const { unit, bare } = unitOfAll(args, 'compared');
    return { kind: { components: 1, unit, bare }, wanted: args.map(() => unit) };
  },
  code: (args) => [args.map(([a]) => a).reduce((a, b) => apply(name, a, b))],
});

/** Functions of numbers. */
export const numberFunctions: Record<string, FormulaFunction> = {
  abs: { ...keeping('abs', 'without its sign; of a vector, its length'), only: 'lengths' },
  absolute: {
    written: 'absolute(a)',
    says: 'a temperature in K, whatever its unit',
    takes: [1, 1],
    only: 'numbers',
    outcome([{ unit, bare, says }]) {
      if (!unit || bare) return { kind: { components: 1, unit, bare } };
      if (!unitChange(unit, 'K'))
        throw new FormulaError(`"absolute" takes a temperature, and "${says}" is in ${unit}.`);
      return { kind: { components: 1, unit: 'K', bare: false }, wanted: ['K'] };
    },
    code: ([[a]]) => [a],
  },
  sqrt: {
    written: 'sqrt(a)',
    says: 'square root',
    takes: [1, 1],
    only: 'numbers',
    outcome([{ unit, bare }]) {
      if (bare || !unit) return { kind: { components: 1, unit: bare ? '' : unit, bare } };
      const root = unitProduct([unit, 0.5]);
      if (root !== null) return { kind: { components: 1, unit: root, bare } };
      // The root of a product may have a unit though the roots of its factors have none.
      const bases = inBaseUnits(unit)?.unit ?? null;
      return { kind: { components: 1, unit: unitProduct([bases, 0.5]), bare }, wanted: [bases] };
    },
    code: eachBy('sqrt'),
  },
  exp: ofPure('exp', 'e to this power'),
  log: ofPure('log', 'natural logarithm'),
  log10: ofPure('log10', 'logarithm to base ten'),
  sin: ofAngle('sin'),
  cos: ofAngle('cos'),
  tan: ofAngle('tan'),
  asin: ofPure('asin', 'angle of a sine, in radians'),
  acos: ofPure('acos', 'angle of a cosine, in radians'),
  atan: ofPure('atan', 'angle of a tangent, in radians'),
  atan2: {
    written: 'atan2(y, x)',
    says: 'angle of the place (x, y), in radians',
    takes: [2, 2],
    only: 'numbers',
    outcome([y, x]) {
      const { unit } = commonUnit(y, x, 'legs of one angle');
      return { kind: PURE, wanted: [unit, unit] };
    },
    code: ([[y], [x]]) => [apply('atan2', y, x)],
  },
  min: ofMany('min', 'the least of them, place by place'),
  max: ofMany('max', 'the largest of them, place by place'),
  floor: keeping('floor', 'the next whole number below'),
  round: keeping('round', 'the nearest whole number'),
  sign: {
    ...keeping('sign', '1 above zero, -1 below'),
    outcome: ([a]) => ({ kind: bareOrPure(a) }),
  },
};
