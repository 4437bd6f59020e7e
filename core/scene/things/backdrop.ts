import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { z } from '../../model/schema.ts';
import { backdropOf, backdrops } from '../backdrops/registry.ts';
import { colourSchema } from './colour-code.ts';
import type { SceneThing } from './declaration.ts';

export interface BackdropChoice {
  /** A backdrop, by its id; `own` is made of the colours below. */
  kind: string;
  /** `#rrggbb` */
  top: string;
  foot: string;
}

const plain: BackdropChoice = { kind: 'paper', top: '#ffffff', foot: '#ffffff' };

const isOwn = ({ kind }: BackdropChoice): boolean => kind === 'own';

const p = phrasesOf<BackdropChoice>();

export const backdrop: SceneThing<BackdropChoice, 'backdrop'> = {
  id: 'backdrop',
  name: 'the backdrop',
  line: 'light',
  version: 2,
  migrations: { 1: (old) => ({ ...plain, ...old }) },
  schema: z.object({
    kind: z.enum([...backdrops.map((b) => b.id), 'own']),
    top: colourSchema,
    foot: colourSchema,
  }),
  plain,
  defaults: () => plain,
  opening: 'Backdrop ',
  phrase: p.styled(
    (choice) => [
      words(', on '),
      { text: backdropOf(choice).name, control: { kind: 'setting', thing: 'backdrop' } },
    ],
    p.row(
      p.choice(
        'kind',
        [...backdrops.map(({ id }) => id), 'own'].map((id) => ({ text: id, value: id })),
      ),
      p.suffixes(
        { usual: { top: plain.top }, phrase: p.row(p.text('from '), p.colour('top')) },
        { usual: { foot: plain.foot }, phrase: p.row(p.text('to '), p.colour('foot')) },
      ),
    ),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'kind',
      label: 'Backdrop',
      choices: [
        ...backdrops.map(({ id, name, top, foot }) => ({ value: id, label: name, colours: [top, foot] })),
        { value: 'own', label: 'own colours', purpose: 'plain, or from one to another' },
      ],
      // They begin as those that were there.
      also: (to, _, before) => {
        const { top, foot } = backdropOf(before);
        return to === 'own' ? { top, foot } : {};
      },
    },
    { kind: 'colour', key: 'top', label: 'At the top', when: isOwn },
    { kind: 'colour', key: 'foot', label: 'At the foot', when: isOwn },
  ],
};
