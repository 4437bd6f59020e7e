import { boundedNumber, wholeNumber } from './bounded-number.ts';
import { z } from './schema.ts';

/** When a rule by values is looked at: at every step anew, or once and for all at one step. */
const whenSchema = z.union([z.literal('each step'), wholeNumber().min(0)]);

/**
 * How a part set is made: from parts, a set of the files, a box, cells that were pointed at, the region around a cell,
 * values or a condition, and from other sets.
 */
export type SetRule =
  | { kind: 'parts'; parts: string[] }
  | { kind: 'group'; name: string }
  | { kind: 'box'; low: [number, number, number]; high: [number, number, number] }
  | { kind: 'cells'; cells: Record<string, number[]> }
  | { kind: 'region'; part: string; cell: number }
  | {
      kind: 'range';
      field: string;
      component: number | 'magnitude';
      low: number;
      high: number;
      when: 'each step' | number;
    }
  | { kind: 'condition'; condition: string; when: 'each step' | number }
  | { kind: 'union' | 'intersection' | 'difference'; of: SetRule[] }
  | { kind: 'complement'; of: SetRule[] };

const vector = z.tuple([boundedNumber(), boundedNumber(), boundedNumber()]);

export const setRuleSchema: z.ZodType<SetRule> = z.lazy(() =>
  z.union([
    z.object({ kind: z.literal('parts'), parts: z.array(z.string()) }),
    z.object({ kind: z.literal('group'), name: z.string() }),
    z.object({ kind: z.literal('box'), low: vector, high: vector }),
    z.object({ kind: z.literal('cells'), cells: z.record(z.string(), z.array(wholeNumber().min(0))) }),
    z.object({ kind: z.literal('region'), part: z.string(), cell: wholeNumber().min(0) }),
    z.object({
      kind: z.literal('range'),
      field: z.string(),
      component: z.union([wholeNumber(), z.literal('magnitude')]),
      low: boundedNumber(),
      high: boundedNumber(),
      when: whenSchema,
    }),
    z.object({ kind: z.literal('condition'), condition: z.string(), when: whenSchema }),
    z.object({ kind: z.enum(['union', 'intersection', 'difference']), of: z.array(setRuleSchema) }),
    z.object({ kind: z.literal('complement'), of: z.array(setRuleSchema).length(1) }),
  ]),
);
