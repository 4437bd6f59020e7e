import { type RefObject, useEffect } from 'react';
import type { Vector } from '#core/model/vectors.ts';
import { lookAround, orbit, pan, walk, zoomAt } from '#core/scene/camera-moves.ts';
import { upOf } from '#core/scene/things/upright.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { moveCamera, sceneNow, useDesk } from './desk-store.ts';
import { stride } from './walking.ts';

/** A full turn for a drag over this many heights of the picture. */
const TURN = 1.6;

/**
 * Handles the camera on the picture: drag turns (flat runs: moves), drag with the right or middle button or with
 * Shift moves, the wheel comes nearer under the cursor. While one walks, a drag looks around and the wheel goes ahead.
 */
export function useCameraGestures(picture: RefObject<HTMLDivElement | null>, flat: boolean): void {
  useEffect(() => {
    const element = picture.current;
    if (!element) return;
    let gesture: { id: string; moves: boolean; x: number; y: number } | null = null;
    let wheel = { id: '', at: 0 };

    const onDown = (event: PointerEvent) => {
      if ((event.target as HTMLElement).closest('[data-handle]')) return;
      const moves = event.button !== 0 || event.shiftKey;
      gesture = {
        id: freshId('camera'),
        moves: flat ? !moves || event.button === 1 : moves,
        x: event.clientX,
        y: event.clientY,
      };
      element.setPointerCapture(event.pointerId);
    };
    const onMove = (event: PointerEvent) => {
      if (!gesture) return;
      const height = element.clientHeight;
      const across = (event.clientX - gesture.x) / height;
      const down = (event.clientY - gesture.y) / height;
      gesture.x = event.clientX;
      gesture.y = event.clientY;
      if (across === 0 && down === 0) return;
      const { camera, upright } = sceneNow();
      // A flat run turns about what is up in its picture.
      const pole = flat && Math.abs(camera.up[1]) > 0.9 ? ([0, 1, 0] as Vector) : upOf(upright);
      const walks = useDesk.getState().walking && !gesture.moves;
      const sight = (camera.fieldOfView * Math.PI) / 180;
      moveCamera(
        walks
          ? lookAround(camera, across * sight, down * sight, pole)
          : gesture.moves
            ? pan(camera, across, down)
            : orbit(camera, across * Math.PI * TURN, down * Math.PI * TURN, pole),
        gesture.id,
      );
    };
    const onUp = () => {
      gesture = null;
    };
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const across = (event.clientX - box.left - box.width / 2) / box.height;
      const rise = -(event.clientY - box.top - box.height / 2) / box.height;
      const now = performance.now();
      if (now - wheel.at > 400) wheel = { id: freshId('zoom'), at: now };
      wheel.at = now;
      const lines = event.deltaMode === 1 ? event.deltaY * 16 : event.deltaY;
      if (useDesk.getState().walking) {
        const ahead = -Math.max(-200, Math.min(200, lines)) * 0.01 * stride();
        moveCamera(walk(sceneNow().camera, { ahead }, upOf(sceneNow().upright)), wheel.id);
        return;
      }
      moveCamera(
        zoomAt(sceneNow().camera, Math.exp(Math.max(-200, Math.min(200, lines)) * 0.0016), across, rise),
        wheel.id,
      );
    };
    const noMenu = (event: Event) => event.preventDefault();
    element.addEventListener('pointerdown', onDown);
    element.addEventListener('pointermove', onMove);
    element.addEventListener('pointerup', onUp);
    element.addEventListener('pointercancel', onUp);
    element.addEventListener('wheel', onWheel, { passive: false });
    element.addEventListener('contextmenu', noMenu);
    return () => {
      element.removeEventListener('pointerdown', onDown);
      element.removeEventListener('pointermove', onMove);
      element.removeEventListener('pointerup', onUp);
      element.removeEventListener('pointercancel', onUp);
      element.removeEventListener('wheel', onWheel);
      element.removeEventListener('contextmenu', noMenu);
    };
  }, [picture, flat]);
}
