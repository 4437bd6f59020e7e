import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { type PlaceInPicture, placeControls, placeInPicture, sayPlace } from '../things/place-in-picture.ts';
import type { AnnotationKind } from './annotation.ts';
import { imageSchema } from './image-source.ts';
import { keptInside, placeAfterMove } from './keep-inside.ts';

export interface Logo extends PlaceInPicture {
  /** Data address of the picture; empty before one is chosen. */
  image: string;
  /** Its height, in hundredths of that of the picture. */
  size: number;
  opacity: number;
}

const p = phrasesOf<Logo>();
const plain: Logo = { image: '', size: 8, opacity: 1, x: 0.92, y: 0.07 };

/** A small picture on the picture. */
export const logo: AnnotationKind<Logo, 'logo'> = {
  id: 'logo',
  name: 'the logo',
  offered: 'Logo',
  purpose: 'a small picture of your own; vector files stay sharp',
  schema: z.object({
    image: imageSchema,
    size: boundedNumber().min(0.5).max(100),
    opacity: boundedNumber().min(0).max(1),
    x: placeInPicture(),
    y: placeInPicture(),
  }),
  plain,
  defaults: () => plain,
  opening: 'Logo ',
  phrase: p.styled(
    ({ image }) => [words(image === '' ? 'Logo, no picture yet' : 'Logo')],
    p.row(
      p.quoted('image'),
      p.text(' at '),
      sayPlace<Logo>(),
      p.suffixes(
        { usual: { size: plain.size }, phrase: p.row(p.text('size '), p.number('size', 'percent')) },
        { usual: { opacity: plain.opacity }, phrase: p.row(p.share('opacity'), p.text(' opaque')) },
      ),
    ),
  ),
  controls: [
    { kind: 'image', key: 'image', label: 'Picture' },
    { kind: 'number', key: 'size', label: 'Height', unit: 'percent', range: () => [2, 40] },
    { kind: 'share', key: 'opacity', label: 'Opaque' },
    ...placeControls<Logo>(),
  ],
  pictures: ({ image }) => [image],
  layout(o, s) {
    const shape = s.shapeOf(o.image);
    if (shape === null) return null;
    const height = o.size * s.unit;
    const width = height * shape;
    const box = keptInside(
      { x: o.x * s.width - width / 2, y: o.y * s.height - height / 2, width, height },
      s,
      s.unit,
    );
    return { shapes: [{ kind: 'image', box, source: o.image, opacity: o.opacity }], box };
  },
  moved: (_, by, s) => placeAfterMove(by, s),
};
