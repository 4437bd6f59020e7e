import { phrasesOf, type Suffix } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { OptionControl } from '../../ops/chain/operation.ts';
import { colourSchema } from '../things/colour-code.ts';
import { type LegendGround, legendGrounds } from '../things/legend.ts';
import type { AnnotationSetting } from './annotation.ts';
import type { Letters, Shape } from './drawing.ts';

/** How the words of an annotation look. */
export interface Lettering {
  /** Height of its letters, in hundredths of the height of the picture. */
  size: number;
  weight: 'regular' | 'medium' | 'bold';
  serif: boolean;
  /** Null for the colour the backdrop asks for. */
  ink: string | null;
  /** What lies behind the words. */
  ground: LegendGround;
}

export const plainLettering: Lettering = {
  size: 3,
  weight: 'medium',
  serif: false,
  ink: null,
  ground: 'as needed',
};

export const letteringSchema = {
  size: boundedNumber().min(0.5).max(40),
  weight: z.enum(['regular', 'medium', 'bold']),
  serif: z.boolean(),
  ink: colourSchema.nullable(),
  ground: z.enum(legendGrounds),
};

export const letteringControls = <O extends Lettering>(): OptionControl<O>[] => [
  { kind: 'number', key: 'size', label: 'Size', unit: 'percent', range: () => [1, 12] },
  {
    kind: 'choice',
    key: 'weight',
    label: 'Weight',
    choices: ['regular', 'medium', 'bold'].map((value) => ({ value, label: value })),
  },
  { kind: 'tick', key: 'serif', label: 'Serif letters' },
  { kind: 'colour', key: 'ink', label: 'Colour', none: 'as the backdrop asks' },
  {
    kind: 'choice',
    key: 'ground',
    label: 'Behind',
    choices: legendGrounds.map((value) => ({ value, label: value })),
  },
];

const p = phrasesOf<Lettering>();

/** What is said of letters in full, beside what is as in `usual`. */
export const letteringSuffixes = <O extends Lettering>(usual: Lettering = plainLettering): Suffix<O>[] =>
  [
    { usual: { size: usual.size }, phrase: p.row(p.text('size '), p.number('size', 'percent')) },
    {
      usual: { weight: usual.weight },
      phrase: p.choice('weight', [
        { text: 'regular', value: 'regular' },
        { text: 'medium', value: 'medium' },
        { text: 'bold', value: 'bold' },
      ]),
    },
    {
      usual: { serif: usual.serif },
      phrase: p.oneOf(
        p.row(p.text('in serif letters'), p.fixed('serif', true)),
        p.row(p.text('in plain letters'), p.fixed('serif', false)),
      ),
    },
    {
      usual: { ink: usual.ink },
      phrase: p.oneOf(
        p.row(p.text('in its own colour'), p.fixed('ink', null)),
        p.row(p.text('in '), p.colour('ink')),
      ),
    },
    {
      usual: { ground: usual.ground },
      phrase: p.choice('ground', [
        { text: 'on nothing', value: 'none' },
        { text: 'on a plate', value: 'plate' },
        { text: 'on a blur', value: 'blur' },
        { text: 'on what it needs', value: 'as needed' },
      ]),
    },
  ] as unknown as Suffix<O>[];

export const weightOf = ({ weight }: Pick<Lettering, 'weight'>): number =>
  ({ regular: 400, medium: 500, bold: 700 })[weight];

export const lettersOf = ({ serif }: Pick<Lettering, 'serif'>): Letters => (serif ? 'book' : 'plain');

/** Height of a line of text, in that of its letters. */
export const LINE = 1.3;

/** Some lines of text about their own top left, on what they need to be legible. */
export function textBlock(
  text: string,
  look: Lettering,
  { unit, measure }: Pick<AnnotationSetting, 'unit' | 'measure'>,
  align: 'left' | 'center' | 'right' = 'left',
): { shapes: Shape[]; width: number; height: number } {
  const size = look.size * unit;
  const weight = weightOf(look);
  const letters = lettersOf(look);
  const lines = text.split('\n');
  const width = Math.max(...lines.map((line) => measure(line, size, weight, letters)));
  const height = lines.length * LINE * size;
  const x = align === 'left' ? 0 : align === 'center' ? width / 2 : width;
  return {
    width,
    height,
    shapes: [
      {
        kind: 'ground',
        box: { x: 0, y: 0, width, height },
        ground: look.ground,
        ink: look.ink,
        pad: 0.4 * size,
      },
      ...lines.map(
        (line, i): Shape => ({
          kind: 'text',
          text: line,
          x,
          y: (i + 0.5) * LINE * size,
          size,
          weight,
          align,
          letters,
          ink: look.ink,
          halo: true,
        }),
      ),
    ],
  };
}
