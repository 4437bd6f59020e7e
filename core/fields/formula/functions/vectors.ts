import { unitProduct } from '../../../model/unit-products.ts';
import { symmetricPairs } from '../../tensor-places.ts';
import { add, apply, constant, type Expression, mul, sub, sum } from '../expression.ts';
import { FormulaError } from '../formula-error.ts';
import {
  type Argument,
  type FormulaFunction,
  type Kind,
  PURE,
  sayKind,
  unitOfAll,
} from './formula-function.ts';

/** Refuses what is not of the shape a function takes. */
function wantShape(args: readonly Argument[], components: readonly number[], of: string, what: string): void {
  const wrong = args.find((a) => !components.includes(a.components));
  if (wrong) throw new FormulaError(`"${of}" takes ${what}, and "${wrong.says}" is ${sayKind(wrong)}.`);
}

const product = (a: Argument, b: Argument, components: number): Kind => ({
  components,
  unit: unitProduct([a.bare ? '' : a.unit, 1], [b.bare ? '' : b.unit, 1]),
  bare: a.bare && b.bare,
});

/** How often each component of a tensor counts in a sum over all nine. */
const TIMES: Record<number, readonly number[]> = {
  3: [1, 1, 1],
  6: [1, 1, 1, 2, 2, 2],
  9: Array.from({ length: 9 }, () => 1),
};

const lengthOf = (v: readonly Expression[]): Expression => apply('sqrt', sum(v.map((x) => mul(x, x))));

/** Put together from numbers in one unit. */
const from = (name: string, letters: string, components: number): FormulaFunction => ({
  written: `${name}(${letters})`,
  says: `a ${name} from its components`,
  takes: [components, components],
  only: 'numbers',
  outcome(args) {
    const { unit, bare } = unitOfAll(args, `parts of one ${name}`);
    return { kind: { components, unit, bare }, wanted: args.map(() => unit) };
  },
  code: (args) => args.map(([a]) => a),
});

/** Functions of vectors and tensors. */
export const vectorFunctions: Record<string, FormulaFunction> = {
  vector: from('vector', 'x, y, z', 3),
  tensor: from('tensor', 'xx, yy, zz, xy, yz, xz', 6),
  length: {
    written: 'length(v)',
    says: 'length of a vector',
    takes: [1, 1],
    outcome(args) {
      wantShape(args, [1, 3], 'length', 'a vector');
      return { kind: { ...args[0], components: 1 } };
    },
    code: ([v]) => [v.length === 1 ? apply('abs', v[0]) : lengthOf(v)],
  },
  direction: {
    written: 'direction(v)',
    says: 'the vector of length one that points the same way',
    takes: [1, 1],
    outcome(args) {
      wantShape(args, [3], 'direction', 'a vector');
      return { kind: { ...PURE, components: 3 } };
    },
    code([v]) {
      const length = lengthOf(v);
      return v.map((x) => apply('div', x, length));
    },
  },
  dot: {
    written: 'dot(a, b)',
    says: 'scalar product of two vectors, or of two tensors over all components',
    takes: [2, 2],
    outcome(args) {
      const [a, b] = args;
      wantShape(args, [3, 6, 9], 'dot', 'vectors or tensors');
      if (a.components !== b.components)
        throw new FormulaError(
          `"dot" takes two of one kind: "${a.says}" is ${sayKind(a)} of ${a.components}, "${b.says}" ${sayKind(b)} of ${b.components} numbers.`,
        );
      return { kind: product(a, b, 1) };
    },
    code: ([a, b]) => [sum(a.map((x, k) => mul(constant(TIMES[a.length][k]), mul(x, b[k]))))],
  },
  cross: {
    written: 'cross(a, b)',
    says: 'vector product',
    takes: [2, 2],
    outcome(args) {
      wantShape(args, [3], 'cross', 'vectors');
      return { kind: product(args[0], args[1], 3) };
    },
    code: ([a, b]) =>
      [0, 1, 2].map((k) => {
        const [r, s] = [(k + 1) % 3, (k + 2) % 3];
        return sub(mul(a[r], b[s]), mul(a[s], b[r]));
      }),
  },
  trace: {
    written: 'trace(t)',
    says: 'sum of the diagonal of a tensor',
    takes: [1, 1],
    outcome(args) {
      wantShape(args, [6, 9], 'trace', 'a tensor');
      return { kind: { ...args[0], components: 1 } };
    },
    code: ([t]) => [sum(t.length === 6 ? t.slice(0, 3) : [t[0], t[4], t[8]])],
  },
  transpose: {
    written: 'transpose(t)',
    says: 'a tensor with rows and columns exchanged',
    takes: [1, 1],
    outcome(args) {
      wantShape(args, [6, 9], 'transpose', 'a tensor');
      return { kind: { ...args[0] } };
    },
    code: ([t]) => t.map((x, k) => (t.length === 9 ? t[3 * (k % 3) + Math.floor(k / 3)] : x)),
  },
  symmetric: {
    written: 'symmetric(t)',
    says: 'the symmetric part of a tensor',
    takes: [1, 1],
    outcome(args) {
      wantShape(args, [6, 9], 'symmetric', 'a tensor');
      return { kind: { ...args[0], components: 6 } };
    },
    code: ([t]) =>
      t.length === 6 ? [...t] : symmetricPairs.map(([p, q]) => mul(constant(0.5), add(t[p], t[q]))),
  },
};
