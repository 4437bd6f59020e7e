import type { z } from '../../model/schema.ts';
import { crashFilter } from './crash-filter.ts';
import type { CurveData } from './curve-data.ts';
import type { CurvesBeside, CurveWork } from './curve-work.ts';
import { derivative } from './derivative.ts';
import { difference } from './difference.ts';
import { envelope } from './envelope.ts';
import { filter } from './filter.ts';
import { fit } from './fit.ts';
import { curveIntegral } from './integral.ts';
import { resampling } from './resample.ts';
import { scaling, shifting } from './shift-and-scale.ts';
import { smoothing } from './smoothing.ts';
import { spectrum } from './spectrum.ts';

// biome-ignore lint/suspicious/noExplicitAny: options are those of the work they belong to
export type AnyCurveWork = CurveWork<any>;

/** Everything that can be done with curves, in the order in which it is offered. A new one is a file and a line here. */
export const curveWorks: readonly AnyCurveWork[] = [
  derivative,
  curveIntegral,
  smoothing,
  filter,
  crashFilter,
  difference,
  scaling,
  shifting,
  resampling,
  envelope,
  spectrum,
  fit,
];

/** A step of the work on a curve, as a document keeps it. */
export interface WorkStep {
  id: string;
  op: string;
  options: unknown;
  off: boolean;
}

/** What a step means; null when this version does not know it or its options do not fit. */
export function understoodWork(step: WorkStep): { work: AnyCurveWork; options: object } | null {
  const work = curveWorks.find((w) => w.id === step.op);
  const options: z.ZodSafeParseResult<object> | undefined = work?.schema.safeParse(step.options);
  return work && options?.success ? { work, options: options.data } : null;
}

/**
 * A curve after all that is done with it.
 *
 * @throws Error in words where something cannot be done
 */
export function worked(curve: CurveData, steps: readonly WorkStep[], beside: CurvesBeside): CurveData {
  return steps.reduce((before, step) => {
    if (step.off) return before;
    const known = understoodWork(step);
    if (!known)
      throw new Error(`This version does not understand “${step.op}”. Switch it off or take it away.`);
    return known.work.apply(before, known.options, beside);
  }, curve);
}
