import type { CurveData } from '../measure/curves/curve-data.ts';
import type { Answer, AnsweredCurve } from '../measure/measure.ts';
import type { Bounds } from '../model/mesh.ts';

/** What a gauge is measured on. */
export interface MeasuredOn {
  parts: string[];
  /** Of the highest dimension there is: 3 bodies, 2 surfaces, 1 lines, 0 points. */
  dimension: number;
  cells: number;
  /** In the coordinates of the files. */
  bounds: Bounds;
}

/** An answer with all there is to say of it. */
export interface Reading extends Omit<Answer, 'curve'> {
  curve?: AnsweredCurve & Pick<CurveData, 'along' | 'up'>;
  unit: string | null;
  on: MeasuredOn;
  /** The direction that counts as positive, where there is one. */
  positive: readonly number[] | null;
}

/** Why there is no answer. */
export interface NoReading {
  trouble: string;
}

/** What gauges read at a step, by their ids. */
export type Readings = Readonly<Record<string, Reading | NoReading>>;

export const isReading = (found: Reading | NoReading | undefined): found is Reading =>
  found !== undefined && 'value' in found;

/** Which number of an answer: the only one, or one of a vector. */
export type ReadingPart = 'value' | 'x' | 'y' | 'z' | 'size';

/** A number of an answer; not a number where there is none of that kind. */
export function numberOf({ value }: Pick<Answer, 'value'>, part: ReadingPart): number {
  if (typeof value === 'number') return part === 'value' || part === 'size' ? value : Number.NaN;
  if (part === 'value' || part === 'size') return Math.hypot(...value);
  return value['xyz'.indexOf(part)] ?? Number.NaN;
}
