import { createContext, useEffect, useRef } from 'react';
import { tryOut } from './desk-store.ts';

/** How long something is pointed at before it is shown, in milliseconds: passing over a list shows nothing. */
const LINGER = 180;

/** Whether choices within are shown on the stage while they are pointed at: where that is quick. */
export const TriedOut = createContext(false);

/**
 * Shows on the stage what a choice would do, while it is pointed at or has the focus of the keyboard; the scene itself stays as
 * it is.
 *
 * @param work makes the edits of the choice; null where nothing is to be tried out
 * @returns what the choice must tell of
 */
export function useTryOut(work: (() => void) | null) {
  const timer = useRef(0);
  const on = useRef(false);
  const end = (): void => {
    clearTimeout(timer.current);
    if (on.current) tryOut(null);
    on.current = false;
  };
  useEffect(() => end, []);
  if (!work) return {};
  const begin = (): void => {
    clearTimeout(timer.current);
    timer.current = window.setTimeout(() => {
      on.current = true;
      tryOut(work);
    }, LINGER);
  };
  return { onPointerEnter: begin, onPointerLeave: end, onFocus: begin, onBlur: end };
}
