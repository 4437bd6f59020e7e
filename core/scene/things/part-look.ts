import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { colourSchema } from './colour-code.ts';
import type { Declaration } from './declaration.ts';

/** How a part stands out in every line that shows it. */
export interface PartLook {
  hidden: boolean;
  /** A colour of its own in place of the line's, or null. */
  colour: string | null;
  /** Edges of its cells in place of what its lines say, or null. */
  edges: boolean | null;
  /** Times that of its lines. */
  opacity: number;
}

const p = phrasesOf<PartLook>();

export const partLook: Declaration<PartLook> = {
  id: 'parts',
  name: 'the look of a part',
  version: 2,
  migrations: { 1: (old) => ({ ...old, opacity: 1 }) },
  schema: z.object({
    hidden: z.boolean(),
    colour: colourSchema.nullable(),
    edges: z.boolean().nullable(),
    opacity: boundedNumber().min(0).max(1),
  }),
  plain: { hidden: false, colour: null, edges: null, opacity: 1 },
  opening: 'Part ',
  phrase: p.suffixes(
    { usual: { hidden: false }, phrase: p.row(p.text('hidden'), p.fixed('hidden', true)) },
    { usual: { colour: null }, phrase: p.row(p.text('in '), p.colour('colour')) },
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
