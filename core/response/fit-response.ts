import { ReadError } from '../model/read-error.ts';
import type { FittedSurface, ResponseKind, Samples } from './response.ts';
import { awayFromMean, sumOfProducts, varies } from './sums.ts';

/** How well a surface tells what runs answer. */
export interface ResponseQuality {
  /** Share of the variance that it explains (R²); null where all outputs are the same. */
  explained: number | null;
  /** The same of runs it was fitted without, one at a time; null where that cannot be told of any. */
  predicted: number | null;
  /** Root of the mean of the squared residuals, in the unit of the output. */
  away: number;
  /** The same of the runs it was fitted without, one at a time. */
  awayLeftOut: number;
}

export interface ResponseFit {
  /** Of inputs as they are, in the order they were given. */
  surface: FittedSurface;
  /** Indices of the samples that were used: those without a gap. */
  used: number[];
  /** Indices of the inputs that tell nothing, for they are the same in all of these. */
  constant: number[];
  /** For each used sample, its output less what the surface says. */
  residuals: number[];
  /** The same of a surface fitted without it; NaN where nothing is left that tells. */
  leftOut: number[];
  quality: ResponseQuality;
}

/**
 * Fits an output over inputs.
 *
 * @throws ReadError where the samples do not suffice, with what to do
 */
export function fitResponse<O extends object>(
  kind: ResponseKind<O>,
  options: O,
  samples: Samples,
): ResponseFit {
  const used = samples.outputs.flatMap((output, i) =>
    [output, ...samples.inputs[i]].every(Number.isFinite) ? [i] : [],
  );
  if (used.length < 2)
    throw new ReadError(
      `${used.length === 0 ? 'no run has' : 'only one run has'} a value for every input and the output`,
      'the response',
      'Choose other inputs, or fill in what is missing.',
    );
  const inputs = used.map((i) => samples.inputs[i]);
  const outputs = used.map((i) => samples.outputs[i]);
  const axes = inputs[0].map((_, k) => axisOf(inputs.map((row) => row[k])));
  const constant = axes.flatMap(({ half }, k) => (half === 0 ? [k] : []));
  const varied = axes.flatMap((axis, k) => (axis.half === 0 ? [] : [{ ...axis, k }]));
  if (varied.length === 0)
    throw new ReadError(
      'every input is the same in all runs',
      'the response',
      'Choose an input that varies from run to run.',
    );
  const scaled = (row: readonly number[]): number[] =>
    varied.map(({ k, middle, half }) => (row[k] - middle) / half);
  const fitted = kind.fit({ inputs: inputs.map(scaled), outputs }, options);
  const { at, deviation } = fitted.surface;
  const residuals = outputs.map((output, i) => output - at(scaled(inputs[i])));
  return {
    surface: {
      at: (row) => at(scaled(row)),
      ...(deviation && { deviation: (row: readonly number[]) => deviation(scaled(row)) }),
    },
    used,
    constant,
    residuals,
    leftOut: fitted.leftOut,
    quality: qualityOf(outputs, residuals, fitted.leftOut),
  };
}

function axisOf(values: readonly number[]): { middle: number; half: number } {
  const low = values.reduce((a, b) => Math.min(a, b));
  const high = values.reduce((a, b) => Math.max(a, b));
  return { middle: (low + high) / 2, half: (high - low) / 2 };
}

function qualityOf(outputs: number[], residuals: number[], leftOut: number[]): ResponseQuality {
  const away = awayFromMean(outputs);
  const told = leftOut.flatMap((e, i) => (Number.isFinite(e) ? [i] : []));
  const toldOf = squares(told.map((i) => away[i]));
  const missed = squares(told.map((i) => leftOut[i]));
  const varied = varies(outputs);
  return {
    explained: varied ? 1 - squares(residuals) / squares(away) : null,
    predicted: varied && toldOf > 0 ? 1 - missed / toldOf : null,
    away: Math.sqrt(squares(residuals) / outputs.length),
    awayLeftOut: told.length > 0 ? Math.sqrt(missed / told.length) : Number.NaN,
  };
}

const squares = (values: readonly number[]): number => sumOfProducts(values, values);
