import { quoteIfNeeded } from '#core/language/sentence.ts';
import type { RunDescription } from '#core/model/run.ts';
import { chart } from '#core/scene/charts/chart.ts';
import { curve } from '#core/scene/charts/curve.ts';
import type { Chart, Curve, CurveSource, Gauge, Layer } from '#core/scene/document.ts';
import { readsVector } from '#core/scene/gauge-label.ts';
import { layerLabel } from '#core/scene/layer-chain.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { freshLayer } from '#core/scene/read-layer.ts';
import { quantitiesOf } from '#core/scene/setting.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, type StageDeskName, sceneNow, useDesk } from '#web/desks/stage/desk-store.ts';

const freshCurve = (of: CurveSource): Curve => ({ ...curve.plain, id: freshId('curve'), of, work: [] });

export const freshChart = (curves: Curve[]): Chart => ({ ...chart.plain, id: freshId('chart'), curves });

/** An empty chart. */
export const addChart = (): void => edit({ type: 'chart.add', chart: freshChart([]) });

/** A gauge of what is asked; null where the sentence is not understood. */
export function gaugeOf(sentence: string, run: RunDescription): Gauge | null {
  const ask = readAsk(sentence, sceneNow(), run);
  if ('at' in ask) return null;
  const id = freshId('gauge');
  return { ...ask, id, name: null, on: { ...ask.on, id } };
}

/** What there is to draw of a gauge: it, or each part of a vector by itself. */
export const partsOf = (gauge: Gauge): Extract<CurveSource, { kind: 'gauge' }>['part'][] =>
  readsVector(gauge) ? ['size', 'x', 'y', 'z'] : ['value'];

export const sourceOf = (gauge: Gauge): CurveSource => ({
  kind: 'gauge',
  gauge: gauge.id,
  part: partsOf(gauge)[0],
});

/** Something to draw: what a curve is of, with the gauge it needs where there is none yet. */
export interface Drawable {
  of: CurveSource;
  gauge?: Gauge;
}

/** Draws it, in a chart or in the last one there is; in one step of undo. */
export function drawCurve({ of, gauge }: Drawable, into: string | null = null): void {
  const key = freshId('draw');
  const { charts } = sceneNow();
  if (gauge) edit({ type: 'gauge.add', gauge }, key);
  const own = freshCurve(of);
  const known = charts.find((c) => c.id === into) ?? charts.at(-1);
  if (known) edit({ type: 'curve.add', chart: known.id, curve: own }, key);
  else edit({ type: 'chart.add', chart: freshChart([own]) }, key);
}

/**
 * The numbers of a line over the steps, in a chart of their own, on the desk where they are seen: of points how many there
 * are, and of what it is coloured by the mean, and of points the sum.
 */
export function drawNumbersOfLine(layer: Layer): void {
  const { run, news } = useDesk.getState();
  const scene = sceneNow();
  const points = (news[layer.id]?.points ?? 0) > 0;
  const { colour } = layer;
  const quantity =
    colour.kind === 'field'
      ? quantitiesOf(run).find((q) => q.field === colour.field && q.component === colour.component)
      : undefined;
  const asked = [
    ...(points ? ['count of points of everything'] : []),
    ...(quantity ? [`average of ${quoteIfNeeded(quantity.name)} over everything`] : []),
    ...(quantity && points ? [`sum of ${quoteIfNeeded(quantity.name)} over everything`] : []),
    ...(!points && !quantity ? ['area of everything'] : []),
  ];
  const gauges = asked.flatMap((said): Gauge[] => {
    const made = gaugeOf(said, run);
    return made ? [{ ...made, on: { ...freshLayer(run, made.id), from: layer.id, time: layer.time } }] : [];
  });
  if (gauges.length === 0) return;
  const key = freshId('draw');
  for (const gauge of gauges) edit({ type: 'gauge.add', gauge }, key);
  const curves = gauges.map((gauge) => freshCurve(sourceOf(gauge)));
  const title = layer.name ?? layerLabel(layer, scene);
  edit({ type: 'chart.add', chart: { ...freshChart(curves), title, arrange: 'side by side' } }, key);
  showDesk('gauges');
}

/** Goes to another desk of the same stage. */
export function showDesk(desk: StageDeskName): void {
  history.replaceState(null, '', desk === 'stage' ? location.pathname + location.search : `#${desk}`);
  useDesk.setState({ desk, openGauge: null, playing: false });
}
