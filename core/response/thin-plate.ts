import { inverse, Matrix } from 'ml-matrix';
import { boundedNumber } from '../model/bounded-number.ts';
import { ReadError } from '../model/read-error.ts';
import { z } from '../model/schema.ts';
import { distance, samePlaces } from './distances.ts';
import { ensureFewEnough } from './few-enough.ts';
import type { Fitted, ResponseKind } from './response.ts';

export interface ThinPlateOptions {
  /** How much bending counts against distances to the samples: 0 goes through all of them. */
  smoothing: number;
}

/** An inverse with larger numbers is one of equations that do not tell. */
const LARGEST = 1e12;

/** What a bent plate weighs at a distance, by the number of inputs (Wahba 1990, section 2.4; from memory). */
const bending: Readonly<Record<number, (apart: number) => number>> = {
  1: (r) => r ** 3,
  2: (r) => (r === 0 ? 0 : r * r * Math.log(r)),
  3: (r) => -r,
};

/**
 * The surface through all samples that bends least (Duchon 1977); through their mean where several are at one place.
 * What it says without a sample follows from the inverse of its equations (Rippa 1999).
 */
export const thinPlate: ResponseKind<ThinPlateOptions> = {
  id: 'thin-plate',
  name: 'Thin-plate spline',
  purpose: 'through every run, and bent as little as that allows',
  schema: z.object({ smoothing: boundedNumber().min(0).max(1000) }),
  defaults: { smoothing: 0 },
  fit({ inputs, outputs }, { smoothing }) {
    if (smoothing > 0) return bent(inputs, outputs, smoothing);
    const groups = samePlaces(inputs);
    const meanOf = (group: readonly number[]): number =>
      group.reduce((sum, i) => sum + outputs[i], 0) / group.length;
    const { surface, leftOut: apart } = bent(
      groups.map(([first]) => inputs[first]),
      groups.map(meanOf),
      0,
    );
    const leftOut = Array<number>(outputs.length);
    // Without it, the surface goes through the others at its place.
    for (const [g, group] of groups.entries())
      for (const i of group)
        leftOut[i] = group.length === 1 ? apart[g] : outputs[i] - meanOf(group.filter((k) => k !== i));
    return { surface, leftOut };
  },
};

function bent(inputs: readonly (readonly number[])[], outputs: readonly number[], smoothing: number): Fitted {
  const [count, dimensions] = [inputs.length, inputs[0]?.length ?? 0];
  const weigh = bending[dimensions];
  if (!weigh)
    throw new ReadError(
      `a thin-plate spline goes over one, two or three inputs, not ${dimensions}`,
      'the response',
      'Choose fewer inputs, or another fit.',
    );
  ensureFewEnough(count);
  const plane = (row: readonly number[]): number[] => [1, ...row];
  const size = count + dimensions + 1;
  const equations = Matrix.zeros(size, size);
  for (const [i, row] of inputs.entries()) {
    for (const [k, other] of inputs.entries()) equations.set(i, k, weigh(distance(row, other)));
    equations.set(i, i, equations.get(i, i) + smoothing);
    for (const [k, v] of plane(row).entries()) {
      equations.set(i, count + k, v);
      equations.set(count + k, i, v);
    }
  }
  const inverted = invertedOrRefused(equations, count, dimensions);
  const right = Matrix.columnVector([...outputs, ...Array<number>(dimensions + 1).fill(0)]);
  const weights = inverted.mmul(right).to1DArray();
  const at = (row: readonly number[]): number =>
    inputs.reduce((sum, of, i) => sum + weights[i] * weigh(distance(of, row)), 0) +
    plane(row).reduce((sum, v, k) => sum + weights[count + k] * v, 0);
  return {
    surface: { at },
    leftOut: outputs.map((_, i) => {
      const own = inverted.get(i, i);
      // Without it, the others would not span a plane.
      return Math.abs(own) < 1e-9 ? Number.NaN : weights[i] / own;
    }),
  };
}

function invertedOrRefused(equations: Matrix, count: number, dimensions: number): Matrix {
  const cannot = (): ReadError =>
    new ReadError(
      `${count} runs at different places do not span a plane over ${dimensions} inputs`,
      'the response',
      'Take runs that vary each input by itself, or leave out an input that follows another.',
    );
  if (count <= dimensions) throw cannot();
  try {
    const inverted = inverse(equations);
    if (inverted.to1DArray().every((v) => Math.abs(v) < LARGEST)) return inverted;
  } catch {
    // It cannot be inverted: told below.
  }
  throw cannot();
}
