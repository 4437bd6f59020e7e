import { type Phrase, phrasesOf, type Suffix } from '../../language/phrase.ts';
import { type FinishOf, finishSchema } from '../../light/own-finish.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { add, cross, times, type Vector } from '../../model/vectors.ts';
import type { OptionControl } from '../../ops/chain/operation.ts';
import { vectorSchema } from '../../ops/kernels/planes.ts';
import { colourSchema } from '../things/colour-code.ts';
import { finishPhrase } from '../things/finish-phrase.ts';
import { levelAxes } from '../things/upright.ts';

/** What all pieces of scenery have, whatever they are. */
export interface Placed {
  /** Own name, or null to be called by what it is. */
  name: string | null;
  /** Pieces of one group are hidden, moved and deleted together; null for none. */
  group: string | null;
  /** It stays as it is until it is unlocked. */
  locked: boolean;
  /** Where the middle of its foot stands, in the coordinates of the files. */
  place: Vector;
  /** About the upright axis, counterclockwise seen from above, in degrees. */
  turn: number;
  /** In place of its own; null for those. */
  finish: FinishOf;
  colour: string | null;
  opacity: number;
}

export const plainPlaced: Placed = {
  name: null,
  group: null,
  locked: false,
  place: [0, 0, 0],
  turn: 0,
  finish: null,
  colour: null,
  opacity: 1,
};

const wordsSchema = z.string().min(1).max(100).nullable();

export const placedShape = {
  name: wordsSchema,
  group: wordsSchema,
  locked: z.boolean(),
  place: vectorSchema,
  turn: boundedNumber(),
  finish: finishSchema,
  colour: colourSchema.nullable(),
  opacity: boundedNumber().min(0).max(1),
};

const p = phrasesOf<Placed>();

/** Where it stands; always said in full. */
export const placePhrase: Phrase<Placed> = p.row(p.text(' at '), p.vector('place', 'length'));

export const placedSuffixes: Suffix<Placed>[] = [
  { usual: { turn: 0 }, phrase: p.row(p.text('turned '), p.number('turn', 'angle')) },
  { usual: { finish: null }, phrase: finishPhrase as Phrase<Placed> },
  { usual: { colour: null }, phrase: p.row(p.text('coloured '), p.colour('colour')) },
  { usual: { opacity: 1 }, phrase: p.row(p.share('opacity'), p.text(' opaque')) },
  { usual: { name: null }, phrase: p.row(p.text('called '), p.quoted('name')) },
  { usual: { group: null }, phrase: p.row(p.text('in the group '), p.quoted('group')) },
  { usual: { locked: false }, phrase: p.row(p.text('locked'), p.fixed('locked', true)) },
];

export const placedControls: OptionControl<Placed>[] = [
  { kind: 'place', key: 'place', label: 'Stands at' },
  { kind: 'number', key: 'turn', label: 'Turned', unit: 'angle', round: true, range: () => [-180, 180] },
  { kind: 'finish', key: 'finish', label: 'Finish', none: 'its own' },
  { kind: 'colour', key: 'colour', label: 'Colour', none: 'its own' },
  { kind: 'share', key: 'opacity', label: 'Opaque' },
  { kind: 'words', key: 'name', label: 'Called', hint: 'by what it is' },
];

/** Right-handed axes of a piece in the world, the last of them up. */
export function axesOfPiece({ turn }: Pick<Placed, 'turn'>, up: Vector): [Vector, Vector, Vector] {
  const [a, b] = levelAxes(up);
  const angle = (turn * Math.PI) / 180;
  const across = add(times(a, Math.cos(angle)), times(b, Math.sin(angle)));
  return [across, cross(up, across), up];
}
