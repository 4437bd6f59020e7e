import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { Vector } from '../../model/vectors.ts';
import { vectorSchema } from '../../ops/kernels/planes.ts';
import type { SceneThing } from './declaration.ts';
import { wholeStyle } from './style.ts';

export interface Focus {
  /** How widely a point very far away is spread, in percent of the height of the picture; 0 shows all sharply. */
  blur: number;
  /** What is sharp: what the camera looks at, or a place of its own. */
  at: 'target' | 'place';
  place: Vector;
}

const plain: Focus = { blur: 0, at: 'target', place: [0, 0, 0] };

const isOpen = ({ blur }: Focus): boolean => blur > 0;

const p = phrasesOf<Focus>();

export const focus: SceneThing<Focus, 'focus'> = {
  id: 'focus',
  name: 'the focus',
  line: 'lens',
  // Where it is sharp is a place of the model.
  style: { ...wholeStyle(), keep: ({ blur }) => ({ blur }) },
  schema: z.object({
    blur: boundedNumber().min(0).max(50),
    at: z.enum(['target', 'place']),
    place: vectorSchema,
  }),
  plain,
  defaults: () => plain,
  opening: 'Focus ',
  silent: ({ blur }) => blur === 0,
  phrase: p.styled(
    ({ blur, at }) => [
      words(', '),
      {
        text: blur === 0 ? 'all sharp' : at === 'target' ? 'sharp in the middle' : 'sharp at one place',
        control: { kind: 'setting', thing: 'focus' },
      },
    ],
    p.row(
      p.oneOf(
        p.row(p.text('on the target'), p.fixed('at', 'target')),
        p.row(p.text('on '), p.fixed('at', 'place')),
      ),
      p.suffixes(
        { usual: { place: plain.place }, phrase: p.vector('place') },
        { usual: {}, phrase: p.row(p.text('blurred by '), p.number('blur', 'percent'), p.text(' far away')) },
      ),
    ),
  ),
  controls: [
    {
      kind: 'number',
      key: 'blur',
      label: 'Blur far away',
      called: 'blur',
      unit: 'percent',
      range: () => [0, 12],
    },
    {
      kind: 'choice',
      key: 'at',
      label: 'Sharp',
      choices: [
        { value: 'target', label: 'what the camera looks at' },
        { value: 'place', label: 'a place' },
      ],
      when: isOpen,
    },
    { kind: 'place', key: 'place', label: 'Place', when: (focus) => isOpen(focus) && focus.at === 'place' },
  ],
};
