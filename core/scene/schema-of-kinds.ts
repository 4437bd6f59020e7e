import { z } from '../model/schema.ts';

const common = {
  id: z.string().min(1).max(200),
  visible: z.boolean(),
  version: z.number().int().min(1).optional(),
};

/** Something of one of several kinds, as a document keeps it: what all have in common, and beside it the options of its kind. */
export const schemaOfKinds = <T>(kinds: readonly { id: string; schema: unknown }[]): z.ZodType<T> =>
  z.discriminatedUnion(
    'kind',
    kinds.map(({ id, schema }) =>
      (schema as z.ZodObject).extend({ ...common, kind: z.literal(id) }),
    ) as unknown as [z.ZodObject<{ kind: z.ZodLiteral<string> }>],
  ) as unknown as z.ZodType<T>;
