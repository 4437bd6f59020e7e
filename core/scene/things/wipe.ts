import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { sameJson } from '../../model/same-json.ts';
import { z } from '../../model/schema.ts';
import type { Layer } from '../document.ts';
import { colourSchema } from './colour-code.ts';
import type { SceneThing } from './declaration.ts';

/** An edge across the picture: before it lines of one kind are shown, behind it those of another. */
export interface Wipe {
  /** How much of the picture lies before it, from the left or from the foot, 0..1. */
  place: number;
  way: 'across' | 'upwards';
  /** Whether a line is drawn where it stands. */
  edge: boolean;
  colour: string;
  /** Whether its sides say which step they show, or what their line is called. */
  said: boolean;
}

const plain: Wipe = { place: 0.5, way: 'across', edge: true, colour: '#ffffff', said: true };

const p = phrasesOf<Wipe>();

export const wipe: SceneThing<Wipe, 'wipe'> = {
  id: 'wipe',
  name: 'the wipe',
  line: null,
  schema: z.object({
    place: boundedNumber().min(0).max(1),
    way: z.enum(['across', 'upwards']),
    edge: z.boolean(),
    colour: colourSchema,
    said: z.boolean(),
  }),
  plain,
  defaults: () => plain,
  opening: 'Wipe ',
  silent: (value) => sameJson(value, plain),
  phrase: p.row(
    p.text('at '),
    p.share('place'),
    p.suffixes(
      { usual: { way: plain.way }, phrase: p.row(p.text('going upwards'), p.fixed('way', 'upwards')) },
      { usual: { colour: plain.colour }, phrase: p.row(p.text('its edge in '), p.colour('colour')) },
      { usual: { edge: true }, phrase: p.row(p.text('without an edge'), p.fixed('edge', false)) },
      { usual: { said: true }, phrase: p.row(p.text('without words'), p.fixed('said', false)) },
    ),
  ),
  controls: [
    { kind: 'share', key: 'place', label: 'Place' },
    {
      kind: 'choice',
      key: 'way',
      label: 'Goes',
      called: 'direction',
      choices: [
        { value: 'across', label: 'from the left' },
        { value: 'upwards', label: 'from the foot' },
      ],
    },
    { kind: 'tick', key: 'edge', label: 'With an edge', called: 'edge shown' },
    { kind: 'colour', key: 'colour', label: 'Edge', when: ({ edge }) => edge },
    { kind: 'tick', key: 'said', label: 'Its sides say what they show' },
  ],
};

/** One side of a wipe; everything where there is none. */
export type WipeSide = Layer['wipe'];

/** Whether something of a scene is shown on one side of its wipe only. */
export const isWiped = ({ layers }: { layers: readonly Pick<Layer, 'visible' | 'wipe'>[] }): boolean =>
  layers.some((l) => l.visible && l.wipe !== 'both');

/** Whether lines of a side are shown at a place of the picture, in fractions from its top left. */
export const isOnSide = (side: WipeSide, { place, way }: Wipe, x: number, y: number): boolean =>
  side === 'both' || (side === 'before') === (way === 'across' ? x : 1 - y) < place;
