import { useEffect, useRef, useState } from 'react';
import type { ResponsePlot } from '#core/sets/response-plot.ts';
import type { RunColumn } from '#core/sets/run-table.ts';
import { echarts } from '#stage/charts/chart-library.ts';
import { deskTone } from '#web/desks/shared/CurveChart.tsx';
import { responseOptions } from './response-options.ts';

interface Props {
  plot: ResponsePlot;
  group: RunColumn | null;
  label: string;
  isMarked(row: number): boolean;
  /** Told of the run that is pointed at, and null where none is any more. */
  onPoint(row: number | null): void;
  /** Told of a run that was pressed. */
  onPress(row: number): void;
  /** Told of the runs within a box that was drawn. */
  onBox(rows: number[]): void;
}

/** A shorter drag, in pixels, is a press. */
const SHORTEST = 6;

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Runs as points, with what is fitted through them; a box drawn over some marks them. */
export function ResponseChart({ plot, group, label, isMarked, onPoint, onPress, onBox }: Props) {
  const element = useRef<HTMLDivElement>(null);
  const chart = useRef<ReturnType<typeof echarts.init> | null>(null);
  const [box, setBox] = useState<Box | null>(null);
  const latest = useRef({ plot, group, isMarked, onPoint, onPress, onBox });
  latest.current = { plot, group, isMarked, onPoint, onPress, onBox };
  const draw = (): void => {
    const { plot: shown, group: by, isMarked: marked } = latest.current;
    chart.current?.setOption(responseOptions(shown, deskTone(), by, marked), { notMerge: true });
  };
  useEffect(() => {
    const made = echarts.init(element.current!);
    chart.current = made;
    const resize = new ResizeObserver(() => {
      made.resize();
      draw();
    });
    resize.observe(element.current!);
    const themed = new MutationObserver(draw);
    themed.observe(document.documentElement, { attributeFilter: ['data-theme'] });
    const rowOf = (e: { data?: unknown }): number | null =>
      (e.data as { row?: number } | undefined)?.row ?? null;
    made.on('mouseover', (e) => latest.current.onPoint(rowOf(e as never)));
    made.on('mouseout', () => latest.current.onPoint(null));
    made.on('click', (e) => {
      const row = rowOf(e as never);
      if (row !== null) latest.current.onPress(row);
    });
    return () => {
      resize.disconnect();
      themed.disconnect();
      made.dispose();
      chart.current = null;
    };
  }, []);
  useEffect(draw, [plot, group, isMarked]);
  const within = (e: React.PointerEvent): { x: number; y: number } => {
    const { left, top } = element.current!.getBoundingClientRect();
    return { x: e.clientX - left, y: e.clientY - top };
  };
  const begin = (e: React.PointerEvent<HTMLDivElement>): void => {
    if (e.button !== 0) return;
    const from = within(e);
    const target = e.currentTarget;
    const move = (m: PointerEvent): void => {
      const to = within(m as never);
      const [width, height] = [Math.abs(to.x - from.x), Math.abs(to.y - from.y)];
      setBox(
        Math.max(width, height) < SHORTEST
          ? null
          : { x: Math.min(from.x, to.x), y: Math.min(from.y, to.y), width, height },
      );
    };
    const end = (m: PointerEvent): void => {
      target.removeEventListener('pointermove', move);
      const to = within(m as never);
      setBox(null);
      if (Math.max(Math.abs(to.x - from.x), Math.abs(to.y - from.y)) < SHORTEST) return;
      latest.current.onBox(rowsBetween(from, to));
    };
    target.addEventListener('pointermove', move);
    addEventListener('pointerup', end, { once: true });
  };
  const rowsBetween = (from: { x: number; y: number }, to: { x: number; y: number }): number[] =>
    latest.current.plot.curves
      .flatMap((c) => c.points)
      .filter(({ x, y }) => {
        const [px, py] = chart.current!.convertToPixel({ gridIndex: 0 }, [x, y]);
        const inside = (v: number, a: number, b: number): boolean =>
          v >= Math.min(a, b) && v <= Math.max(a, b);
        return inside(px, from.x, to.x) && inside(py, from.y, to.y);
      })
      .map(({ row }) => row);
  return (
    <div className="relative min-h-0 flex-1" onPointerDown={begin}>
      <div ref={element} role="img" aria-label={label} className="absolute inset-0" />
      {box && (
        <div
          className="pointer-events-none absolute border border-accent bg-accent-wash/40"
          style={{ left: box.x, top: box.y, width: box.width, height: box.height }}
        />
      )}
    </div>
  );
}
