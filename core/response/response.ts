import type { z } from '../model/schema.ts';

/** What was asked of some runs, and what each answered. */
export interface Samples {
  /** A row for each run, with a value for each input. */
  inputs: readonly (readonly number[])[];
  outputs: readonly number[];
}

/** What a fit says of the output at places that no run has. */
export interface FittedSurface {
  at(inputs: readonly number[]): number;
  /** How far off that may be, as a standard deviation; only where the fit can tell. */
  deviation?(inputs: readonly number[]): number;
}

export interface Fitted {
  surface: FittedSurface;
  /**
   * For each sample its output less what the surface says there when it is fitted without that sample. NaN where nothing
   * is left that tells.
   */
  leftOut: number[];
}

/**
 * A way of fitting an output over inputs. Its file holds all there is to it.
 *
 * @typeParam O options
 */
export interface ResponseKind<O extends object> {
  id: string;
  name: string;
  purpose: string;
  schema: z.ZodType<O>;
  defaults: O;
  /**
   * @param samples with inputs that are -1 where they are lowest and 1 where they are highest, and finite
   * @throws ReadError where they do not suffice, with what to do
   */
  fit(samples: Samples, options: O): Fitted;
}
