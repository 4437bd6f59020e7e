import { fieldsOfCondition, type NamedField } from '../../fields/condition.ts';
import type { FieldNeed } from '../../fields/sources/quantity-source.ts';
import { z } from '../../model/schema.ts';
import type { OperationSetting } from './operation.ts';

/** A condition among the options of an operation. */
export interface ConditionOptions {
  condition: string;
  /** What the names of the condition stand for; settled when it runs. */
  names: Record<string, NamedField>;
}

export const conditionShape = {
  condition: z.string().max(2000).default(''),
  names: z
    .record(
      z.string(),
      z.object({ need: z.object({ field: z.string() }), unit: z.string().nullable().default(null) }),
    )
    .default({}),
};

/**
 * The options with the names of their condition settled.
 *
 * @throws FormulaError for a condition that is not understood there
 */
export const withConditionSettled = <O extends ConditionOptions>(
  options: O,
  { fields, sets }: OperationSetting,
): O => ({ ...options, names: Object.fromEntries(fieldsOfCondition(options.condition, fields, sets)) });

export const needsOfCondition = ({ names }: ConditionOptions): FieldNeed[] =>
  Object.values(names).map(({ need }) => need);
