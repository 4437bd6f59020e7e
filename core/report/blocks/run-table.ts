import { z } from '../../model/schema.ts';
import { type BlockKind, captioned, captionedBase, isMissing, seenFacts, sourceName } from './block.ts';

const schema = z.object({
  ...captionedBase,
  kind: z.literal('runs'),
});

/** The runs of a set, with what was chosen for each and what came of it. */
export const runTable: BlockKind<z.infer<typeof schema>> = {
  kind: 'runs',
  name: 'Table of runs',
  about: 'the inputs and outputs of a set of runs',
  counted: { word: 'runs', as: 'Table' },
  of: 'set',
  schema,
  plain: (id, source) => ({ id, kind: 'runs', readers: null, source, captions: {} }),
  says: ({ source }, at) => `Runs of ${sourceName(source, at)}`,
  compose(block, at) {
    const seen = seenFacts(block, 'set', at);
    if (isMissing(seen)) return seen;
    const { columns, rows, findings } = seen.facts;
    return {
      kind: 'table',
      ...captioned(block, `${seen.name}: ${rows.length} runs with what was chosen and what came of it.`, at),
      columns: [
        { name: 'Run', align: 'left' },
        ...columns.map(({ name, unit }) => ({
          name: at.told(unit ? `${name}, ${unit}` : name),
          align: 'right' as const,
        })),
      ],
      rows: rows.map(({ run, cells }) => [run, ...cells]),
      notes: at.reader === 'engineer' ? [...findings] : [],
    };
  },
};
