import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import type { Declaration } from './declaration.ts';
import { placeControls, placeInPicture, sayPlace } from './place-in-picture.ts';

export interface Legend {
  visible: boolean;
  /** Own title, or null for the name of the quantity. */
  title: string | null;
  upright: boolean;
  /** Middle of the legend as a fraction of the picture, from the top left. */
  x: number;
  y: number;
}

const p = phrasesOf<Legend>();

export const legend: Declaration<Legend> = {
  id: 'legend',
  name: 'the legend',
  schema: z.object({
    visible: z.boolean(),
    title: z.string().max(300).nullable(),
    upright: z.boolean(),
    x: placeInPicture(),
    y: placeInPicture(),
  }),
  plain: { visible: true, title: null, upright: true, x: 0.925, y: 0.5 },
  opening: 'legend ',
  phrase: p.row(
    p.choice('upright', [
      { text: 'upright', value: true },
      { text: 'lying', value: false },
    ]),
    p.text(' at '),
    sayPlace<Legend>(),
    p.suffixes(
      { usual: { title: null }, phrase: p.row(p.text('titled '), p.quoted('title')) },
      { usual: { visible: true }, phrase: p.row(p.text('legend hidden'), p.fixed('visible', false)) },
    ),
  ),
  controls: [
    { kind: 'tick', key: 'visible', label: 'Shown' },
    {
      kind: 'choice',
      key: 'upright',
      label: 'Stands',
      choices: [
        { value: true, label: 'upright' },
        { value: false, label: 'lying' },
      ],
      also: (upright) => (upright ? { x: 0.925, y: 0.5 } : { x: 0.5, y: 0.08 }),
    },
    { kind: 'words', key: 'title', label: 'Title', hint: 'name of the quantity' },
    ...placeControls<Legend>(),
  ],
};
