import type { ChainStep, Chart, Curve, Gauge, Scene } from './document.ts';
import { movedTo } from './keyed-lists.ts';

/** Edits of numbers that are asked for, and of the charts of their curves. */
export type GaugeEdit =
  /** `chart`: where it is drawn at once. */
  | { type: 'gauge.add'; gauge: Gauge; curve?: { chart: string; curve: Curve } }
  | { type: 'gauge.change'; id: string; change: Partial<Omit<Gauge, 'id'>> }
  | { type: 'gauge.remove'; id: string }
  | { type: 'gauge.move'; id: string; to: number }
  | { type: 'chart.add'; chart: Chart }
  | { type: 'chart.change'; id: string; change: Partial<Omit<Chart, 'id' | 'curves'>> }
  | { type: 'chart.remove'; id: string }
  | { type: 'chart.move'; id: string; to: number }
  | { type: 'curve.add'; chart: string; curve: Curve }
  | { type: 'curve.change'; id: string; change: Partial<Omit<Curve, 'id'>> }
  | { type: 'curve.remove'; id: string }
  /** To a place in its own or in another chart. */
  | { type: 'curve.move'; id: string; chart: string; to: number };

export const gaugeEditsSaid: Record<GaugeEdit['type'], string> = {
  'gauge.add': 'add a gauge',
  'gauge.change': 'change a gauge',
  'gauge.remove': 'delete a gauge',
  'gauge.move': 'move a gauge',
  'chart.add': 'add a chart',
  'chart.change': 'change a chart',
  'chart.remove': 'delete a chart',
  'chart.move': 'move a chart',
  'curve.add': 'draw a curve',
  'curve.change': 'change a curve',
  'curve.remove': 'take a curve away',
  'curve.move': 'move a curve',
};

export const isGaugeEdit = (edit: { type: string }): edit is GaugeEdit =>
  Object.hasOwn(gaugeEditsSaid, edit.type);

export function withGaugeEdit(scene: Scene, edit: GaugeEdit): Scene {
  const { gauges, charts } = scene;
  switch (edit.type) {
    case 'gauge.add': {
      const added = { ...scene, gauges: [...gauges, edit.gauge] };
      return edit.curve ? withGaugeEdit(added, { type: 'curve.add', ...edit.curve }) : added;
    }
    case 'gauge.change':
      return { ...scene, gauges: gauges.map((g) => (g.id === edit.id ? { ...g, ...edit.change } : g)) };
    case 'gauge.remove':
      // Its curves would be of nothing.
      return {
        ...scene,
        gauges: gauges.filter((g) => g.id !== edit.id),
        charts: charts.map((c) => ({
          ...c,
          curves: c.curves.filter(({ of }) => of.kind !== 'gauge' || of.gauge !== edit.id),
        })),
      };
    case 'gauge.move':
      return { ...scene, gauges: movedTo(gauges, edit.id, edit.to) };
    case 'chart.add':
      return { ...scene, charts: [...charts, edit.chart] };
    case 'chart.change':
      return { ...scene, charts: charts.map((c) => (c.id === edit.id ? { ...c, ...edit.change } : c)) };
    case 'chart.remove':
      return { ...scene, charts: charts.filter((c) => c.id !== edit.id) };
    case 'chart.move':
      return { ...scene, charts: movedTo(charts, edit.id, edit.to) };
    case 'curve.add':
      return withCurves(scene, (curves, chart) => (chart === edit.chart ? [...curves, edit.curve] : curves));
    case 'curve.change':
      return withCurves(scene, (curves) =>
        curves.map((c) => (c.id === edit.id ? { ...c, ...edit.change } : c)),
      );
    case 'curve.remove':
      return withCurves(scene, (curves) => curves.filter((c) => c.id !== edit.id));
    case 'curve.move': {
      const moved = charts.flatMap((c) => c.curves).find((c) => c.id === edit.id);
      if (!moved) return scene;
      return withCurves(scene, (curves, chart) => {
        const others = curves.filter((c) => c !== moved);
        return chart === edit.chart ? others.toSpliced(edit.to, 0, moved) : others;
      });
    }
  }
}

const withCurves = (scene: Scene, change: (curves: Curve[], chart: string) => Curve[]): Scene => ({
  ...scene,
  charts: scene.charts.map((c) => ({ ...c, curves: change(c.curves, c.id) })),
});

/** Work on a curve, changed in one of its steps. */
export const withWorkChanged = (work: ChainStep[], id: string, options: object): ChainStep[] =>
  work.map((s) => (s.id === id ? { ...s, options: { ...(s.options as object), ...options } } : s));
