import { Download, ImagePlus, SlidersHorizontal, Trash2 } from 'lucide-react';
import { lazy, Suspense, useMemo } from 'react';
import { fileName } from '#core/language/file-name.ts';
import { curvesCsv } from '#core/measure/curves/curve-data.ts';
import { alongSteps, nearestPlace } from '#core/model/along-steps.ts';
import { annotationKind } from '#core/scene/annotations/registry.ts';
import { chart as chartThing } from '#core/scene/charts/chart.ts';
import { type ChartDrawn, chartDrawn } from '#core/scene/charts/chart-drawn.ts';
import type { Chart } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import { stretch, stretchAround } from '#core/scene/things/stretch.ts';
import { inkOf } from '#stage/charts/chart-options.ts';
import { saveFile } from '#web/desks/shared/save-file.ts';
import { Choice, Chooser } from '#web/desks/stage/Chooser.tsx';
import type { AnyControl } from '#web/desks/stage/controls/control-props.ts';
import { Controls } from '#web/desks/stage/controls/OneControl.tsx';
import { edit, goToStep, setStretch, useDesk, useRun, useScene } from '#web/desks/stage/desk-store.ts';
import { addWords } from '#web/desks/stage/words/word-edits.ts';
import { CurveChip } from './CurveChip.tsx';
import { takesCurves } from './dragged-curve.ts';

/** Nobody waits for charts who wants none. */
const CurveChart = lazy(() =>
  import('#web/desks/shared/CurveChart.tsx').then((m) => ({ default: m.CurveChart })),
);

/** One chart: its curves, what is done with them, and the step on show marked in it. */
export function ChartCard({ chart }: { chart: Chart }) {
  const run = useRun();
  const scene = useScene();
  const curves = useDesk((s) => s.curves);
  const { step } = scene;
  const along = useMemo(() => alongSteps(run.steps, run.timeUnit), [run]);
  const drawn = useMemo(
    // On the desk the curves are named above it.
    (): ChartDrawn => {
      const made = chartDrawn(chart, curves, scene, run, step);
      return { ...made, look: { ...made.look, legend: false } };
    },
    [chart, curves, step, run, scene.gauges, scene.stretch, scene.scales],
  );
  const title = chart.title ?? (drawn.curves.map((c) => c.name).join(', ') || 'Chart');
  const goTo = (place: number) => {
    if (!drawn.curves.some((c) => c.data.overSteps) || Number.isNaN(place)) return;
    goToStep(nearestPlace(along.values, place));
  };
  return (
    <article
      aria-label={title}
      className="flex min-h-[220px] min-w-[340px] flex-1 flex-col rounded-xl border border-rule bg-sheet"
      {...takesCurves(chart.id)}
    >
      <header className="flex items-start gap-1 border-b border-rule/60 py-1 pr-1.5 pl-2.5">
        <ul className="flex min-w-0 flex-1 flex-wrap items-center gap-1 py-px">
          {chart.title !== null && <li className="mr-1 font-medium">{chart.title}</li>}
          {chart.curves.map((curve) => {
            const index = drawn.curves.findIndex((c) => c.id === curve.id);
            return (
              <CurveChip
                key={curve.id}
                chart={chart}
                curve={curve}
                data={curves[curve.id]}
                ink={index < 0 ? null : inkOf(drawn.curves[index], index)}
              />
            );
          })}
          {chart.curves.length === 0 && chart.title === null && <li className="text-soft">An empty chart</li>}
        </ul>
        <Chooser
          word={<SlidersHorizontal size={14} />}
          label="How this chart is drawn"
          look="mark size-7"
          wide
        >
          <Controls
            controls={chartThing.controls as AnyControl[]}
            options={{ ...chart }}
            setting={settingOf(run, scene)}
            set={(change, key) =>
              edit({ type: 'chart.change', id: chart.id, change }, key && `${key}-${chart.id}`)
            }
          />
        </Chooser>
        <button
          type="button"
          className="mark size-7"
          aria-label={`Put the chart ${title} on the picture`}
          title="Put it on the picture"
          onClick={() => addWords(annotationKind('chart'), { chart: chart.id }, false)}
        >
          <ImagePlus size={14} />
        </button>
        <SaveChart title={title} drawn={{ ...drawn, look: chart }} />
        <button
          type="button"
          className="mark size-7"
          aria-label={`Delete the chart ${title}`}
          title="Delete this chart"
          onClick={() => edit({ type: 'chart.remove', id: chart.id })}
        >
          <Trash2 size={14} />
        </button>
      </header>
      {drawn.curves.length > 0 ? (
        <Suspense fallback={<div className="min-h-0 flex-1" />}>
          <CurveChart
            drawn={drawn}
            label={`Chart of ${title}`}
            className="min-h-0 w-full flex-1 px-1 pt-1"
            onPlace={goTo}
            onStretch={(around) =>
              setStretch(
                around
                  ? stretchAround(scene.stretch, along.values, around.place, around.factor)
                  : stretch.plain,
              )
            }
          />
        </Suspense>
      ) : (
        <p className="m-auto px-6 text-center text-soft">
          {chart.curves.length === 0
            ? 'Empty as yet: drag a curve from the list here.'
            : chart.curves.some((c) => !curves[c.id])
              ? 'Measures every step …'
              : ''}
        </p>
      )}
    </article>
  );
}

/** A chart as a file. */
function SaveChart({ title, drawn }: { title: string; drawn: ChartDrawn }) {
  const name = fileName(title.slice(0, 80));
  const picture = async (kind: 'svg' | 'png') => {
    const { chartFile } = await import('#web/desks/shared/chart-file.ts');
    saveFile(await chartFile(drawn, kind), `${name}.${kind}`);
  };
  const csv = () => saveFile(new Blob([curvesCsv(drawn.curves)], { type: 'text/csv' }), `${name}.csv`);
  return (
    <Chooser word={<Download size={14} />} label="Save this chart" look="mark size-7">
      <Choice chosen={false} onChoose={() => void picture('svg')}>
        SVG, sharp at any size
      </Choice>
      <Choice chosen={false} onChoose={() => void picture('png')}>
        PNG, for slides
      </Choice>
      <Choice chosen={false} onChoose={csv}>
        CSV, its numbers in full
      </Choice>
    </Chooser>
  );
}
