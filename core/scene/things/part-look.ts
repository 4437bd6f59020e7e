import { phrasesOf } from '../../language/phrase.ts';
import { type FinishOf, finishSchema } from '../../light/own-finish.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { colourSchema } from './colour-code.ts';
import type { Declaration } from './declaration.ts';
import { finishPhrase } from './finish-phrase.ts';

/** How a part stands out in every line that shows it. */
export interface PartLook {
  hidden: boolean;
  /** A colour of its own in place of the line's, or null. */
  colour: string | null;
  /** Whether its own colour takes the place of values too, where a line shows some. */
  coversValues: boolean;
  /** What it is made of in place of what its lines say, or null. */
  finish: FinishOf;
  /** Edges of its cells in place of what its lines say, or null. */
  edges: boolean | null;
  /** Times that of its lines. */
  opacity: number;
}

const p = phrasesOf<PartLook>();

export const partLook: Declaration<PartLook> = {
  id: 'parts',
  name: 'the look of a part',
  version: 4,
  migrations: {
    1: (old) => ({ ...old, opacity: 1 }),
    2: (old) => ({ ...old, coversValues: true }),
    3: (old) => ({ ...old, finish: null }),
  },
  schema: z.object({
    hidden: z.boolean(),
    colour: colourSchema.nullable(),
    coversValues: z.boolean(),
    finish: finishSchema,
    edges: z.boolean().nullable(),
    opacity: boundedNumber().min(0).max(1),
  }),
  plain: { hidden: false, colour: null, coversValues: true, finish: null, edges: null, opacity: 1 },
  opening: 'Part ',
  phrase: p.suffixes(
    { usual: { hidden: false }, phrase: p.row(p.text('hidden'), p.fixed('hidden', true)) },
    { usual: { colour: null }, phrase: p.row(p.text('in '), p.colour('colour')) },
    {
      usual: { coversValues: true },
      phrase: p.row(p.text('where its line has one colour'), p.fixed('coversValues', false)),
    },
    { usual: { finish: null }, phrase: finishPhrase },
    {
      usual: { edges: null, opacity: 1 },
      phrase: p.oneOf(
        p.row(p.text('with edges'), p.fixed('edges', true)),
        p.row(p.text('without edges'), p.fixed('edges', false)),
      ),
    },
    {
      usual: { opacity: 1 },
      phrase: p.row(p.text('at '), p.share('opacity'), p.text(' opacity')),
    },
  ),
  controls: [
    { kind: 'tick', key: 'hidden', label: 'Hidden' },
    { kind: 'colour', key: 'colour', label: 'Colour' },
    { kind: 'tick', key: 'coversValues', label: 'Also in place of values' },
    { kind: 'finish', key: 'finish', label: 'Finish', none: 'as its lines say' },
    { kind: 'share', key: 'opacity', label: 'Opacity' },
    {
      kind: 'choice',
      key: 'edges',
      label: 'Edges',
      choices: [
        { value: null, label: 'as its lines say' },
        { value: true, label: 'shown' },
        { value: false, label: 'hidden' },
      ],
    },
  ],
};

/** The colour a part has of its own in a line; null where it is coloured as the line says. */
export const ownColour = (look: PartLook | undefined, line: { colour: { kind: string } }): string | null =>
  look && (line.colour.kind === 'plain' || look.coversValues) ? look.colour : null;
