import { type KeyboardEvent, useState } from 'react';
import { orbit, pan, zoomAt } from '#core/scene/camera-moves.ts';
import { upOf } from '#core/scene/things/upright.ts';
import { arrowKeys } from '#web/desks/shared/arrow-keys.ts';
import { edit, moveCamera, sceneNow, useDesk } from './desk-store.ts';
import { lookFrom } from './look-from.ts';
import { stepBy } from './walking.ts';

/** A turn in radians, a move and an approach for one press of a key. */
const TURN = Math.PI / 24;
const MOVE = 0.05;
const NEARER = 0.85;
/** How far the cross of the keyboard goes, in pixels. */
const STRIDE = 12;

interface Cross {
  x: number;
  y: number;
}

interface PictureKeys {
  /** The place the keyboard points at, in pixels from the top left; null while the arrows turn the view. */
  cross: Cross | null;
  onKeyDown(event: KeyboardEvent): void;
  onBlur(): void;
}

/**
 * The keys of the picture: arrows turn, with Shift they move, plus and minus come nearer and go away, Home shows all.
 * While one walks they go ahead and turn the head, with Shift they go aside and up. Enter points: then arrows move a cross, and Enter does there what a click does.
 *
 * @param point what a click at a place does
 */
export function usePictureKeys(
  size: { width: number; height: number },
  flat: boolean,
  point: (at: Cross) => void,
): PictureKeys {
  const [cross, setCross] = useState<Cross | null>(null);

  const turnOrMove = ([across, down]: [number, number], moves: boolean): void => {
    const { camera, upright } = sceneNow();
    const to = moves
      ? pan(camera, across * MOVE, down * MOVE)
      : orbit(camera, across * TURN, down * TURN, upOf(upright));
    moveCamera(to, 'keys');
  };

  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey) return;
    const arrow = arrowKeys[event.key];
    if (arrow && cross)
      setCross({
        x: Math.min(size.width - 1, Math.max(0, cross.x + arrow[0] * STRIDE)),
        y: Math.min(size.height - 1, Math.max(0, cross.y + arrow[1] * STRIDE)),
      });
    else if (arrow && useDesk.getState().walking) stepBy(arrow, event.shiftKey);
    else if (arrow) turnOrMove(arrow, flat !== event.shiftKey);
    else if (event.key === '+' || event.key === '=')
      moveCamera(zoomAt(sceneNow().camera, NEARER, 0, 0), 'keys');
    else if (event.key === '-') moveCamera(zoomAt(sceneNow().camera, 1 / NEARER, 0, 0), 'keys');
    else if (event.key === 'Home')
      edit({ type: 'setting.change', thing: 'camera', change: lookFrom('oblique', useDesk.getState()) });
    else if (event.key === 'Enter' && cross) point(cross);
    else if (event.key === 'Enter') setCross({ x: size.width / 2, y: size.height / 2 });
    else if (event.key === 'Escape' && cross) setCross(null);
    else return;
    event.preventDefault();
  };
  return { cross, onKeyDown, onBlur: () => setCross(null) };
}
