import { type Phrase, phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import { unitProduct } from '../model/unit-products.ts';
import type { Measure } from './measure.ts';
import { weightsOf } from './summed.ts';

const sizes = ['volume', 'area', 'length'] as const;

export interface SizeOptions {
  of: (typeof sizes)[number];
}

const p = phrasesOf<SizeOptions>();
const dimensionOf = { volume: 3, area: 2, length: 1 } as const;

/** How large something is. The area of a body is that of its outer faces. */
export const size: Measure<SizeOptions, { size: number }> = {
  id: 'size',
  name: 'Size',
  purpose: 'volume, area or length',
  schema: z.object({ of: z.enum(sizes) }),
  phrase: p.row(
    p.choice(
      'of',
      sizes.map((value) => ({ text: value, value })),
    ),
    p.text(' of ') as Phrase<SizeOptions>,
  ),
  asks: 'something',
  example: ({ dimension }) =>
    `${dimension === 3 ? 'volume' : dimension === 2 ? 'area' : 'length'} of everything`,
  looksAt: (input, { of }) => (of === 'area' ? input.outer() : input),
  needs: () => [],
  ofPart(input, { of }) {
    const dimension = dimensionOf[of];
    const measured = of === 'area' ? input.outer() : input;
    if (measured.mesh.types.length === 0) return { size: 0 };
    if (measured.dimension !== dimension) return { lacking: `${of}: ${kindOf[measured.dimension]}` };
    return { size: weightsOf(measured.mesh, dimension).cells.reduce((a, b) => a + b, 0) };
  },
  join: (a, b) => ({ size: a.size + b.size }),
  answer: ({ size: value }) => ({ value }),
  unit: ({ of }, { lengthUnit }) => unitProduct([lengthUnit, dimensionOf[of]]),
};

const kindOf = [
  'they are points, which can be counted',
  'they are lines, which have a length',
  'they are surfaces, which have an area',
  'they are bodies, which have a volume and an area',
];
