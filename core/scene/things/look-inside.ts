import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import type { SceneThing } from './declaration.ts';

/** What is done with parts that stand between the camera and the middle. */
export interface LookInside {
  front: 'off' | 'translucent' | 'removed';
}

const p = phrasesOf<LookInside>();
const choices = [
  { value: 'off', label: 'look inside' },
  { value: 'translucent', label: 'front see-through' },
  { value: 'removed', label: 'front removed' },
];

export const lookInside: SceneThing<LookInside, 'lookInside'> = {
  id: 'lookInside',
  name: 'looking inside',
  line: null,
  schema: z.object({ front: z.enum(['off', 'translucent', 'removed']) }),
  plain: { front: 'off' },
  defaults: () => ({ front: 'off' }),
  opening: 'Front ',
  phrase: p.choice(
    'front',
    choices.map(({ value }) => ({ text: value, value })),
  ),
  silent: ({ front }) => front === 'off',
  controls: [{ kind: 'choice', key: 'front', label: 'In front', called: 'what is in front', choices }],
};
