import { z } from '../../model/schema.ts';
import { type BlockKind, blockBase, idSchema, isMissing, missing, seenFacts, sourceName } from './block.ts';

const schema = z.object({
  ...blockBase,
  kind: z.literal('numbers'),
  source: idSchema,
  /** Ids of gauges; null for all. */
  gauges: z.array(idSchema).max(50).nullable(),
});

/** Numbers to be read at a glance: what some gauges of a scene read, in large figures. */
export const numbers: BlockKind<z.infer<typeof schema>> = {
  kind: 'numbers',
  name: 'Large numbers',
  about: 'what gauges read, to be seen at a glance',
  counted: null,
  of: 'scene',
  schema,
  plain: (id, source) => ({ id, kind: 'numbers', readers: null, source, gauges: null }),
  says: ({ source }, at) => `Numbers of ${sourceName(source, at)}`,
  compose(block, at) {
    const seen = seenFacts(block, 'scene', at);
    if (isMissing(seen)) return seen;
    const { id, gauges } = block;
    const chosen = seen.facts.readings.filter((r) => gauges === null || gauges.includes(r.id));
    if (chosen.length === 0)
      return missing(id, `${seen.name} has no gauges for this. Ask for numbers in Gauges first.`);
    return {
      kind: 'numbers',
      id,
      items: chosen.map(({ name, said, trouble }) => ({
        label: at.told(name),
        said: trouble === null ? said : '–',
        note: trouble ?? '',
      })),
    };
  },
};
