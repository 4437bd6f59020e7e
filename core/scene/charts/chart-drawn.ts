import type { CurveData } from '../../measure/curves/curve-data.ts';
import { alongSteps } from '../../model/along-steps.ts';
import type { RunDescription } from '../../model/run.ts';
import type { Chart, Curve, Scene } from '../document.ts';
import { gaugeLabel } from '../gauge-label.ts';
import type { NoReading } from '../reading.ts';
import type { ChartLook } from './chart.ts';
import type { CurveLook } from './curve.ts';

/** What the curves of charts are, by their ids; what cannot be drawn says why. */
export type Curves = Readonly<Record<string, CurveData | NoReading>>;

export const isCurve = (found: CurveData | NoReading | undefined): found is CurveData =>
  found !== undefined && 'x' in found;

/** A curve as it is drawn. */
export interface CurveDrawn {
  id: string;
  name: string;
  data: CurveData;
  look: Pick<CurveLook, 'ink' | 'width' | 'line' | 'axis'>;
}

/** A chart with all that is drawn in it. */
export interface ChartDrawn {
  look: Pick<ChartLook, 'arrange' | 'logAlong' | 'logUp' | 'from' | 'to' | 'legend'>;
  curves: readonly CurveDrawn[];
  /** Where the step on show is along curves over steps; null to mark nothing. */
  now: number | null;
  /** Curves over steps end there. */
  upToNow?: boolean;
}

/** A chart of a scene at a step, with the curves that are known and shown. */
export function chartDrawn(
  chart: Chart,
  curves: Curves,
  scene: Scene,
  run: RunDescription,
  step: number,
): ChartDrawn {
  const { steps } = run;
  return {
    look: chart,
    now: chart.now && steps.length > 1 ? alongSteps(steps, run.timeUnit).values[step] : null,
    curves: chart.curves.flatMap((curve) => {
      const data = curves[curve.id];
      return curve.visible && isCurve(data)
        ? [{ id: curve.id, name: curveName(curve, data, scene, run), data, look: curve }]
        : [];
    }),
  };
}

/** How a curve is called: by its own name, or by what it is of after all that is done with it. */
export function curveName(
  curve: Curve,
  data: CurveData | NoReading | undefined,
  scene: Scene,
  run: RunDescription,
): string {
  if (curve.name !== null) return curve.name;
  if (isCurve(data)) return data.up.name;
  const { of } = curve;
  if (of.kind === 'column') return of.column;
  const gauge = scene.gauges.find((g) => g.id === of.gauge);
  return gauge ? gaugeLabel(gauge, scene, run) : 'a curve';
}

/** How a chart is called. */
export const chartLabel = ({ title }: Pick<Chart, 'title'>, index: number): string =>
  title ?? `chart ${index + 1}`;
