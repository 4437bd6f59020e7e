import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { z } from '../../model/schema.ts';
import { backdropById, backdrops } from '../backdrops/registry.ts';
import type { SceneThing } from './declaration.ts';

export interface BackdropChoice {
  /** A backdrop, by its id. */
  kind: string;
}

const p = phrasesOf<BackdropChoice>();

export const backdrop: SceneThing<BackdropChoice, 'backdrop'> = {
  id: 'backdrop',
  name: 'the backdrop',
  line: 'light',
  schema: z.object({ kind: z.enum(backdrops.map((b) => b.id)) }),
  plain: { kind: 'paper' },
  defaults: () => ({ kind: 'paper' }),
  opening: 'Backdrop ',
  phrase: p.styled(
    ({ kind }) => [
      words(', on '),
      { text: backdropById(kind).name, control: { kind: 'setting', thing: 'backdrop' } },
    ],
    p.choice(
      'kind',
      backdrops.map(({ id }) => ({ text: id, value: id })),
    ),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'kind',
      label: 'Backdrop',
      choices: backdrops.map(({ id, name, top, foot }) => ({ value: id, label: name, colours: [top, foot] })),
    },
  ],
};
