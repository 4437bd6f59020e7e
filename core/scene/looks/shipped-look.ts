import { backdropOf } from '../backdrops/registry.ts';
import { backdrop } from '../things/backdrop.ts';
import { floor } from '../things/floor.ts';
import { focus } from '../things/focus.ts';
import { glow } from '../things/glow.ts';
import { haze } from '../things/haze.ts';
import { ink } from '../things/ink.ts';
import { light } from '../things/light.ts';
import type { SceneThings } from '../things/registry.ts';
import type { Look } from './look.ts';

/** A look that ships: known by its id, whatever it is called. */
export interface ShippedLook extends Look {
  id: string;
}

/** What looks change of the scenes' plainest things; the lens stays that of the scene. */
type Styled = 'light' | 'floor' | 'backdrop' | 'haze' | 'ink' | 'focus' | 'glow';

/**
 * A look by what is not plain about it. It says something of every thing of the style but the lens, so that nothing stays of
 * the one before.
 */
export function shippedLook({
  things = {},
  ...look
}: Pick<ShippedLook, 'id' | 'name' | 'purpose'> &
  Partial<Pick<Look, 'solid' | 'housing' | 'thin' | 'seenThrough' | 'values'>> & {
    things?: { [Id in Styled]?: Partial<SceneThings[Id]> };
  }): ShippedLook {
  const behind = backdropOf({ ...backdrop.plain, ...things.backdrop });
  const { at: _, place: _of, ...sharp } = focus.plain;
  // The edge of tiles is that of the scene, unless it is said.
  const { edge: _edge, ...level } = floor.plain;
  return {
    solid: { finish: null },
    housing: look.solid ?? { finish: null },
    // Where bodies change their colour, lines take that of words, which are read on this backdrop.
    thin: look.solid?.colour === undefined ? null : { finish: null, colour: behind.ink },
    seenThrough: { finish: null },
    values: { finish: null },
    ...look,
    things: {
      light: { ...light.plain, ...things.light },
      floor: { ...level, ...things.floor },
      backdrop: { ...backdrop.plain, ...things.backdrop },
      haze: { ...haze.plain, ...things.haze },
      ink: { ...ink.plain, ...things.ink },
      focus: { ...sharp, ...things.focus },
      glow: { ...glow.plain, ...things.glow },
    },
    lines: [],
    parts: {},
  };
}
