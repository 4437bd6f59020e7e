import { phrasesOf } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { z } from '../../model/schema.ts';
import { type PlaceInPicture, placeControls, placeInPicture, sayPlace } from '../things/place-in-picture.ts';
import type { AnnotationKind } from './annotation.ts';
import { shifted } from './drawing.ts';
import { keptInside, placeAfterMove, shareBefore } from './keep-inside.ts';
import {
  type Lettering,
  letteringControls,
  letteringSchema,
  letteringSuffixes,
  plainLettering,
  textBlock,
} from './lettering-options.ts';
import { filledIn, needsOfText } from './template.ts';

export interface TextNote extends Lettering, PlaceInPicture {
  /** Lines of text, with values in braces; see `template.ts`. */
  text: string;
  /** Which end of it stays where it is when it grows longer. */
  align: 'left' | 'center' | 'right';
}

const p = phrasesOf<TextNote>();
const plain: TextNote = { text: 'Text', x: 0.03, y: 0.06, align: 'left', ...plainLettering };

/** Words anywhere on the picture. */
export const textNote: AnnotationKind<TextNote, 'text'> = {
  id: 'text',
  name: 'the text',
  offered: 'Text',
  purpose: 'words anywhere, with values such as {time:.1f}',
  schema: z.object({
    text: z.string().max(2000),
    align: z.enum(['left', 'center', 'right']),
    x: placeInPicture(),
    y: placeInPicture(),
    ...letteringSchema,
  }),
  plain,
  defaults: ({ times, timeUnit }) =>
    times.length < 2
      ? plain
      : { ...plain, text: timeUnit ? `t = {time:.2f} ${timeUnit}` : 'step {step} of {steps}' },
  opening: 'Text ',
  phrase: p.styled(
    ({ text }) => [words(`“${text.replaceAll('\n', ' / ')}”`)],
    p.row(
      p.quoted('text'),
      p.text(' at '),
      sayPlace<TextNote>(),
      p.suffixes(
        {
          usual: { align: plain.align },
          phrase: p.choice('align', [
            { text: 'from the left', value: 'left' },
            { text: 'from the middle', value: 'center' },
            { text: 'from the right', value: 'right' },
          ]),
        },
        ...letteringSuffixes<TextNote>(),
      ),
    ),
  ),
  controls: [
    { kind: 'template', key: 'text', label: 'Text', lines: true },
    {
      kind: 'choice',
      key: 'align',
      label: 'Grows',
      choices: [
        { value: 'left', label: 'to the right' },
        { value: 'center', label: 'both ways' },
        { value: 'right', label: 'to the left' },
      ],
    },
    ...letteringControls<TextNote>(),
    ...placeControls<TextNote>(),
  ],
  text: 'text',
  knows: ({ text }, run, scene) => needsOfText(text, run, scene),
  layout(o, s) {
    const block = textBlock(filledIn(o.text, { ...s, here: null }), o, s, o.align);
    const box = keptInside(
      {
        x: o.x * s.width - shareBefore[o.align] * block.width,
        y: o.y * s.height - block.height / 2,
        width: block.width,
        height: block.height,
      },
      s,
      2 * s.unit,
    );
    return { shapes: shifted(block.shapes, box.x, box.y), box };
  },
  moved: ({ align }, by, s) => placeAfterMove(by, s, align),
};
