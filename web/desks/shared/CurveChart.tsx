import { useEffect, useRef } from 'react';
import type { ChartDrawn } from '#core/scene/charts/chart-drawn.ts';
import { echarts } from '#stage/charts/chart-library.ts';
import { type ChartTone, chartOptions } from '#stage/charts/chart-options.ts';

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
}

/** Curves in one chart. */
export function CurveChart({ drawn, label, className, onPlace }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<ReturnType<typeof echarts.init> | null>(null);
  const latest = useRef({ drawn, onPlace });
  latest.current = { drawn, onPlace };
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
    const point = (x: number, y: number) => {
      const { drawn: shown, onPlace: told } = latest.current;
      const panels = shown.look.arrange === 'together' ? 1 : shown.curves.length;
      for (let gridIndex = 0; told && gridIndex < panels; gridIndex++)
        if (made.containPixel({ gridIndex }, [x, y]))
          told((made.convertFromPixel({ xAxisIndex: gridIndex }, x) as unknown as number) ?? Number.NaN);
    };
    const painter = made.getZr();
    let held = false;
    painter.on('mousedown', (e: { offsetX: number; offsetY: number }) => {
      held = true;
      point(e.offsetX, e.offsetY);
    });
    painter.on('mousemove', (e: { offsetX: number; offsetY: number }) => {
      if (held) point(e.offsetX, e.offsetY);
    });
    const release = () => {
      held = false;
    };
    addEventListener('pointerup', release);
    return () => {
      removeEventListener('pointerup', release);
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
  return <div ref={box} role="img" aria-label={label} className={className} />;
}
