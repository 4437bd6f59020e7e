import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import type { SceneThing } from './declaration.ts';

/** All legends together; each has its own look and place beside its scale. */
export interface Legends {
  shown: boolean;
}

const p = phrasesOf<Legends>();

export const legends: SceneThing<Legends, 'legends'> = {
  id: 'legends',
  name: 'the legends',
  line: 'words',
  schema: z.object({ shown: z.boolean() }),
  plain: { shown: true },
  defaults: () => ({ shown: true }),
  opening: 'Legends ',
  silent: ({ shown }) => shown,
  phrase: p.styled(
    ({ shown }) => [
      { text: ', ' },
      { text: shown ? 'legends' : 'no legends', control: { kind: 'setting', thing: 'legends' } },
    ],
    p.choice('shown', [
      { text: 'shown', value: true },
      { text: 'hidden', value: false },
    ]),
  ),
  controls: [{ kind: 'tick', key: 'shown', label: 'All legends' }],
};
