import { type RefObject, useEffect, useState } from 'react';
import { cellsWithin } from '#stage/cells-within.ts';
import type { Viewport } from '#stage/viewport.ts';
import { sceneNow, useDesk } from './desk-store.ts';

interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Clicks, brush strokes and rectangles on the picture while something is being chosen there. */
export function usePointing(
  viewport: Viewport | null,
  picture: RefObject<HTMLDivElement | null>,
): Box | null {
  const pointing = useDesk((s) => s.pointing);
  const run = useDesk((s) => s.run);
  const [rectangle, setRectangle] = useState<Box | null>(null);
  useEffect(() => {
    const element = picture.current;
    if (!viewport || !element || !pointing) return;
    let from: { x: number; y: number } | null = null;
    let painted = 0;
    const at = (event: PointerEvent) => {
      const box = element.getBoundingClientRect();
      return { x: event.clientX - box.left, y: event.clientY - box.top };
    };
    const pick = async ({ x, y }: { x: number; y: number }): Promise<void> => {
      const picked = await viewport.pick(x / element.clientWidth, y / element.clientHeight);
      if (picked && useDesk.getState().pointing?.onPick(picked, picked.cell))
        useDesk.setState({ pointing: null });
    };
    const onDown = (event: PointerEvent) => {
      if (event.button !== 0 || (event.target as HTMLElement).closest('[data-handle]')) return;
      event.stopImmediatePropagation();
      from = at(event);
      element.setPointerCapture(event.pointerId);
      if (pointing.brush) void pick(from);
    };
    const onMove = (event: PointerEvent) => {
      if (!from) return;
      event.stopImmediatePropagation();
      const to = at(event);
      if (pointing.brush && performance.now() - painted > 40) {
        painted = performance.now();
        void pick(to);
      } else if (pointing.onRectangle)
        setRectangle({
          left: Math.min(from.x, to.x),
          top: Math.min(from.y, to.y),
          width: Math.abs(to.x - from.x),
          height: Math.abs(to.y - from.y),
        });
    };
    const onUp = (event: PointerEvent) => {
      if (!from) return;
      event.stopImmediatePropagation();
      const begin = from;
      const to = at(event);
      from = null;
      setRectangle(null);
      const dragged = Math.hypot(to.x - begin.x, to.y - begin.y) > 4;
      if (pointing.onRectangle && dragged) {
        const [w, h] = [element.clientWidth, element.clientHeight];
        const shapes = viewport.pickables().filter((s) => s.layer !== 'draft-set');
        pointing.onRectangle(
          cellsWithin(
            {
              left: Math.min(begin.x, to.x) / w,
              right: Math.max(begin.x, to.x) / w,
              top: Math.min(begin.y, to.y) / h,
              bottom: Math.max(begin.y, to.y) / h,
            },
            shapes,
            sceneNow().camera,
            w / h,
            run.origin,
          ),
        );
      } else if (!dragged && !pointing.brush) void pick(to);
    };
    const options = { capture: true };
    element.addEventListener('pointerdown', onDown, options);
    element.addEventListener('pointermove', onMove, options);
    element.addEventListener('pointerup', onUp, options);
    return () => {
      element.removeEventListener('pointerdown', onDown, options);
      element.removeEventListener('pointermove', onMove, options);
      element.removeEventListener('pointerup', onUp, options);
    };
  }, [viewport, picture, pointing, run]);
  return rectangle;
}
