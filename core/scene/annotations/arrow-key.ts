import { phrasesOf } from '../../language/phrase.ts';
import { sayNumber, words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { quantityName } from '../../model/quantity.ts';
import { fieldByKey } from '../../model/run.ts';
import { z } from '../../model/schema.ts';
import type { ArrowScale } from '../../ops/chain/operation.ts';
import { settledStep } from '../../ops/chain/settled-step.ts';
import { operationById } from '../../ops/registry.ts';
import { arrowStepOf } from '../arrow-step.ts';
import type { Scene } from '../document.ts';
import { settingOf } from '../setting.ts';
import { type PlaceInPicture, placeControls, placeInPicture, sayPlace } from '../things/place-in-picture.ts';
import type { AnnotationKind, AnnotationSetting } from './annotation.ts';
import type { Shape, Spot } from './drawing.ts';
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
import { roundLength } from './scale-bar.ts';

export interface ArrowKey extends Lettering, PlaceInPicture {
  /** Size of the vector it shows, in the unit of the quantity; null for a round one near the largest. */
  shows: number | null;
}

const p = phrasesOf<ArrowKey>();
const lettering: Lettering = { ...plainLettering, size: 2.4 };
const plain: ArrowKey = { shows: null, x: 0.86, y: 0.94, ...lettering };

/** What the arrows on show say: how long which size of the vector is. */
export const arrowKey: AnnotationKind<ArrowKey, 'arrow-key'> = {
  id: 'arrow-key',
  name: 'the key of the arrows',
  offered: 'Key of arrows',
  purpose: 'an arrow of a known size; in perspective it holds where the camera looks at',
  schema: z.object({
    shows: boundedNumber().positive().nullable(),
    x: placeInPicture(),
    y: placeInPicture(),
    ...letteringSchema,
  }),
  plain,
  defaults: () => plain,
  opening: 'Key of arrows at ',
  phrase: p.styled(
    () => [words('Key of arrows')],
    p.row(
      sayPlace<ArrowKey>(),
      p.suffixes(
        { usual: { shows: null }, phrase: p.row(p.text('for '), p.number('shows')) },
        ...letteringSuffixes<ArrowKey>(lettering),
      ),
    ),
  ),
  controls: [
    { kind: 'number', key: 'shows', label: 'Shows', none: 'a round one' },
    ...letteringControls<ArrowKey>(),
    ...placeControls<ArrowKey>(),
  ],
  layout(o, s) {
    const found = scaleOfArrows(s.scene, s);
    if (!found) return null;
    const { scale, said, unit } = found;
    const shows = o.shows ?? roundLength(scale.full);
    const length = scale.lengthOf(shows) * (scale.onPicture ? s.height : (pixelsPerLength(s) ?? 0));
    if (!(length > 1) || length > 2 * s.width) return null;
    const near = !scale.onPicture && s.scene.camera.projection === 'perspective' ? '≈ ' : '';
    const text = `${said} ${near}${sayNumber(shows)}${unit ? ` ${unit}` : ''}`;
    const block = textBlock(text, { ...o, ground: 'none' }, s, 'center');
    const thick = 0.5 * o.size * s.unit;
    const gap = 0.4 * o.size * s.unit;
    const whole = Math.max(length, block.width);
    const height = block.height + gap + thick;
    const box = keptInside(
      { x: o.x * s.width - whole / 2, y: o.y * s.height - height / 2, width: whole, height },
      s,
      2 * s.unit,
    );
    const middle = box.x + whole / 2;
    return {
      shapes: [
        { kind: 'ground', box, ground: o.ground, ink: o.ink, pad: 0.4 * o.size * s.unit },
        ...drawnArrow(middle - length / 2, box.y + height - thick / 2, length, thick, o.ink),
        {
          kind: 'text',
          text,
          x: middle,
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

/** A shaft with a head. */
function drawnArrow(x: number, y: number, length: number, thick: number, ink: string | null): Shape[] {
  const head = Math.min(1.6 * thick, 0.5 * length);
  const corners: Spot[] = [
    [x + length - head, y - thick / 2],
    [x + length, y],
    [x + length - head, y + thick / 2],
  ];
  return [
    {
      kind: 'line',
      spots: [
        [x, y],
        [x + length - head, y],
      ],
      width: 0.3 * thick,
      ink,
      halo: true,
    },
    { kind: 'area', corners, fill: ink, opacity: 1 },
  ];
}

/** The scale of the first line on show that draws arrows, and what they are of. */
function scaleOfArrows(
  scene: Scene,
  { run }: AnnotationSetting,
): { scale: ArrowScale; said: string; unit: string | null } | null {
  for (const layer of scene.layers) {
    const step = layer.visible && layer.opacity > 0 ? arrowStepOf(layer, scene) : null;
    if (!step) continue;
    const { options } = settledStep(step, settingOf(run, scene, layer));
    const { drawsArrows } = operationById(step.op).traits!;
    const field = fieldByKey(run, (options as { field: string }).field);
    if (!field) continue;
    const scale = drawsArrows!(options);
    return { scale, said: quantityName(field, 'magnitude'), unit: field.unit };
  }
  return null;
}
