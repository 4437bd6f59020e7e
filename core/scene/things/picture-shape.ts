import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { LARGEST_SIDE } from '../../model/largest-side.ts';
import { sameJson } from '../../model/same-json.ts';
import { z } from '../../model/schema.ts';
import { composingGuides } from '../composing-guides.ts';
import type { SceneThing } from './declaration.ts';

export interface PictureShape {
  /** Width over height; null fills the stage. */
  aspect: number | null;
  /** Lines to compose by, on the desk and never in pictures. */
  guide: string;
  /** Whether the desk shows how much of the picture is sure to be seen. */
  safe: boolean;
}

/** Of the widest picture that can be asked for, how many times it is as wide as high. */
const MOST_DRAWN_OUT = LARGEST_SIDE / 16;

const plain: PictureShape = { aspect: null, guide: 'none', safe: false };

const shapes: { value: number | null; label: string }[] = [
  { value: null, label: 'picture as wide as the stage' },
  { value: 16 / 9, label: 'picture of 16 to 9' },
  { value: 3 / 2, label: 'picture of 3 to 2' },
  { value: 4 / 3, label: 'picture of 4 to 3' },
  { value: 1, label: 'square picture' },
  { value: 9 / 16, label: 'picture of 9 to 16' },
];

function sayShape(aspect: number | null): string {
  const found = shapes.find(
    ({ value }) => value === aspect || (value && aspect && Math.abs(value - aspect) < 1e-3),
  );
  return found?.label ?? `picture of ${aspect!.toFixed(2)} to 1`;
}

/** What lies on the picture for whoever composes it, for a reader. */
const sayGuides = ({ guide, safe }: PictureShape): string => {
  const said = [composingGuides.find((g) => g.id === guide)?.said, safe ? 'its safe area' : ''].filter(
    Boolean,
  );
  return said.length > 0 ? `, shown with ${said.join(' and ')}` : '';
};

const p = phrasesOf<PictureShape>();

export const pictureShape: SceneThing<PictureShape, 'picture'> = {
  id: 'picture',
  name: 'the shape of the picture',
  line: 'words',
  version: 2,
  migrations: { 1: (old) => ({ ...plain, ...old }) },
  schema: z.object({
    aspect: boundedNumber()
      .min(1 / MOST_DRAWN_OUT)
      .max(MOST_DRAWN_OUT)
      .nullable(),
    guide: z.enum(['none', ...composingGuides.map((g) => g.id)]),
    safe: z.boolean(),
  }),
  plain,
  defaults: () => plain,
  opening: 'Picture ',
  phrase: p.styled(
    (shape) => [
      words(' on a '),
      { text: sayShape(shape.aspect), control: { kind: 'setting', thing: 'picture' } },
      words(sayGuides(shape)),
    ],
    p.row(
      p.oneOf(
        p.row(p.text('as wide as the stage'), p.fixed('aspect', null)),
        p.row(p.number('aspect'), p.text(' times as wide as high')),
      ),
      p.suffixes(
        {
          usual: { guide: 'none' },
          phrase: p.row(
            p.text('with '),
            p.choice(
              'guide',
              composingGuides.map((g) => ({ text: g.said, value: g.id })),
            ),
          ),
        },
        { usual: { safe: false }, phrase: p.row(p.text('with its safe area'), p.fixed('safe', true)) },
      ),
    ),
  ),
  silent: (shape) => sameJson(shape, plain),
  controls: [
    { kind: 'choice', key: 'aspect', label: 'Shape of the picture', choices: shapes },
    {
      kind: 'choice',
      key: 'guide',
      label: 'Lines to compose by',
      called: 'composing lines',
      choices: [
        { value: 'none', label: 'None' },
        ...composingGuides.map(({ id, name }) => ({ value: id, label: name })),
      ],
    },
    { kind: 'tick', key: 'safe', label: 'Show the safe area' },
  ],
};
