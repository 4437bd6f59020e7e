/**
 * Where numbers of a result come from. Output `v` is the weighted sum of the inputs `index[i]` with `weight[i]`, for
 * `i` from `v * width` to `(v + 1) * width`; or, where the number of inputs varies (`starts` is given and `width` is
 * 0), for `i` from `starts[v]` to `starts[v + 1]`. Without weights every input counts once.
 *
 * A gather is replayed on any field, component or step of the same mesh without running the operation again.
 */
export interface Gather {
  width: number;
  starts: Uint32Array | null;
  index: Uint32Array;
  weight: Float32Array | null;
  /** For copies that were mirrored or turned: which matrix of `turns` each input's directions go through. */
  turn: Uint16Array | null;
  /** 3 x 3 matrices, row by row, one after the other. */
  turns: Float64Array | null;
}

/** Both halves of a result's origin: its points and its cells. */
export interface Recipe {
  points: Gather;
  cells: Gather;
}

/** A plain copy of the inputs `index`. */
export const copyOf = (index: Uint32Array): Gather => ({
  width: 1,
  starts: null,
  index,
  weight: null,
  turn: null,
  turns: null,
});

/** Sums of a fixed number of weighted inputs. */
export const weighted = (width: number, index: Uint32Array, weight: Float32Array): Gather => ({
  ...copyOf(index),
  width,
  weight,
});

export const outputCount = ({ starts, index, width }: Gather): number =>
  starts ? starts.length - 1 : index.length / width;

/** Whether nothing of a result comes from anywhere: then fields have no values there, and not zeros. */
export const leadsNowhere = (gather: Gather): boolean => gather.index.length === 0 && outputCount(gather) > 0;

/** More inputs than this to an output are listed one by one, without those that weigh nothing. */
const WIDEST = 2;

/** `second` was made from the output of `first`; the result leads from its outputs to the inputs of `first`. */
export function compose(first: Gather, second: Gather): Gather {
  const turning = turnsOf(first, second);
  if (!first.starts && !second.starts && first.width * second.width <= WIDEST)
    return composeFixed(first, second, turning);
  const n = outputCount(second);
  const starts = new Uint32Array(n + 1);
  let length = 0;
  const each = (visit: (j: number, i: number, w: number) => void, done: (v: number) => void): void => {
    for (let v = 0; v < n; v++) {
      const to = second.starts ? second.starts[v + 1] : (v + 1) * second.width;
      for (let j = second.starts ? second.starts[v] : v * second.width; j < to; j++) {
        const w2 = second.weight ? second.weight[j] : 1;
        if (w2 === 0) continue;
        const middle = second.index[j];
        const end = first.starts ? first.starts[middle + 1] : (middle + 1) * first.width;
        for (let i = first.starts ? first.starts[middle] : middle * first.width; i < end; i++) {
          const w = first.weight ? w2 * first.weight[i] : w2;
          if (w !== 0) visit(j, i, w);
        }
      }
      done(v);
    }
  };
  each(
    () => length++,
    (v) => {
      starts[v + 1] = length;
    },
  );
  const index = new Uint32Array(length);
  const weight = new Float32Array(length);
  const turn = turning ? new Uint16Array(length) : null;
  let at = 0;
  each(
    (j, i, w) => {
      index[at] = first.index[i];
      weight[at] = w;
      if (turn) turn[at] = turning!.number(j, i);
      at++;
    },
    () => undefined,
  );
  return { width: 0, starts, index, weight, turn, turns: turning?.turns ?? null };
}

function composeFixed(first: Gather, second: Gather, turning: Turning | null): Gather {
  const n = outputCount(second);
  const width = first.width * second.width;
  const index = new Uint32Array(n * width);
  const weight = first.weight || second.weight ? new Float32Array(n * width) : null;
  const turn = turning ? new Uint16Array(n * width) : null;
  let out = 0;
  for (let j = 0; j < second.index.length; j++) {
    const from = second.index[j] * first.width;
    const w2 = second.weight ? second.weight[j] : 1;
    for (let i = from; i < from + first.width; i++, out++) {
      index[out] = first.index[i];
      if (weight) weight[out] = first.weight ? w2 * first.weight[i] : w2;
      if (turn) turn[out] = turning!.number(j, i);
    }
  }
  return { width, starts: null, index, weight, turn, turns: turning?.turns ?? null };
}

interface Turning {
  turns: Float64Array;
  /** The product for entry `j` of the second and entry `i` of the first. */
  number(j: number, i: number): number;
}

/** Every product of a matrix of the second with one of the first; null when nothing is turned. */
function turnsOf(first: Gather, second: Gather): Turning | null {
  if (!first.turns && !second.turns) return null;
  const a = first.turns ?? IDENTITY;
  const b = second.turns ?? IDENTITY;
  const columns = a.length / 9;
  const turns = new Float64Array((b.length / 9) * columns * 9);
  for (let s = 0; s < b.length / 9; s++)
    for (let f = 0; f < columns; f++)
      turns.set(multiply(b.subarray(9 * s, 9 * s + 9), a.subarray(9 * f, 9 * f + 9)), 9 * (s * columns + f));
  return {
    turns,
    number: (j, i) => (second.turn ? second.turn[j] : 0) * columns + (first.turn ? first.turn[i] : 0),
  };
}

const IDENTITY = Float64Array.of(1, 0, 0, 0, 1, 0, 0, 0, 1);

/** Product of two 3 x 3 matrices, row by row. */
export function multiply(a: ArrayLike<number>, b: ArrayLike<number>): Float64Array {
  const out = new Float64Array(9);
  for (let r = 0; r < 3; r++)
    for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) out[3 * r + c] += a[3 * r + k] * b[3 * k + c];
  return out;
}

/** The gather that changes nothing. */
export function identityGather(count: number): Gather {
  const index = new Uint32Array(count);
  for (let i = 0; i < count; i++) index[i] = i;
  return copyOf(index);
}

export const identityRecipe = (points: number, cells: number): Recipe => ({
  points: identityGather(points),
  cells: identityGather(cells),
});

/**
 * One number per output from a field of `components` numbers per input.
 *
 * @param component which component, or `magnitude` for the Euclidean length of the sum
 * @param axial whether the field is an axial vector (a curl, a torque), which a mirror turns the other way
 */
export function replay(
  gather: Gather,
  field: ArrayLike<number>,
  components: number,
  component: number | 'magnitude',
  axial = false,
  out: Float32Array = new Float32Array(outputCount(gather)),
): Float32Array {
  const k = component === 'magnitude' ? 0 : component;
  if (components > 1 && (component === 'magnitude' || gather.turns)) {
    const all = replayAll(gather, field, components, axial);
    if (component !== 'magnitude') for (let v = 0; v < out.length; v++) out[v] = all[v * components + k];
    else
      for (let v = 0, i = 0; v < out.length; v++) {
        let squares = 0;
        for (let c = 0; c < components; c++, i++) squares += all[i] * all[i];
        out[v] = Math.sqrt(squares);
      }
    return out;
  }
  const { width, index, weight, starts } = gather;
  const n = out.length;
  if (starts) {
    for (let v = 0; v < n; v++) {
      let sum = 0;
      for (let i = starts[v]; i < starts[v + 1]; i++)
        sum += (weight ? weight[i] : 1) * field[index[i] * components + k];
      out[v] = sum;
    }
  } else if (!weight && width === 1) {
    if (components === 1) for (let v = 0; v < n; v++) out[v] = field[index[v]];
    else for (let v = 0; v < n; v++) out[v] = field[index[v] * components + k];
  } else if (width === 2 && weight) {
    for (let v = 0, i = 0; v < n; v++, i += 2)
      out[v] =
        weight[i] * field[index[i] * components + k] + weight[i + 1] * field[index[i + 1] * components + k];
  } else {
    for (let v = 0, i = 0; v < n; v++) {
      let sum = 0;
      for (let j = 0; j < width; j++, i++) sum += (weight ? weight[i] : 1) * field[index[i] * components + k];
      out[v] = sum;
    }
  }
  return out;
}

/**
 * All components of each output. Vectors of three components and tensors of six (xx yy zz xy yz xz) or nine are turned
 * with their copies: `Q v` and `Q S Qᵀ`.
 */
export function replayAll(
  gather: Gather,
  field: ArrayLike<number>,
  components: number,
  axial = false,
): Float32Array {
  const n = outputCount(gather);
  const { width, starts, index, weight, turn, turns } = gather;
  const out = new Float32Array(n * components);
  const turned = turns && [2, 3, 6, 9].includes(components) ? new Turner(turns, components, axial) : null;
  for (let v = 0, o = 0; v < n; v++, o += components) {
    const to = starts ? starts[v + 1] : (v + 1) * width;
    for (let i = starts ? starts[v] : v * width; i < to; i++) {
      const from = index[i] * components;
      const w = weight ? weight[i] : 1;
      if (turned) turned.add(out, o, w, field, from, turn![i]);
      else for (let c = 0; c < components; c++) out[o + c] += w * field[from + c];
    }
  }
  return out;
}

/** Rows and columns of the components of a tensor of six: xx yy zz xy yz xz. */
const SIX = [0, 4, 8, 1, 5, 2];
const FULL_OF_SIX = [0, 3, 5, 3, 1, 4, 5, 4, 2];

class Turner {
  private readonly signs: Float64Array;
  constructor(
    private readonly turns: Float64Array,
    private readonly components: number,
    axial: boolean,
  ) {
    this.signs = Float64Array.from({ length: turns.length / 9 }, (_, t) =>
      axial ? Math.sign(determinant(turns.subarray(9 * t, 9 * t + 9))) : 1,
    );
  }

  add(out: Float32Array, o: number, w: number, field: ArrayLike<number>, from: number, turn: number): void {
    const q = this.turns;
    const t = 9 * turn;
    const n = this.components;
    if (n <= 3) {
      const s = w * this.signs[turn];
      const [x, y, z] = [field[from], field[from + 1], n === 3 ? field[from + 2] : 0];
      for (let r = 0; r < n; r++)
        out[o + r] += s * (q[t + 3 * r] * x + q[t + 3 * r + 1] * y + q[t + 3 * r + 2] * z);
      return;
    }
    const s = (i: number): number => field[from + (n === 6 ? FULL_OF_SIX[i] : i)];
    for (let c = 0; c < n; c++) {
      const at = n === 6 ? SIX[c] : c;
      const row = t + 3 * Math.floor(at / 3);
      const column = t + 3 * (at % 3);
      let sum = 0;
      for (let a = 0; a < 3; a++)
        for (let b = 0; b < 3; b++) sum += q[row + a] * s(3 * a + b) * q[column + b];
      out[o + c] += w * sum;
    }
  }
}

export function determinant(m: ArrayLike<number>): number {
  return (
    m[0] * (m[4] * m[8] - m[5] * m[7]) -
    m[1] * (m[3] * m[8] - m[5] * m[6]) +
    m[2] * (m[3] * m[7] - m[4] * m[6])
  );
}
