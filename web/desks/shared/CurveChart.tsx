import { useEffect, useRef, useState } from 'react';
import type { ChartDrawn } from '#core/scene/charts/chart-drawn.ts';
import { echarts } from '#stage/charts/chart-library.ts';
import { type ChartTone, chartOptions, panelsOf } from '#stage/charts/chart-options.ts';
import { isSheetDrawn, sayOfSheet } from '#stage/charts/sheet-panel.ts';

/** Colours and letters of charts on the desk, as the page has them. */
export function deskTone(): ChartTone {
  const style = getComputedStyle(document.documentElement);
  const colour = (name: string): string => style.getPropertyValue(name).trim();
  return { ink: colour('--ink'), soft: colour('--soft'), font: "'Inter Variable', sans-serif", letters: 12 };
}

interface Props {
  drawn: ChartDrawn;
  label: string;
  className: string;
  /** Told of a place along the curves that is pressed, or dragged over. */
  onPlace?(place: number): void;
  /** Told to draw what is shown of the steps in or out around a place, by a factor; null to show all of them. */
  onStretch?(around: { place: number; factor: number } | null): void;
}

/** What one notch of the wheel draws the stretch of the steps in or out by. */
const CLOSER = 1.4;

/** Curves in one chart. */
export function CurveChart({ drawn, label, className, onPlace, onStretch }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<ReturnType<typeof echarts.init> | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const latest = useRef({ drawn, onPlace, onStretch });
  latest.current = { drawn, onPlace, onStretch };
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const made = echarts.init(element);
    chart.current = made;
    const draw = () => {
      made.resize();
      const { clientWidth: width, clientHeight: height } = element;
      made.setOption(chartOptions(latest.current.drawn, deskTone(), { width, height }), { notMerge: true });
    };
    const resize = new ResizeObserver(draw);
    resize.observe(element);
    // The theme of the page changes colours as well.
    const themed = new MutationObserver(draw);
    themed.observe(document.documentElement, { attributeFilter: ['data-theme'] });
    interface At {
      offsetX: number;
      offsetY: number;
    }
    const panelAt = ({ offsetX: x, offsetY: y }: At): number =>
      panelsOf(latest.current.drawn).findIndex((_, gridIndex) => made.containPixel({ gridIndex }, [x, y]));
    const placeAt = (e: At): number => {
      const panel = panelAt(e);
      return panel < 0
        ? Number.NaN
        : (made.convertFromPixel({ xAxisIndex: panel }, e.offsetX) as unknown as number);
    };
    const point = (e: At) => {
      const place = placeAt(e);
      if (!Number.isNaN(place)) latest.current.onPlace?.(place);
    };
    const stretch = (e: WheelEvent) => {
      const { drawn: shown, onStretch: told } = latest.current;
      const curves = panelsOf(shown)[panelAt(e)]?.curves;
      if (!told || !curves?.some(({ curve }) => curve.data.overSteps) || e.deltaY === 0) return;
      e.preventDefault();
      told({ place: placeAt(e), factor: e.deltaY < 0 ? 1 / CLOSER : CLOSER });
    };
    const all = () => latest.current.onStretch?.(null);
    element.addEventListener('wheel', stretch, { passive: false });
    element.addEventListener('dblclick', all);
    const tellOf = (e: At): string | null => {
      const panel = panelAt(e);
      const curve = panelsOf(latest.current.drawn)[panel]?.curves[0]?.curve;
      if (!curve || !isSheetDrawn(curve)) return null;
      const [x, y] = made.convertFromPixel({ gridIndex: panel }, [e.offsetX, e.offsetY]);
      return sayOfSheet(curve, x, y);
    };
    const painter = made.getZr();
    let held = false;
    painter.on('mousedown', (e: At) => {
      held = true;
      point(e);
    });
    painter.on('mousemove', (e: At) => {
      if (held) point(e);
      setSaid(tellOf(e));
    });
    painter.on('globalout', () => setSaid(null));
    const release = () => {
      held = false;
    };
    addEventListener('pointerup', release);
    return () => {
      removeEventListener('pointerup', release);
      element.removeEventListener('wheel', stretch);
      element.removeEventListener('dblclick', all);
      resize.disconnect();
      themed.disconnect();
      made.dispose();
      chart.current = null;
    };
  }, []);
  useEffect(() => {
    const element = box.current;
    if (!element || !chart.current) return;
    const { clientWidth: width, clientHeight: height } = element;
    chart.current.setOption(chartOptions(drawn, deskTone(), { width, height }), { notMerge: true });
  }, [drawn]);
  return (
    <div className={`relative ${className}`}>
      <div ref={box} role="img" aria-label={label} className="size-full" />
      {said && (
        <p className="pointer-events-none absolute right-2 bottom-1 rounded-md bg-sheet/90 px-2 py-0.5 text-xs tabular-nums shadow-sm">
          {said}
        </p>
      )}
    </div>
  );
}
