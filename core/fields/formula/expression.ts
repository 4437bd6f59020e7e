/** Signs and functions of one or two numbers, by what they are in JavaScript. What holds is 1, what does not is 0. */
export const numberOps = {
  add: (a, b) => a + b,
  sub: (a, b) => a - b,
  mul: (a, b) => a * b,
  div: (a, b) => a / b,
  min: Math.min,
  max: Math.max,
  lt: (a, b) => (a < b ? 1 : 0),
  gt: (a, b) => (a > b ? 1 : 0),
  le: (a, b) => (a <= b ? 1 : 0),
  ge: (a, b) => (a >= b ? 1 : 0),
  eq: (a, b) => (a === b ? 1 : 0),
  ne: (a, b) => (a !== b ? 1 : 0),
  and: (a, b) => (a !== 0 && b !== 0 ? 1 : 0),
  or: (a, b) => (a !== 0 || b !== 0 ? 1 : 0),
  neg: (a) => -a,
  abs: Math.abs,
  sqrt: Math.sqrt,
  floor: Math.floor,
  mod: (a, b) => a % b,
  pow: (a, b) => a ** b,
  round: Math.round,
  sign: Math.sign,
  exp: Math.exp,
  log: Math.log,
  log10: Math.log10,
  sin: Math.sin,
  cos: Math.cos,
  tan: Math.tan,
  asin: Math.asin,
  acos: Math.acos,
  atan: Math.atan,
  atan2: Math.atan2,
} satisfies Record<string, (a: number, b: number) => number>;

export type NumberOp = keyof typeof numberOps;

/** How one number of a row is worked out. The same object met twice is worked out once. */
export type Expression =
  | { op: 'constant'; value: number }
  /** One component of what stands behind a name. */
  | { op: 'load'; name: string; at: number }
  /** The second where the first is not zero, the third elsewhere. */
  | { op: 'select'; args: readonly Expression[] }
  | { op: NumberOp; args: readonly Expression[] };

export const constant = (value: number): Expression => ({ op: 'constant', value });

/** A sign or a function of numbers; of numbers alone it is worked out here. */
export function apply(op: NumberOp, ...args: Expression[]): Expression {
  const values = args.map((a) => (a.op === 'constant' ? a.value : null));
  const of: (a: number, b: number) => number = numberOps[op];
  if (values.every((v) => v !== null)) return constant(of(values[0]!, values[1] ?? 0));
  return { op, args };
}

export const add = (a: Expression, b: Expression): Expression => apply('add', a, b);
export const sub = (a: Expression, b: Expression): Expression => apply('sub', a, b);
export const mul = (a: Expression, b: Expression): Expression => apply('mul', a, b);

export const select = (condition: Expression, a: Expression, b: Expression): Expression =>
  condition.op === 'constant' ? (condition.value !== 0 ? a : b) : { op: 'select', args: [condition, a, b] };

export const sum = (terms: readonly Expression[]): Expression => terms.reduce(add);
