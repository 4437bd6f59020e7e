import type { MeasuredNumber } from '../model/run.ts';
import { z } from '../model/schema.ts';

/** Of a number at every step, the one that stands in a table. */
export const measureMoments = [
  'at the last step',
  'at the first step',
  'highest',
  'lowest',
  'mean of the steps',
] as const;
export type MeasureMoment = (typeof measureMoments)[number];

/** An output that is measured on every run of a set: what a gauge asks, in its words. */
export const measuredOutputSchema = z.object({
  id: z.string().min(1).max(100),
  /** As it is typed: `average of temperature over everything`. */
  sentence: z.string().min(1).max(1000),
  at: z.enum(measureMoments),
});
export type MeasuredOutput = z.infer<typeof measuredOutputSchema>;

/** Key of the column that it stands in; files have no column of that name. */
export const columnOfMeasure = ({ id }: Pick<MeasuredOutput, 'id'>): string => `measured: ${id}`;

/**
 * The one number of all steps; of vectors their lengths.
 *
 * @returns null where no step has one
 */
export function numberAt({ perStep }: MeasuredNumber, at: MeasureMoment): number | null {
  const each = perStep.map((v) => (v === null ? null : typeof v === 'number' ? v : Math.hypot(...v)));
  if (at === 'at the last step') return each.at(-1) ?? null;
  if (at === 'at the first step') return each[0] ?? null;
  const known = each.filter((v): v is number => v !== null && Number.isFinite(v));
  if (known.length === 0) return null;
  if (at === 'highest') return known.reduce((a, b) => Math.max(a, b));
  if (at === 'lowest') return known.reduce((a, b) => Math.min(a, b));
  return known.reduce((a, b) => a + b) / known.length;
}
