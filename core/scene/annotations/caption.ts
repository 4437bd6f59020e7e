import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { colourSchema } from '../things/colour-code.ts';
import type { AnnotationKind } from './annotation.ts';
import { shifted } from './drawing.ts';
import {
  type Lettering,
  LINE,
  letteringControls,
  letteringSchema,
  letteringSuffixes,
  plainLettering,
  textBlock,
} from './lettering-options.ts';
import { filledIn, needsOfText } from './template.ts';

export interface Caption extends Lettering {
  text: string;
  edge: 'top' | 'bottom';
  align: 'left' | 'center' | 'right';
  /** Colour of the bar; null for that of plates on the backdrop. */
  colour: string | null;
  opacity: number;
}

const p = phrasesOf<Caption>();
/** Its bar makes the words legible. */
const lettering: Lettering = { ...plainLettering, ground: 'none' };
const plain: Caption = {
  text: '{scene}',
  edge: 'bottom',
  align: 'left',
  colour: '#2a2622',
  opacity: 0.9,
  ...lettering,
  ink: '#f6f2ea',
};

/** Of the bar, in pixels: its lines with some room around them. */
const heightOf = ({ text, size }: Caption, unit: number): number =>
  (text.split('\n').length * LINE + 0.9) * size * unit;

/** A bar along an edge of the picture with words on it. */
export const caption: AnnotationKind<Caption, 'caption'> = {
  id: 'caption',
  name: 'the caption',
  offered: 'Caption bar',
  purpose: 'a bar along the top or the bottom, with words on it',
  schema: z.object({
    text: z.string().max(2000),
    edge: z.enum(['top', 'bottom']),
    align: z.enum(['left', 'center', 'right']),
    colour: colourSchema.nullable(),
    opacity: boundedNumber().min(0).max(1),
    ...letteringSchema,
  }),
  plain,
  defaults: () => plain,
  opening: 'Caption ',
  phrase: p.styled(
    ({ text, edge }) => [words(`“${text.replaceAll('\n', ' / ')}” along the ${edge}`)],
    p.row(
      p.quoted('text'),
      p.text(' along the '),
      p.choice('edge', [
        { text: 'top', value: 'top' },
        { text: 'bottom', value: 'bottom' },
      ]),
      p.suffixes(
        {
          usual: { align: plain.align },
          phrase: p.choice('align', [
            { text: 'at the left', value: 'left' },
            { text: 'in the middle', value: 'center' },
            { text: 'at the right', value: 'right' },
          ]),
        },
        {
          usual: { colour: plain.colour },
          phrase: p.oneOf(
            p.row(p.text('bar as a plate'), p.fixed('colour', null)),
            p.row(p.text('bar in '), p.colour('colour')),
          ),
        },
        { usual: { opacity: plain.opacity }, phrase: p.row(p.text('bar '), p.share('opacity')) },
        ...letteringSuffixes<Caption>({ ...lettering, ink: plain.ink }),
      ),
    ),
  ),
  controls: [
    { kind: 'template', key: 'text', label: 'Text', lines: true },
    {
      kind: 'choice',
      key: 'edge',
      label: 'Along the',
      choices: ['top', 'bottom'].map((value) => ({ value, label: value })),
    },
    {
      kind: 'choice',
      key: 'align',
      label: 'Words',
      choices: [
        { value: 'left', label: 'left' },
        { value: 'center', label: 'middle' },
        { value: 'right', label: 'right' },
      ],
    },
    { kind: 'colour', key: 'colour', label: 'Bar', none: 'as the backdrop asks' },
    { kind: 'share', key: 'opacity', label: 'Bar opaque' },
    ...letteringControls<Caption>().filter((c) => c.key !== 'ground'),
  ],
  text: 'text',
  knows: ({ text }, run, scene) => needsOfText(text, run, scene),
  layout(o, s) {
    const text = filledIn(o.text, { ...s, here: null });
    const block = textBlock(text, o, s, o.align);
    const height = heightOf(o, s.unit);
    const box = { x: 0, y: o.edge === 'top' ? 0 : s.height - height, width: s.width, height };
    const margin = 3 * s.unit;
    const x = { left: margin, center: (s.width - block.width) / 2, right: s.width - margin - block.width }[
      o.align
    ];
    return {
      shapes: [
        { kind: 'box', box, radius: 0, fill: o.colour ?? s.tone.plate, opacity: o.opacity, rim: null },
        // Its own bar is what lies behind its words: a halo of the backdrop would be wrong there.
        ...shifted(
          block.shapes.map((shape) => (shape.kind === 'text' ? { ...shape, halo: false } : shape)),
          x,
          box.y + (height - block.height) / 2,
        ),
      ],
      box,
    };
  },
  takesRoom(o, { unit }) {
    const height = heightOf(o, unit);
    return o.edge === 'top' ? { top: height, bottom: 0 } : { top: 0, bottom: height };
  },
  moved: (_, by, { box, height }) => ({
    edge: box.y + box.height / 2 + by.y < height / 2 ? 'top' : 'bottom',
  }),
};
