import { type RefObject, useEffect, useReducer, useRef, useState } from 'react';
import type { Box } from '#core/beside/side-layout.ts';
import type { Viewport } from '#stage/viewport.ts';
import type { SideController } from './side-controller.ts';

interface PaneViewport {
  canvas: RefObject<HTMLCanvasElement | null>;
  words: RefObject<HTMLCanvasElement | null>;
  viewport: Viewport | null;
  /** There is a picture; it is complete. */
  drawn: boolean;
  settled: boolean;
}

/**
 * What a pane is drawn with, as large as its box, for as long as it is there.
 *
 * @param isThere whether there is anything to draw
 */
export function usePaneViewport(
  controller: SideController,
  id: string,
  { width, height }: Box,
  isThere = true,
): PaneViewport {
  const canvas = useRef<HTMLCanvasElement>(null);
  const words = useRef<HTMLCanvasElement>(null);
  const [viewport, setViewport] = useState<Viewport | null>(null);
  const [drawn, setDrawn] = useState(false);
  const [settled, setSettled] = useState(false);
  const [, wordsMoved] = useReducer((n: number) => n + 1, 0);
  useEffect(() => {
    if (!isThere) return;
    const { viewport: made, detach } = controller.attach(id, canvas.current!, words.current!);
    made.onSettled = setSettled;
    made.onDrawn = () => setDrawn(true);
    made.onWords = wordsMoved;
    setViewport(made);
    return () => {
      setViewport(null);
      detach();
    };
  }, [controller, isThere]);
  useEffect(() => {
    const scale = Math.min(2, devicePixelRatio || 1);
    viewport?.resize(Math.round(width * scale), Math.round(height * scale));
  }, [viewport, width, height]);
  return { canvas, words, viewport, drawn, settled };
}
