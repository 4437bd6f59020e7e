import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { colourSchema } from '../things/colour-code.ts';
import type { AnnotationKind } from './annotation.ts';

export interface Border {
  /** Width of the line, its way from the edge and the radius of its corners, in hundredths of the picture's height. */
  width: number;
  inset: number;
  radius: number;
  /** Null for the colour of words. */
  ink: string | null;
}

const p = phrasesOf<Border>();
const plain: Border = { width: 0.3, inset: 1.2, radius: 0, ink: null };

/** A line around the picture. */
export const border: AnnotationKind<Border, 'border'> = {
  id: 'border',
  name: 'the border',
  offered: 'Border',
  purpose: 'a line around the picture',
  schema: z.object({
    width: boundedNumber().min(0.05).max(10),
    inset: boundedNumber().min(0).max(20),
    radius: boundedNumber().min(0).max(20),
    ink: colourSchema.nullable(),
  }),
  plain,
  defaults: () => plain,
  opening: 'Border ',
  phrase: p.styled(
    () => [words('Border')],
    p.row(
      p.number('width', 'percent'),
      p.suffixes(
        {
          usual: { inset: plain.inset },
          phrase: p.row(p.number('inset', 'percent'), p.text(' from the edge')),
        },
        {
          usual: { radius: plain.radius },
          phrase: p.row(p.text('corners of '), p.number('radius', 'percent')),
        },
        { usual: { ink: plain.ink }, phrase: p.row(p.text('in '), p.colour('ink')) },
      ),
    ),
  ),
  controls: [
    { kind: 'number', key: 'width', label: 'Width', unit: 'percent', range: () => [0.1, 3] },
    { kind: 'number', key: 'inset', label: 'From the edge', unit: 'percent', range: () => [0, 8] },
    { kind: 'number', key: 'radius', label: 'Round corners', unit: 'percent', range: () => [0, 10] },
    { kind: 'colour', key: 'ink', label: 'Colour', none: 'as the backdrop asks' },
  ],
  layout(o, { width, height, unit }) {
    const thick = o.width * unit;
    const from = o.inset * unit + thick / 2;
    return {
      shapes: [
        {
          kind: 'box',
          box: { x: from, y: from, width: width - 2 * from, height: height - 2 * from },
          radius: o.radius * unit,
          fill: null,
          opacity: 1,
          rim: { ink: o.ink, width: thick },
        },
      ],
      box: null,
    };
  },
};
