import { CompiledScale } from '../../colour/compiled-scale.ts';
import type { CurveData } from '../../measure/curves/curve-data.ts';
import { rangeOfSheet, type Sheet } from '../../measure/curves/sheet.ts';
import type { MeasuredQuantity } from '../../measure/measured-quantity.ts';
import { alongSteps } from '../../model/along-steps.ts';
import { atMoment } from '../../model/moment.ts';
import { quantityKey } from '../../model/quantity.ts';
import { fieldByKey, type RunDescription } from '../../model/run.ts';
import type { Chart, Curve, Gauge, Scene } from '../document.ts';
import { gaugeLabel } from '../gauge-label.ts';
import { mapForQuantity } from '../map-for-quantity.ts';
import type { NoReading } from '../reading.ts';
import { settleScale, unitsOfScale } from '../settle-scale.ts';
import { stepsOfStretch } from '../things/stretch.ts';
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
  /** Of a picture over the steps: what its numbers are coloured by, and the unit that says them. */
  colours?: { scale: CompiledScale; unit: string | null };
}

/** A chart with all that is drawn in it. */
export interface ChartDrawn {
  look: Pick<ChartLook, 'arrange' | 'logAlong' | 'logUp' | 'from' | 'to' | 'legend'>;
  curves: readonly CurveDrawn[];
  /** Where the step on show is along curves over steps; null to mark nothing. */
  now: number | null;
  /** What curves over the steps show of them, from one place to another; null for all there is. */
  stretch?: readonly [number, number] | null;
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
  const { values } = alongSteps(steps, run.timeUnit);
  const { first, last } = stepsOfStretch(scene.stretch, steps.length);
  const whole = first === 0 && last === steps.length - 1;
  return {
    look: chart,
    now: chart.now && steps.length > 1 ? atMoment(values, { step, onward: scene.onward }) : null,
    stretch: whole ? null : [values[first], values[last]],
    curves: chart.curves.flatMap((curve) => {
      const data = curves[curve.id];
      if (!curve.visible || !isCurve(data)) return [];
      const name = curveName(curve, data, scene, run);
      const colours = data.sheet && coloursOfSheet(curve, data.sheet, scene, run, step);
      return [{ id: curve.id, name, data, look: curve, ...(colours && { colours }) }];
    }),
  };
}

/** What a picture over the steps is coloured by: as the quantity is in the scene, so that it has the colours of the legend there. */
function coloursOfSheet(
  curve: Curve,
  sheet: Sheet,
  scene: Scene,
  run: RunDescription,
  step: number,
): CurveDrawn['colours'] {
  const gauge = curve.of.kind === 'gauge' ? gaugeOf(curve.of.gauge, scene) : undefined;
  const { field, component } = (gauge?.options ?? {}) as Partial<MeasuredQuantity>;
  const asItIs = curve.work.every((s) => s.off) && field !== undefined && component !== undefined;
  const known = asItIs && scene.scales.find((s) => s.quantity === quantityKey(field, component));
  if (known) return { scale: settleScale(known, run, step), unit: unitsOfScale(known, run).shown };
  const [low, high] = rangeOfSheet(sheet) ?? [0, 1];
  const described = asItIs ? fieldByKey(run, field) : null;
  const map = described ? mapForQuantity(described, component!) : 'viridis';
  return { scale: CompiledScale.of({ map, reversed: false, bands: null, low, high }), unit: sheet.of.unit };
}

const gaugeOf = (id: string, { gauges }: Scene): Gauge | undefined => gauges.find((g) => g.id === id);

/** How a curve is called: by its own name, or by what it is of after all that is done with it. */
export function curveName(
  curve: Curve,
  data: CurveData | NoReading | undefined,
  scene: Scene,
  run: RunDescription,
): string {
  if (curve.name !== null) return curve.name;
  if (isCurve(data)) return data.sheet?.of.name ?? data.up.name;
  const { of } = curve;
  if (of.kind === 'column') return of.column;
  const gauge = gaugeOf(of.gauge, scene);
  return gauge ? gaugeLabel(gauge, scene, run) : 'a curve';
}

/** How a chart is called. */
export const chartLabel = ({ title }: Pick<Chart, 'title'>, index: number): string =>
  title ?? `chart ${index + 1}`;
