import { z } from '../../model/schema.ts';
import {
  type BlockKind,
  blockBase,
  idSchema,
  isMissing,
  missing,
  seenFacts,
  sourceName,
  wordsByReader,
} from './block.ts';

const schema = z.object({
  ...blockBase,
  kind: z.literal('readings'),
  source: idSchema,
  captions: wordsByReader,
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
    const { id, captions } = block;
    const { readings: all, origin } = seen.facts;
    if (all.length === 0) return missing(id, `${seen.name} has no gauges. Ask for numbers in Gauges first.`);
    const byHand = captions[at.reader];
    const when = origin.moment ? ` at ${origin.moment}` : '';
    return {
      kind: 'table',
      id,
      number: at.numberOf(id),
      caption:
        byHand === undefined ? [{ text: at.told(`Readings of ${seen.name}${when}.`) }] : at.words(byHand, id),
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
