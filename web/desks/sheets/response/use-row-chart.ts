import type { EChartsCoreOption } from 'echarts/core';
import { type RefObject, useEffect, useRef } from 'react';
import { echarts } from '#stage/charts/chart-library.ts';

type Chart = ReturnType<typeof echarts.init>;

interface RowChart {
  /** What is drawn now; called whenever its size or the theme of the page changes. */
  options(): EChartsCoreOption;
  /** Told of the run that is pointed at, by its row, and null where none is any more. */
  onPoint(row: number | null): void;
  /** Told of a run that was pressed. */
  onPress(row: number): void;
}

/**
 * A chart whose points are runs.
 *
 * @param drawn whatever it is drawn from: it is drawn anew when one of these is another
 */
export function useRowChart(
  { options, onPoint, onPress }: RowChart,
  drawn: readonly unknown[],
): { element: RefObject<HTMLDivElement | null>; chart: RefObject<Chart | null> } {
  const element = useRef<HTMLDivElement>(null);
  const chart = useRef<Chart | null>(null);
  const latest = useRef({ options, onPoint, onPress });
  latest.current = { options, onPoint, onPress };
  const draw = (): void => chart.current?.setOption(latest.current.options(), { notMerge: true });
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
  useEffect(draw, [...drawn]);
  return { element, chart };
}
