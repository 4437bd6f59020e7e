import { useRef } from 'react';
import type { ResponsePlot } from '#core/sets/response-plot.ts';
import type { RunColumn } from '#core/sets/run-table.ts';
import { deskTone } from '#web/desks/shared/CurveChart.tsx';
import { useBox } from '../use-box.ts';
import { responseOptions } from './response-options.ts';
import { useRowChart } from './use-row-chart.ts';

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

/** Runs as points, with what is fitted through them; a box drawn over some marks them. */
export function ResponseChart({ plot, group, label, isMarked, onPoint, onPress, onBox }: Props) {
  const latest = useRef({ plot, onBox });
  latest.current = { plot, onBox };
  const options = () => responseOptions(plot, deskTone(), group, isMarked);
  const { element, chart } = useRowChart({ options, onPoint, onPress }, [plot, group, isMarked]);
  const { box, begin } = useBox((from, to) => latest.current.onBox(rowsBetween(from, to)));
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
