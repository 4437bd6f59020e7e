import { lazy, Suspense, useEffect, useState } from 'react';
import { type Pane, type ScenePane, scenePanes } from '#core/beside/side-by-side.ts';
import type { Box } from '#core/beside/side-layout.ts';
import { type ChartDrawn, type CurveDrawn, chartDrawn } from '#core/scene/charts/chart-drawn.ts';
import { titleOf, useBeside, useSide } from './beside-store.ts';
import { boxStyle } from './box-style.ts';
import type { SideController } from './side-controller.ts';

const CurveChart = lazy(() =>
  import('#web/desks/shared/CurveChart.tsx').then((m) => ({ default: m.CurveChart })),
);

/** A chart of one scene among the panes. */
const chartIn = (pane: ScenePane, id: string) => pane.scene.charts.find((c) => c.id === id) ?? null;

/** The curves of a chart of all scenes that have it, in one: each is named with its scene. */
export async function curvesOfPanes(
  panes: readonly ScenePane[],
  chart: string,
  controller: SideController,
): Promise<ChartDrawn | null> {
  const { runs } = useBeside.getState();
  const all: ChartDrawn[] = [];
  for (const pane of panes) {
    const own = chartIn(pane, chart);
    if (!own || !runs.has(pane.run)) continue;
    const source = controller.sourceOf(pane.run);
    const run = await source.withRanges(pane.scene);
    const curves = await source.curves.of([own], pane.scene, run, pane.scene.step);
    const drawn = chartDrawn(own, curves, pane.scene, run, pane.scene.step);
    const title = titleOf(pane, runs);
    all.push({
      ...drawn,
      curves: drawn.curves.map((curve): CurveDrawn => {
        const name = drawn.curves.length > 1 ? `${curve.name}, ${title}` : title;
        // Each scene has its own colours, though the charts are alike.
        return { ...curve, id: `${pane.id} ${curve.id}`, name, look: { ...curve.look, ink: null } };
      }),
    });
  }
  const [first] = all;
  return first
    ? { ...first, look: { ...first.look, legend: true }, curves: all.flatMap((d) => d.curves) }
    : null;
}

export function CurvesPane({
  pane,
  box,
  controller,
}: {
  pane: Extract<Pane, { kind: 'curves' }>;
  box: Box;
  controller: SideController;
}) {
  const side = useSide();
  const runs = useBeside((s) => s.runs);
  const [drawn, setDrawn] = useState<ChartDrawn | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const panes = scenePanes(side).filter((p) => chartIn(p, pane.chart));
  const asked = JSON.stringify(
    panes.map((p) => [p.run, p.title, p.scene.step, chartIn(p, pane.chart), p.scene.gauges, p.scene.sets]),
  );
  useEffect(() => {
    let isWanted = true;
    curvesOfPanes(panes, pane.chart, controller).then(
      (found) => {
        if (!isWanted) return;
        setDrawn(found);
        setTrouble(found ? null : 'No scene here has this chart any more.');
      },
      (error: Error) => isWanted && setTrouble(error.message),
    );
    return () => {
      isWanted = false;
    };
  }, [asked, runs, controller, pane.chart]);
  return (
    <div className="absolute bg-sheet" style={boxStyle(box)} data-testid="curves-of-all">
      {drawn && (
        <Suspense>
          <CurveChart drawn={drawn} label="Curves of all scenes" className="size-full p-1" />
        </Suspense>
      )}
      {!drawn && !trouble && (
        <p role="status" className="grid size-full place-items-center text-soft">
          Measures every step …
        </p>
      )}
      {trouble && (
        <p role="alert" className="grid size-full place-items-center px-6 text-center text-warn">
          {trouble}
        </p>
      )}
    </div>
  );
}
