import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { sameJson } from '../../model/same-json.ts';
import { z } from '../../model/schema.ts';
import { colourSchema } from './colour-code.ts';
import type { SceneThing } from './declaration.ts';
import { wholeStyle } from './style.ts';

/** Lines drawn along the edges of opaque bodies, as a draughtsman would; and bodies tinted where they turn away. */
export interface Ink {
  shown: boolean;
  /** Around bodies, and where one part of a body stands before another. */
  outlines: boolean;
  /** Where a body bends by more than an angle, in degrees. */
  creases: boolean;
  angle: number;
  /** Where two bodies touch or go through one another. */
  meetings: boolean;
  width: number;
  unit: 'points' | 'pixels';
  colour: string;
  /** How far bodies without values are tinted where they are looked at along their surface, 0..1. */
  tint: number;
  tintColour: string;
}

/** Height of a picture that a point is told of, in points: of a slide 190.5 mm high (a point is 1/72 of 25.4 mm). */
const SLIDE = 540;

/** Width of its lines in a picture, in pixels. */
export const inkWidth = ({ width, unit }: Pick<Ink, 'width' | 'unit'>, height: number): number =>
  unit === 'pixels' ? width : (width * height) / SLIDE;

const plain: Ink = {
  shown: false,
  outlines: true,
  creases: true,
  angle: 35,
  meetings: true,
  width: 1,
  unit: 'points',
  colour: '#1d1b18',
  tint: 0,
  tintColour: '#ffffff',
};

const isShown = ({ shown }: Ink): boolean => shown;
const isTinted = ({ tint }: Ink): boolean => tint > 0;

function toReader({ shown, tint }: Ink): string {
  if (shown) return tint > 0 ? 'inked, with tinted edges' : 'inked';
  return tint > 0 ? 'with tinted edges' : 'no ink';
}

const p = phrasesOf<Ink>();

export const ink: SceneThing<Ink, 'ink'> = {
  id: 'ink',
  name: 'the ink',
  line: 'light',
  style: wholeStyle(),
  schema: z.object({
    shown: z.boolean(),
    outlines: z.boolean(),
    creases: z.boolean(),
    angle: boundedNumber().min(1).max(180),
    meetings: z.boolean(),
    width: boundedNumber().min(0.1).max(20),
    unit: z.enum(['points', 'pixels']),
    colour: colourSchema,
    tint: boundedNumber().min(0).max(1),
    tintColour: colourSchema,
  }),
  plain,
  defaults: () => plain,
  opening: 'Ink ',
  silent: (ink) => sameJson(ink, plain),
  phrase: p.styled(
    (ink) => [words(', '), { text: toReader(ink), control: { kind: 'setting', thing: 'ink' } }],
    p.row(
      p.oneOf(
        p.row(p.text('drawn'), p.fixed('shown', true)),
        p.row(p.text('not drawn'), p.fixed('shown', false)),
      ),
      p.suffixes(
        { usual: {}, phrase: p.row(p.number('width'), p.text(' '), unitChoice(), p.text(' wide')) },
        { usual: { colour: plain.colour }, phrase: p.row(p.text('in '), p.colour('colour')) },
        { usual: { outlines: true }, phrase: p.row(p.text('no outlines'), p.fixed('outlines', false)) },
        { usual: { creases: true }, phrase: p.row(p.text('no creases'), p.fixed('creases', false)) },
        {
          usual: { angle: plain.angle },
          phrase: p.row(p.text('creases above '), p.number('angle', 'angle')),
        },
        { usual: { meetings: true }, phrase: p.row(p.text('no meetings'), p.fixed('meetings', false)) },
        { usual: { tint: 0 }, phrase: p.row(p.text('tinted by '), p.share('tint')) },
        { usual: { tintColour: plain.tintColour }, phrase: p.row(p.text('tint '), p.colour('tintColour')) },
      ),
    ),
  ),
  controls: [
    { kind: 'tick', key: 'shown', label: 'Ink lines' },
    { kind: 'tick', key: 'outlines', label: 'Around bodies', called: 'outlines', when: isShown },
    { kind: 'tick', key: 'creases', label: 'Where they bend', called: 'creases', when: isShown },
    {
      kind: 'number',
      key: 'angle',
      label: 'by more than',
      called: 'least bend',
      unit: 'angle',
      range: () => [5, 90],
      when: (ink) => isShown(ink) && ink.creases,
    },
    {
      kind: 'tick',
      key: 'meetings',
      label: 'Where bodies meet',
      called: 'meetings of bodies',
      when: isShown,
    },
    { kind: 'number', key: 'width', label: 'Width', range: () => [0.25, 6], when: isShown },
    {
      kind: 'choice',
      key: 'unit',
      label: 'in',
      called: 'unit of the width',
      choices: [
        { value: 'points', label: 'points', purpose: 'of a slide 190 mm high: grows with the picture' },
        { value: 'pixels', label: 'pixels', purpose: 'of the picture, whatever its size' },
      ],
      when: isShown,
    },
    { kind: 'colour', key: 'colour', label: 'Ink', when: isShown },
    { kind: 'share', key: 'tint', label: 'Tinted edges' },
    { kind: 'colour', key: 'tintColour', label: 'Tint', when: isTinted },
  ],
};

function unitChoice() {
  return p.choice(
    'unit',
    (['points', 'pixels'] as const).map((unit) => ({ text: unit, value: unit })),
  );
}
