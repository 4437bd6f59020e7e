import { backdropOf } from '../backdrops/registry.ts';
import { backdrop } from '../things/backdrop.ts';
import { type Look, styledThings } from './look.ts';

/** A look that ships: known by its id, whatever it is called. */
export interface ShippedLook extends Look {
  id: string;
}

/**
 * A look by what is not usual about it. It says something of every thing of the style that has something usual, so that nothing
 * stays of the one before.
 */
export function shippedLook({
  things = {},
  ...look
}: Pick<ShippedLook, 'id' | 'name' | 'purpose'> &
  Partial<Pick<Look, 'solid' | 'housing' | 'thin' | 'seenThrough' | 'values'>> & {
    things?: Look['things'];
  }): ShippedLook {
  const behind = backdropOf({ ...backdrop.plain, ...things.backdrop });
  return {
    solid: { finish: null },
    housing: look.solid ?? { finish: null },
    // Where bodies change their colour, lines take that of words, which are read on this backdrop.
    thin: look.solid?.colour === undefined ? null : { finish: null, colour: behind.ink },
    seenThrough: { finish: null },
    values: { finish: null },
    ...look,
    things: Object.fromEntries(
      styledThings.flatMap(({ id, style, plain }) => {
        const { usual = style.keep(plain, 1) } = style;
        return usual === null ? [] : [[id, { ...usual, ...things[id] }]];
      }),
    ) as Look['things'],
    lines: [],
    parts: {},
  };
}
