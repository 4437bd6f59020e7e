import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { dot, type Vector } from '../../model/vectors.ts';
import { cameraAxes } from '../camera.ts';
import { colourSchema } from '../things/colour-code.ts';
import { type PlaceInPicture, placeControls, placeInPicture, sayPlace } from '../things/place-in-picture.ts';
import type { AnnotationKind } from './annotation.ts';
import { arrowHead } from './dimension.ts';
import type { Shape, Spot } from './drawing.ts';
import { keptInside, placeAfterMove } from './keep-inside.ts';

export interface Axes extends PlaceInPicture {
  /** Length of an axis across the picture, in hundredths of its height. */
  size: number;
  /** What the axes are called, by spaces. */
  names: string;
  ink: string | null;
}

const p = phrasesOf<Axes>();
const plain: Axes = { size: 7, names: 'x y z', ink: null, x: 0.07, y: 0.82 };

const directions: readonly Vector[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** Which way the coordinates run. */
export const axes: AnnotationKind<Axes, 'axes'> = {
  id: 'axes',
  name: 'the axes',
  offered: 'Axes',
  purpose: 'which way x, y and z run',
  schema: z.object({
    size: boundedNumber().min(1).max(60),
    names: z.string().max(60),
    ink: colourSchema.nullable(),
    x: placeInPicture(),
    y: placeInPicture(),
  }),
  plain,
  defaults: () => plain,
  opening: 'Axes at ',
  phrase: p.styled(
    () => [words('Axes')],
    p.row(
      sayPlace<Axes>(),
      p.suffixes(
        { usual: { size: plain.size }, phrase: p.row(p.text('size '), p.number('size', 'percent')) },
        { usual: { names: plain.names }, phrase: p.row(p.text('called '), p.quoted('names')) },
        { usual: { ink: plain.ink }, phrase: p.row(p.text('in '), p.colour('ink')) },
      ),
    ),
  ),
  controls: [
    { kind: 'number', key: 'size', label: 'Size', unit: 'percent', range: () => [3, 20] },
    { kind: 'words', key: 'names', label: 'Called', hint: 'x y z' },
    { kind: 'colour', key: 'ink', label: 'Colour', none: 'as the backdrop asks' },
    ...placeControls<Axes>(),
  ],
  layout(o, s) {
    const { right, up, back } = cameraAxes(s.scene.camera);
    const length = o.size * s.unit;
    const reach = 1.25 * length;
    const box = keptInside(
      { x: o.x * s.width - reach, y: o.y * s.height - reach, width: 2 * reach, height: 2 * reach },
      s,
      s.unit,
    );
    const middle: Spot = [box.x + reach, box.y + reach];
    const names = o.names.trim().split(/\s+/);
    const drawn = directions.map((axis, k) => ({
      name: names[k] ?? 'xyz'[k],
      to: [dot(axis, right), -dot(axis, up)] as Spot,
      near: dot(axis, back),
    }));
    // What comes towards the camera lies over what goes away from it.
    drawn.sort((a, b) => a.near - b.near);
    const letters = Math.max(0.3 * length, 1.8 * s.unit);
    const shapes = drawn.flatMap(({ name, to, near }): Shape[] => {
      const seen = Math.hypot(...to);
      const tip: Spot = [middle[0] + length * to[0], middle[1] + length * to[1]];
      // An axis that points at the camera is a dot, one that points away a ring.
      if (seen < 0.06)
        return [
          {
            kind: 'disc',
            x: middle[0],
            y: middle[1],
            radius: 0.09 * length,
            fill: near > 0 ? o.ink : s.tone.plate,
            rim: { ink: o.ink, width: 0.04 * length },
          },
          text(name, middle[0] + 0.28 * length, middle[1] + 0.28 * length),
        ];
      return [
        { kind: 'line', spots: [middle, tip], width: 0.045 * length, ink: o.ink, halo: true },
        arrowHead(tip, to, 0.24 * length * Math.max(0.5, seen), o.ink),
        text(
          name,
          middle[0] + (length * seen + 0.6 * letters) * (to[0] / seen),
          middle[1] + (length * seen + 0.6 * letters) * (to[1] / seen),
        ),
      ];
    });
    return { shapes, box };

    function text(said: string, x: number, y: number): Shape {
      return {
        kind: 'text',
        text: said,
        x,
        y,
        size: letters,
        weight: 600,
        align: 'center',
        letters: 'plain',
        ink: o.ink,
        halo: true,
      };
    }
  },
  moved: (_, by, s) => placeAfterMove(by, s),
};
