import type { CurveData } from '#core/measure/curves/curve-data.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Curve, Scene } from '#core/scene/document.ts';
import { gaugeLabel } from '#core/scene/gauge-label.ts';
import type { NoReading } from '#core/scene/reading.ts';

/** How a curve is called: by its own name, or by what it is of after all that is done with it. */
export function curveName(
  curve: Curve,
  data: CurveData | NoReading | undefined,
  scene: Scene,
  run: RunDescription,
): string {
  if (curve.name !== null) return curve.name;
  if (data && 'up' in data) return data.up.name;
  const { of } = curve;
  if (of.kind === 'column') return of.column;
  const gauge = scene.gauges.find((g) => g.id === of.gauge);
  return gauge ? gaugeLabel(gauge, scene, run) : 'a curve';
}
