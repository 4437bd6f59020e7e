import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { dot, unit, type Vector } from '../../model/vectors.ts';
import { cameraAxes } from '../camera.ts';
import { colourSchema } from '../things/colour-code.ts';
import { type PlaceInPicture, placeControls, placeInPicture, sayPlace } from '../things/place-in-picture.ts';
import type { AnnotationKind } from './annotation.ts';
import type { Shape, Spot } from './drawing.ts';
import { keptInside, placeAfterMove } from './keep-inside.ts';

export interface North extends PlaceInPicture {
  /** Which way north is, in the coordinates of the files. */
  direction: Vector;
  letter: string;
  size: number;
  ink: string | null;
}

const p = phrasesOf<North>();
const plain: North = { direction: [0, 1, 0], letter: 'N', size: 9, ink: null, x: 0.94, y: 0.175 };

/** Which way north is. */
export const north: AnnotationKind<North, 'north'> = {
  id: 'north',
  name: 'the north arrow',
  offered: 'North arrow',
  purpose: 'which way north is, for maps and sites',
  schema: z.object({
    direction: z.tuple([boundedNumber(), boundedNumber(), boundedNumber()]),
    letter: z.string().max(20),
    size: boundedNumber().min(1).max(60),
    ink: colourSchema.nullable(),
    x: placeInPicture(),
    y: placeInPicture(),
  }),
  plain,
  defaults: () => plain,
  opening: 'North along ',
  phrase: p.styled(
    () => [words('North arrow')],
    p.row(
      p.direction('direction'),
      p.text(' at '),
      sayPlace<North>(),
      p.suffixes(
        { usual: { size: plain.size }, phrase: p.row(p.text('size '), p.number('size', 'percent')) },
        { usual: { letter: plain.letter }, phrase: p.row(p.text('called '), p.quoted('letter')) },
        { usual: { ink: plain.ink }, phrase: p.row(p.text('in '), p.colour('ink')) },
      ),
    ),
  ),
  controls: [
    { kind: 'direction', key: 'direction', label: 'North is along' },
    { kind: 'words', key: 'letter', label: 'Letter', hint: 'N' },
    { kind: 'number', key: 'size', label: 'Size', unit: 'percent', range: () => [3, 20] },
    { kind: 'colour', key: 'ink', label: 'Colour', none: 'as the backdrop asks' },
    ...placeControls<North>(),
  ],
  layout(o, s) {
    const { right, up } = cameraAxes(s.scene.camera);
    const way = unit(o.direction);
    const to: Spot = [dot(way, right), -dot(way, up)];
    const seen = Math.hypot(...to);
    const length = o.size * s.unit;
    const reach = 0.75 * length;
    const box = keptInside(
      { x: o.x * s.width - reach, y: o.y * s.height - reach, width: 2 * reach, height: 2 * reach },
      s,
      s.unit,
    );
    const [x, y] = [box.x + reach, box.y + reach];
    // Along the line of sight there is no way on the picture to point.
    if (seen < 0.05) return { shapes: [], box };
    const [ux, uy] = [to[0] / seen, to[1] / seen];
    const half = 0.5 * length * Math.max(0.25, seen);
    const at = (along: number, side: number): Spot => [
      x + along * half * ux - side * length * uy,
      y + along * half * uy + side * length * ux,
    ];
    const needle = (side: number, fill: string | null): Shape => ({
      kind: 'area',
      corners: [at(1, 0), at(-1, side), at(-0.55, 0)],
      fill,
      opacity: 1,
    });
    const outline: Shape = {
      kind: 'line',
      spots: [at(1, 0), at(-1, 0.2), at(-0.55, 0), at(-1, -0.2), at(1, 0)],
      width: 0.03 * length,
      ink: o.ink,
      halo: true,
    };
    return {
      shapes: [
        outline,
        needle(0.2, o.ink),
        needle(-0.2, s.tone.plate),
        {
          kind: 'text',
          text: o.letter,
          x: x + (half + 0.2 * length) * ux,
          y: y + (half + 0.2 * length) * uy,
          size: 0.3 * length,
          weight: 700,
          align: 'center',
          letters: 'plain',
          ink: o.ink,
          halo: true,
        },
      ],
      box,
    };
  },
  moved: (_, by, s) => placeAfterMove(by, s),
};
