import { lazy, Suspense, use, useMemo, useState } from 'react';
import {
  POINT_FIGURES,
  type PointFigure,
  type PointsAtStep,
  pointsCsv,
} from '#core/measure/points-over-time.ts';
import { alongSteps } from '#core/model/along-steps.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Layer } from '#core/scene/document.ts';
import { layerLabel, wholeChain } from '#core/scene/layer-chain.ts';
import { quantitiesOf } from '#core/scene/setting.ts';
import type { CurvesDrawn } from '#web/desks/shared/CurveChart.tsx';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Progress } from '#web/desks/shared/Progress.tsx';
import { fileName, saveFile } from '#web/desks/shared/save-file.ts';
import { useWork } from '#web/desks/shared/work-state.ts';
import { sceneNow, useDesk, useRun } from './desk-store.ts';
import { FindingContext } from './finding-context.ts';

/** Nobody waits for charts who wants none. */
const CurveChart = lazy(() =>
  import('#web/desks/shared/CurveChart.tsx').then((m) => ({ default: m.CurveChart })),
);

/** So few steps are dots of their own. */
const FEW = 30;

/** How many points a line has at every step, and the sum and mean of what they are coloured by. */
export function OverTime({ layer }: { layer: Layer }) {
  const run = useRun();
  const points = useDesk((s) => s.news[layer.id]?.points ?? 0);
  const { overTime } = use(FindingContext);
  const { work, problem, run: doWork } = useWork();
  // What was counted stays until something that the line is made of is another.
  const madeOf = useDesk(({ history: { scene } }) =>
    JSON.stringify([wholeChain(layer, scene), layer.time, layer.colour, scene.sets]),
  );
  const [counted, setCounted] = useState<Counted | null>(null);
  const rows = counted?.run === run && counted.madeOf === madeOf ? counted.rows : null;
  if (run.steps.length < 2 || (points === 0 && !rows)) return null;

  const count = () =>
    doWork('Counting', async (progress, signal) =>
      setCounted({ run, madeOf, rows: await overTime(layer.id, progress, signal) }),
    );
  if (work) return <Progress {...work} onCancel={work.cancel} />;
  return (
    <div>
      {rows ? (
        <Figures layer={layer} rows={rows} />
      ) : (
        <button type="button" className="quiet h-7 text-sm" onClick={() => void count()}>
          Count its points over time
        </button>
      )}
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

interface Counted {
  run: RunDescription;
  madeOf: string;
  rows: readonly PointsAtStep[];
}

function Figures({ layer, rows }: { layer: Layer; rows: readonly PointsAtStep[] }) {
  const run = useRun();
  const [figure, setFigure] = useState<PointFigure>('points');
  const { colour } = layer;
  const quantity =
    colour.kind === 'field'
      ? (quantitiesOf(run).find((q) => q.field === colour.field && q.component === colour.component) ?? null)
      : null;
  const offered = POINT_FIGURES.filter(({ id }) => id === 'points' || quantity !== null);
  const shown = offered.find(({ id }) => id === figure) ?? offered[0];
  const along = useMemo(() => alongSteps(run.steps, run.timeUnit), [run]);
  const alongName = `${along.name}${along.unit ? `, ${along.unit}` : ''}`;
  const drawn = useMemo((): CurvesDrawn => {
    const name =
      shown.id === 'points'
        ? shown.id
        : `${shown.id} of ${quantity?.name}${quantity?.unit ? `, ${quantity.unit}` : ''}`;
    return {
      along: { name: alongName, values: rows.map((r) => along.values[r.step]) },
      curves: [{ name, values: rows.map(shown.of) }],
      few: rows.length <= FEW,
    };
  }, [rows, shown, quantity?.name, quantity?.unit, along, alongName]);
  const save = () => {
    const csv = pointsCsv(rows, quantity, along);
    saveFile(new Blob([csv], { type: 'text/csv' }), `${fileName(layerLabel(layer, sceneNow()))}.csv`);
  };
  return (
    <>
      <div className="flex flex-wrap gap-1.5">
        {offered.map(({ id }) => (
          <Pill key={id} on={id === shown.id} onClick={() => setFigure(id)}>
            {id}
          </Pill>
        ))}
        <button type="button" className="quiet ml-auto h-7 text-sm" onClick={save}>
          Save as CSV
        </button>
      </div>
      <Suspense fallback={<div className="mt-1 h-44" />}>
        <CurveChart drawn={drawn} label={`${shown.id} over time`} className="mt-1 h-44" />
      </Suspense>
    </>
  );
}
