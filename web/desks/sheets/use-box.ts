import { type PointerEvent as ReactPointerEvent, useRef, useState } from 'react';

interface At {
  x: number;
  y: number;
}

interface Box extends At {
  width: number;
  height: number;
}

/** A shorter drag, in pixels, draws no box. */
const SHORTEST = 5;

/**
 * A box that is drawn over an element, in pixels from its upper left corner.
 *
 * @param drawn told of two corners of it when it is let go
 */
export function useBox(drawn: (from: At, to: At) => void) {
  const [box, setBox] = useState<Box | null>(null);
  const latest = useRef(drawn);
  latest.current = drawn;
  const begin = (e: ReactPointerEvent<HTMLElement>): void => {
    if (e.button !== 0) return;
    const { left, top } = e.currentTarget.getBoundingClientRect();
    const at = (p: { clientX: number; clientY: number }): At => ({ x: p.clientX - left, y: p.clientY - top });
    const from = at(e);
    const isBox = (to: At): boolean => Math.max(Math.abs(to.x - from.x), Math.abs(to.y - from.y)) >= SHORTEST;
    const move = (m: PointerEvent): void => {
      const to = at(m);
      const corner = { x: Math.min(from.x, to.x), y: Math.min(from.y, to.y) };
      setBox(
        isBox(to) ? { ...corner, width: Math.abs(to.x - from.x), height: Math.abs(to.y - from.y) } : null,
      );
    };
    const end = (m: PointerEvent): void => {
      removeEventListener('pointermove', move);
      setBox(null);
      if (isBox(at(m))) latest.current(from, at(m));
    };
    addEventListener('pointermove', move);
    addEventListener('pointerup', end, { once: true });
  };
  return { box, begin };
}
