import { type Phrase, share } from '../../language/phrase.ts';
import { words } from '../../language/sentence.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import type { OptionControl } from '../../ops/chain/operation.ts';

/** Where something is on the picture, as fractions from the top left. */
export interface PlaceInPicture {
  x: number;
  y: number;
}

/** A fraction of the picture; a little outside is allowed while something is dragged. */
export const placeInPicture = () => boundedNumber().min(-5).max(5);

/** `92.5 % 50 %`. */
export const sayPlace = <O extends PlaceInPicture>(): Phrase<O> => {
  const x = share<O>('x');
  const y = share<O>('y');
  return {
    say: (o, s) => [...(x.say(o, s) ?? []), words(' '), ...(y.say(o, s) ?? [])],
    read: (reader, into, s) => x.read(reader, into, s) && y.read(reader, into, s),
  };
};

/** It is dragged on the picture; these are for keys of films, and for whoever wants it exact. */
export const placeControls = <O extends PlaceInPicture>(): OptionControl<O>[] => [
  { kind: 'share', key: 'x', label: 'From the left', called: 'place from the left' },
  { kind: 'share', key: 'y', label: 'From the top', called: 'place from the top' },
];
