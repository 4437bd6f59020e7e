import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { backdropOf, backdrops, SWEEP, shownBackdrops } from '../backdrops/registry.ts';
import { type Enclosure, enclosurePhrase, enclosureSchema } from '../enclosure.ts';
import { colourSchema } from './colour-code.ts';
import type { SceneThing } from './declaration.ts';
import { wholeStyle } from './style.ts';

export interface BackdropChoice {
  /** A backdrop, by its id; `own` is made of the colours below, `sweep` of the first, `picture` and `surroundings` show what they say. */
  kind: string;
  /** `#rrggbb`; of what is shown, what words on it and mirrors go by. */
  top: string;
  foot: string;
  picture: Enclosure | null;
  /** Times as bright as what is shown is. */
  brightness: number;
  /** How far it is blurred, 0..1. */
  blur: number;
}

const plain: BackdropChoice = {
  kind: 'paper',
  top: '#ffffff',
  foot: '#ffffff',
  picture: null,
  brightness: 1,
  blur: 0,
};

const isOwn = ({ kind }: BackdropChoice): boolean => kind === 'own';
const isSweep = ({ kind }: BackdropChoice): boolean => kind === SWEEP;
const isPicture = ({ kind }: BackdropChoice): boolean => kind === 'picture';
const isShown = ({ kind }: BackdropChoice): boolean => shownBackdrops.some((s) => s.id === kind);

const p = phrasesOf<BackdropChoice>();
const ids = [...backdrops, { id: 'own' }, { id: SWEEP }, ...shownBackdrops].map(({ id }) => id);

export const backdrop: SceneThing<BackdropChoice, 'backdrop'> = {
  id: 'backdrop',
  name: 'the backdrop',
  line: 'light',
  style: wholeStyle(),
  version: 3,
  migrations: { 1: (old) => ({ ...plain, ...old }), 2: (old) => ({ ...plain, ...old }) },
  schema: z.object({
    kind: z.enum(ids),
    top: colourSchema,
    foot: colourSchema,
    picture: enclosureSchema.nullable(),
    brightness: boundedNumber().min(0).max(10),
    blur: boundedNumber().min(0).max(1),
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
        ids.map((id) => ({ text: id, value: id })),
      ),
      p.suffixes(
        { usual: { top: plain.top }, phrase: p.row(p.text('from '), p.colour('top')) },
        { usual: { foot: plain.foot }, phrase: p.row(p.text('to '), p.colour('foot')) },
        {
          usual: { picture: null },
          phrase: p.row(p.text('of '), enclosurePhrase<BackdropChoice>('picture')),
        },
        { usual: { brightness: 1 }, phrase: p.row(p.text('brightness '), p.share('brightness')) },
        { usual: { blur: 0 }, phrase: p.row(p.text('blurred by '), p.share('blur')) },
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
        { value: SWEEP, label: 'a sweep', purpose: 'the floor bends up to a wall, without an edge' },
        ...shownBackdrops.map(({ id, name, purpose }) => ({ value: id, label: name, purpose })),
      ],
      // They begin as those that were there.
      also: (to, _, before) => {
        const { top, foot } = backdropOf(before);
        return backdrops.some((b) => b.id === to) ? {} : { top, foot };
      },
    },
    { kind: 'colour', key: 'top', label: 'Colour', when: isSweep },
    { kind: 'colour', key: 'top', label: 'At the top', called: 'colour at the top', when: isOwn },
    { kind: 'colour', key: 'foot', label: 'At the foot', called: 'colour at the foot', when: isOwn },
    {
      kind: 'enclosure',
      of: 'picture',
      ends: ['top', 'foot'],
      key: 'picture',
      label: 'Picture',
      when: isPicture,
    },
    { kind: 'number', key: 'brightness', label: 'Brightness', range: () => [0, 2], when: isShown },
    { kind: 'share', key: 'blur', label: 'Blurred', when: isShown },
  ],
};
