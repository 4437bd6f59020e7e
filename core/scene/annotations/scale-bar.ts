import { phrasesOf } from '../../language/phrase.ts';
import { sayNumber, words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { convertUnit, unitsToShow } from '../../model/units.ts';
import { type PlaceInPicture, placeControls, placeInPicture, sayPlace } from '../things/place-in-picture.ts';
import type { AnnotationKind } from './annotation.ts';
import type { Shape } from './drawing.ts';
import { keptInside, placeAfterMove } from './keep-inside.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  letteringSuffixes,
  lettersOf,
  plainLettering,
  textBlock,
  weightOf,
} from './lettering-options.ts';
import { pixelsPerLength } from './pixels-per-length.ts';

export interface ScaleBar extends Lettering, PlaceInPicture {
  /** In the unit of the run; null for a round one of about a fifth of the picture. */
  length: number | null;
  /** Unit its length is said in; null for that of the run. */
  unit: string | null;
}

const p = phrasesOf<ScaleBar>();
const lettering: Lettering = { ...plainLettering, size: 2.4 };
const plain: ScaleBar = { length: null, unit: null, x: 0.5, y: 0.95, ...lettering };
/** Share of the width of the picture that a bar of its own choice comes near to. */
const SHARE = 0.2;

/** The largest of 1, 2 and 5 times a power of ten that is no more than a length. */
export function roundLength(most: number): number {
  const power = 10 ** Math.floor(Math.log10(most));
  const found = [5, 2, 1].find((m) => m * power <= most * (1 + 1e-12)) ?? 1;
  return Number((found * power).toPrecision(12));
}

/** How long something is on the picture, where the camera looks at. */
export const scaleBar: AnnotationKind<ScaleBar, 'scale-bar'> = {
  id: 'scale-bar',
  name: 'the scale bar',
  offered: 'Scale bar',
  purpose: 'a length on the picture; in perspective it holds where the camera looks at',
  schema: z.object({
    length: boundedNumber().positive().nullable(),
    unit: z.string().max(40).nullable(),
    x: placeInPicture(),
    y: placeInPicture(),
    ...letteringSchema,
  }),
  plain,
  defaults: () => plain,
  opening: 'Scale bar at ',
  phrase: p.styled(
    () => [words('Scale bar')],
    p.row(
      sayPlace<ScaleBar>(),
      p.suffixes(
        { usual: { length: null }, phrase: p.row(p.number('length'), p.text(' long')) },
        { usual: { unit: null }, phrase: p.row(p.text('said in '), p.quoted('unit')) },
        ...letteringSuffixes<ScaleBar>(lettering),
      ),
    ),
  ),
  controls: [
    { kind: 'number', key: 'length', label: 'Length', unit: 'length', none: 'a round one' },
    {
      kind: 'word',
      key: 'unit',
      label: 'Said in',
      words: ({ lengthUnit }) => (lengthUnit ? unitsToShow(lengthUnit) : []),
      usual: ({ lengthUnit }) => lengthUnit ?? '',
      when: (_, { lengthUnit }) => lengthUnit !== null,
    },
    ...letteringControls<ScaleBar>(),
    ...placeControls<ScaleBar>(),
  ],
  layout(o, s) {
    const { camera } = s.scene;
    const perLength = pixelsPerLength(s);
    if (!perLength) return null;
    const stored = s.run.lengthUnit;
    const factor = o.unit && stored ? (convertUnit(1, stored, o.unit) ?? 1) : 1;
    const length = o.length ?? roundLength((factor * SHARE * s.width) / perLength) / factor;
    const width = length * perLength;
    if (!(width > 1) || width > 4 * s.width) return null;
    // Where the run states no unit, none is claimed.
    const shown = stored && (o.unit ?? stored);
    const near = camera.projection === 'perspective' ? '≈ ' : '';
    const text = `${near}${sayNumber(length * factor)}${shown ? ` ${shown}` : ''}`;
    const block = textBlock(text, { ...o, ground: 'none' }, s, 'center');
    const bar = 0.55 * o.size * s.unit;
    const whole = Math.max(width, block.width);
    const height = block.height + bar + 0.2 * o.size * s.unit;
    const box = keptInside(
      { x: o.x * s.width - whole / 2, y: o.y * s.height - height / 2, width: whole, height },
      s,
      2 * s.unit,
    );
    const left = box.x + (whole - width) / 2;
    const top = box.y + height - bar;
    const thin = Math.max(1, 0.14 * s.unit);
    const piece = (i: number): Shape => ({
      kind: 'box',
      box: { x: left + (i * width) / 4, y: top, width: width / 4, height: bar },
      radius: 0,
      fill: i % 2 === 0 ? (o.ink ?? s.tone.ink) : s.tone.plate,
      opacity: 1,
      rim: { ink: o.ink, width: thin },
    });
    return {
      shapes: [
        { kind: 'ground', box, ground: o.ground, ink: o.ink, pad: 0.4 * o.size * s.unit },
        ...[0, 1, 2, 3].map(piece),
        {
          kind: 'text',
          text,
          x: box.x + whole / 2,
          y: box.y + block.height / 2,
          size: o.size * s.unit,
          weight: weightOf(o),
          align: 'center',
          letters: lettersOf(o),
          ink: o.ink,
          halo: true,
        },
      ],
      box,
    };
  },
  moved: (_, by, s) => placeAfterMove(by, s),
};
