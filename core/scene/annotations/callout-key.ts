import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { z } from '../../model/schema.ts';
import { type PlaceInPicture, placeControls, placeInPicture, sayPlace } from '../things/place-in-picture.ts';
import type { AnnotationKind } from './annotation.ts';
import { balloon, type Callout } from './callout.ts';
import { type Shape, shifted } from './drawing.ts';
import { hung } from './hook-options.ts';
import { keptInside, placeAfterMove } from './keep-inside.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  letteringSuffixes,
  lettersOf,
  plainLettering,
  weightOf,
} from './lettering-options.ts';

export interface CalloutKey extends Lettering, PlaceInPicture {}

const p = phrasesOf<CalloutKey>();
const lettering: Lettering = { ...plainLettering, size: 2.2 };
const plain: CalloutKey = { x: 0.12, y: 0.18, ...lettering };

/** What each numbered callout stands for. */
export const calloutKey: AnnotationKind<CalloutKey, 'callout-key'> = {
  id: 'callout-key',
  name: 'the key of callouts',
  offered: 'Key of callouts',
  purpose: 'says what each numbered callout stands for',
  schema: z.object({ x: placeInPicture(), y: placeInPicture(), ...letteringSchema }),
  plain,
  defaults: () => plain,
  opening: 'Key of callouts at ',
  phrase: p.styled(
    () => [words('Key of callouts')],
    p.row(sayPlace<CalloutKey>(), p.suffixes(...letteringSuffixes<CalloutKey>(lettering))),
  ),
  controls: [...letteringControls<CalloutKey>(), ...placeControls<CalloutKey>()],
  layout(o, s) {
    const size = o.size * s.unit;
    const letters = lettersOf(o);
    const callouts = s.scene.annotations.filter(
      (a) => a.kind === 'callout' && a.visible,
    ) as unknown as Callout[];
    if (callouts.length === 0) return null;
    const row = 2.3 * size;
    const radius = 0.95 * size;
    const left = 2 * radius + 0.6 * size;
    const texts = callouts.map((c, i) => hung(c.text, c, { ...s, number: i + 1 })?.text ?? c.text);
    const width = left + Math.max(...texts.map((t) => s.measure(t, size, weightOf(o), letters)));
    const height = callouts.length * row;
    const box = keptInside(
      { x: o.x * s.width - width / 2, y: o.y * s.height - height / 2, width, height },
      s,
      2 * s.unit,
    );
    const shapes = texts.flatMap((text, i): Shape[] => [
      ...shifted(
        balloon(String(i + 1), { ...o, weight: 'bold' }, radius, size, s.tone.plate),
        box.x,
        box.y + i * row + row / 2 - radius,
      ),
      {
        kind: 'text',
        text,
        x: box.x + left,
        y: box.y + (i + 0.5) * row,
        size,
        weight: weightOf(o),
        align: 'left',
        letters,
        ink: o.ink,
        halo: true,
      },
    ]);
    return {
      shapes: [{ kind: 'ground', box, ground: o.ground, ink: o.ink, pad: 0.6 * size }, ...shapes],
      box,
    };
  },
  moved: (_, by, s) => placeAfterMove(by, s),
};
