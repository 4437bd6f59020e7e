import type { FieldNeed } from '../fields/sources/quantity-source.ts';
import type { Phrase, PhraseSetting } from '../language/phrase.ts';
import type { z } from '../model/schema.ts';
import type { OperationInput, OperationSetting } from '../ops/chain/operation.ts';
import type { CurveData } from './curves/curve-data.ts';

/** A number, or the parts of a vector, measured on something. */
export interface Answer {
  value: number | number[];
  /** Where it is so, in the coordinates of the files; of extremes and of values at a place. */
  place?: number[];
  /** The places it is measured between, one after the other, in the coordinates of the files. */
  between?: number[][];
  /** Of a number along a direction, all of the vector that it is a part of. */
  whole?: number[];
  /** Of a force, about the place that was asked for. */
  moment?: number[];
  /** What looks odd about what was asked. */
  note?: string;
  /** A curve it is, beside the number that says how large that is. */
  curve?: AnsweredCurve;
  /** How much was left out because there is no value: a share from 0 to 1. */
  missing?: number;
}

/** A curve as an answer: plain data, in the order of its places. */
export interface AnsweredCurve extends Pick<CurveData, 'scattered' | 'bars'> {
  x: readonly number[];
  y: readonly number[];
}

/** Nothing could be measured, said so that it follows on "has no". */
export interface Lacking {
  lacking: string;
}

export const isLacking = (found: object): found is Lacking => 'lacking' in found;

/**
 * A way to get a number from something. Its file holds all there is to it: options with their schema, the phrase that says
 * and reads them, and the computation, part by part.
 *
 * @typeParam O options
 * @typeParam P what one part gives; plain data that goes between workers and is joined with that of other parts
 */
export interface Measure<O, P extends object> {
  id: string;
  name: string;
  purpose: string;
  schema: z.ZodType<O>;
  /** Words before what is measured on. */
  phrase: Phrase<O>;
  /** Words behind what is measured on. */
  clauses?: Phrase<O>;
  /** Whether something is named that it is measured on; else it is all there is. */
  asks: 'something' | 'everything';
  needs(options: O): FieldNeed[];
  /** A sentence to begin with, for what a newcomer most likely asks; null where it makes no sense here. */
  example(setting: OperationSetting): string | null;
  /** Its answers are curves. */
  givesCurve?: boolean;
  /** Whether the answer has parts along x, y and z; else it is one number. */
  isVector?(options: O): boolean;
  /** The direction that counts as positive, where there is one. */
  positive?(options: O): readonly number[] | null;
  /** What of the workpiece is really measured, where that is not all of it. */
  looksAt?(input: OperationInput, options: O): OperationInput;
  /** Of surfaces that look along a direction: which; null where their faces look outwards or as they are. */
  facing?(options: O, along: readonly number[] | null): O;
  ofPart(input: OperationInput, options: O): P | Lacking;
  join(a: P, b: P, options: O): P;
  answer(part: P, options: O): Answer | Lacking;
  /** What its curve runs along, and what it shows. */
  axes?(options: O, setting: PhraseSetting): Pick<CurveData, 'along' | 'up'>;
  /** Of the answer, once it is there; null where it is not known. */
  unit(options: O, setting: PhraseSetting, part: P): string | null;
}
