import { useEffect, useMemo, useRef, useState } from 'react';
import type { BoxView, ResponseSurface } from '#core/sets/response-surface.ts';
import { arrowKeys } from '#web/desks/shared/arrow-keys.ts';
import { deskTone } from '#web/desks/shared/CurveChart.tsx';
import { paintSurface, type SeenPoint } from './paint-surface.ts';

interface Props {
  surface: ResponseSurface;
  label: string;
  isMarked(row: number): boolean;
  /** Told of the run that is pointed at, and null where none is any more. */
  onPoint(row: number | null): void;
  /** Told of a run that was pressed. */
  onPress(row: number): void;
}

/** Half a turn for a drag over this many pixels. */
const HALF_TURN = 420;
/** A pointer that moves less than this between down and up has clicked. */
const STILL = 4;
/** So near to a run, in pixels, it is pointed at. */
const REACH = 12;

/** A fitted surface in a box that is turned, with the runs as points and their residuals as lines to it. */
export function SurfaceChart({ surface, label, isMarked, onPoint, onPress }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [view, setView] = useState<BoxView>({ turn: 35, rise: 24 });
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [theme, setTheme] = useState(0);
  const points = useRef<SeenPoint[]>([]);
  const held = useRef<{ x: number; y: number; moved: number } | null>(null);
  useEffect(() => {
    const element = canvas.current!;
    const resize = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      setSize({ width: Math.round(width), height: Math.round(height) });
    });
    resize.observe(element);
    const themed = new MutationObserver(() => setTheme((n) => n + 1));
    themed.observe(document.documentElement, { attributeFilter: ['data-theme'] });
    return () => {
      resize.disconnect();
      themed.disconnect();
    };
  }, []);
  const tone = useMemo(deskTone, [theme]);
  useEffect(() => {
    const element = canvas.current!;
    if (size.width === 0) return;
    const scale = Math.min(2, devicePixelRatio || 1);
    element.width = size.width * scale;
    element.height = size.height * scale;
    const painter = element.getContext('2d')!;
    painter.scale(scale, scale);
    points.current = paintSurface(painter, surface, view, size, tone, isMarked);
  }, [surface, view, size, tone, isMarked]);
  const nearest = (x: number, y: number): number | null => {
    const found = points.current
      .map((p) => ({ ...p, away: Math.hypot(p.x - x, p.y - y) }))
      .filter((p) => p.away <= REACH)
      .sort((a, b) => a.away - b.away)[0];
    return found?.row ?? null;
  };
  const turn = (across: number, down: number): void =>
    setView(({ turn: from, rise }) => ({
      turn: (((from + across) % 360) + 360) % 360,
      rise: Math.max(0, Math.min(90, rise + down)),
    }));
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={`${label}: a surface, turned by dragging or by the arrows`}
      tabIndex={0}
      className="min-h-0 w-full flex-1 cursor-grab touch-none"
      data-testid="response-surface"
      onKeyDown={(e) => {
        const arrow = arrowKeys[e.key];
        if (!arrow) return;
        e.preventDefault();
        e.stopPropagation();
        turn(-8 * arrow[0], 6 * arrow[1]);
      }}
      onPointerDown={(e) => {
        held.current = { x: e.clientX, y: e.clientY, moved: 0 };
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        const { offsetX, offsetY } = e.nativeEvent;
        const from = held.current;
        if (!from) return onPoint(nearest(offsetX, offsetY));
        const [dx, dy] = [e.clientX - from.x, e.clientY - from.y];
        held.current = { x: e.clientX, y: e.clientY, moved: from.moved + Math.hypot(dx, dy) };
        turn((-180 * dx) / HALF_TURN, (180 * dy) / HALF_TURN);
      }}
      onPointerUp={(e) => {
        const still = (held.current?.moved ?? 0) < STILL;
        held.current = null;
        const row = nearest(e.nativeEvent.offsetX, e.nativeEvent.offsetY);
        if (still && row !== null) onPress(row);
      }}
      onPointerLeave={() => onPoint(null)}
    />
  );
}
