import { z } from '../../model/schema.ts';
import {
  type BlockKind,
  captioned,
  captionedBase,
  isMissing,
  missing,
  seenFacts,
  sourceName,
} from './block.ts';

const schema = z.object({
  ...captionedBase,
  kind: z.literal('readings'),
});

/** What the gauges of a scene read, as a table. */
export const readings: BlockKind<z.infer<typeof schema>> = {
  kind: 'readings',
  name: 'Table of readings',
  about: 'what the gauges of a scene read',
  counted: { word: 'table', as: 'Table' },
  of: 'scene',
  schema,
  plain: (id, source) => ({ id, kind: 'readings', readers: null, source, captions: {} }),
  says: ({ source }, at) => `Readings of ${sourceName(source, at)}`,
  compose(block, at) {
    const seen = seenFacts(block, 'scene', at);
    if (isMissing(seen)) return seen;
    const { readings: all, origin } = seen.facts;
    if (all.length === 0)
      return missing(block.id, `${seen.name} has no gauges. Ask for numbers in Gauges first.`);
    const when = origin.moment ? ` at ${origin.moment}` : '';
    return {
      kind: 'table',
      ...captioned(block, `Readings of ${seen.name}${when}.`, at),
      columns: [
        { name: 'Quantity', align: 'left' },
        { name: 'Value', align: 'right' },
      ],
      rows: all.map(({ name, said, trouble }) => [at.told(name), trouble === null ? said : 'no value']),
      notes: all.flatMap(({ name, notes, trouble }) =>
        trouble === null
          ? at.reader === 'engineer' && notes.length > 0
            ? [`${name}: ${notes.join(' ')}`]
            : []
          : [`${at.told(name)}: ${trouble}`],
      ),
    };
  },
};
