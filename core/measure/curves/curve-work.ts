import type { Phrase } from '../../language/phrase.ts';
import type { z } from '../../model/schema.ts';
import type { Versioned } from '../../model/versioned.ts';
import type { OptionControl } from '../../ops/chain/operation.ts';
import type { CurveData } from './curve-data.ts';

/** What work on a curve may look at beside it. */
export interface CurvesBeside {
  /** Another curve, as it is drawn, by its id; null when there is none. */
  curve(id: string): CurveData | null;
}

/**
 * Something that is done with a curve before it is drawn. Its file holds all there is to it, as that of an operation does.
 *
 * @typeParam O options
 */
export interface CurveWork<O extends object> extends Versioned {
  id: string;
  name: string;
  purpose: string;
  schema: z.ZodType<O>;
  /** What it is to begin with, for a curve. */
  defaults(curve: CurveData | null): O;
  /** Behind the curve it is done with: `smoothed over 5`. */
  phrase: Phrase<O>;
  controls: OptionControl<O>[];
  /**
   * The given curve is left alone.
   *
   * @throws Error in words where it cannot be done
   */
  apply(curve: CurveData, options: O, beside: CurvesBeside): CurveData;
}
