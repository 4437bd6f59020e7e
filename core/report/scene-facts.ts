import { nameOfMap } from '../colour/maps/own-map.ts';
import { ownName } from '../fields/quantity-sources.ts';
import { parseQuantity } from '../model/quantity.ts';
import type { RunDescription } from '../model/run.ts';
import { unitChange } from '../model/units.ts';
import { sayMoment } from '../motion/say-moment.ts';
import { saySteps } from '../motion/step-text.ts';
import { sceneToCheck } from '../preflight/checked-scene.ts';
import type { PictureSeen } from '../preflight/picture-seen.ts';
import { preflight } from '../preflight/registry.ts';
import { templateWords } from '../scene/annotations/template-words.ts';
import { sceneMismatches } from '../scene/apply-scene.ts';
import { type ChartDrawn, type Curves, chartDrawn } from '../scene/charts/chart-drawn.ts';
import { OPENING_ASPECT } from '../scene/default-scene.ts';
import type { Chart, Scene } from '../scene/document.ts';
import { gaugeLabel, givesCurve } from '../scene/gauge-label.ts';
import { sceneCaption } from '../scene/layer-sentence.ts';
import { isReading, type Readings } from '../scene/reading.ts';
import { saidInPicture } from '../scene/said-in-picture.ts';
import { sayBesideReading, sayValueRead } from '../scene/say-reading.ts';
import { settleScale, unitsOfScale } from '../scene/settle-scale.ts';
import { shownScales } from '../scene/shown-scales.ts';
import { type ShownSpread, spreadOfScale } from '../scene/spread-of-scale.ts';
import { captionOf } from './caption.ts';
import type { FactChart, FactReading, FactScale, FactSeries, LiveWord, SceneFacts } from './facts.ts';

/** A scene with all that was measured of it at its step. */
export interface MeasuredScene {
  scene: Scene;
  /** With the ranges its scales are settled by. */
  run: RunDescription;
  runId: string;
  spreads: readonly ShownSpread[];
  readings: Readings;
  curves: Curves;
  /** Null where nothing is known of its picture. */
  picture: PictureSeen | null;
  /** Of what was read. */
  files: SceneFacts['origin']['files'];
}

/** Draws a chart, and tells the colours of its curves, `#rrggbb`. */
export type DrawChart = (
  drawn: ChartDrawn,
) => Promise<Pick<FactChart, 'svg' | 'png'> & { inks: readonly string[] }>;

/**
 * What a report knows of a scene.
 *
 * @param draw draws a chart
 */
export async function sceneFacts(measured: MeasuredScene, draw: DrawChart): Promise<SceneFacts> {
  const { scene, run, runId, readings, curves, files } = measured;
  const moment = sayMoment(scene, run);
  const isMoving = run.steps.length > 1;
  return {
    kind: 'scene',
    run: { id: runId, name: run.name },
    scene: scene.name,
    captions: {
      engineer: captionOf(scene, run, 'engineer'),
      customer: captionOf(scene, run, 'customer'),
      lay: captionOf(scene, run, 'lay'),
    },
    alt: sceneCaption(scene, run, isMoving ? (moment?.time ?? null) : null),
    words: wordsOf(measured),
    readings: scene.gauges.filter((g) => !givesCurve(g)).map((g) => readingOf(g, readings, scene, run)),
    charts: await Promise.all(scene.charts.map((chart) => factChart(chart, curves, scene, run, draw))),
    origin: {
      files,
      steps: saySteps(run.steps, run.timeUnit),
      moment: isMoving && moment ? `step ${moment.step}, ${moment.time}` : null,
      scales: scalesOf(measured),
      stated: saidInPicture(scene, run),
    },
    lacking: sceneMismatches(scene, run),
    findings: preflight(sceneToCheck(scene, run, scene.step, measured), scene.checks),
    aspect: scene.picture.aspect ?? OPENING_ASPECT,
  };
}

function wordsOf({ scene, run, readings }: MeasuredScene): LiveWord[] {
  const setting = { scene, run, step: scene.step, here: null, readings };
  return templateWords(setting)
    .filter((w) => !w.rare)
    .map(({ name, says, unit, value }) => {
      const now = value();
      return { name, says, unit, value: typeof now === 'object' && now !== null ? [...now] : now };
    });
}

function readingOf(
  gauge: Scene['gauges'][number],
  readings: Readings,
  scene: Scene,
  run: RunDescription,
): FactReading {
  const found = readings[gauge.id];
  const own = { id: gauge.id, name: gaugeLabel(gauge, scene, run) };
  if (!isReading(found)) {
    const trouble = found?.trouble ?? 'It was not measured.';
    return { ...own, said: '', value: null, unit: null, notes: [], trouble };
  }
  const value = typeof found.value === 'number' ? found.value : [...found.value];
  return {
    ...own,
    said: sayValueRead(found),
    value,
    unit: found.unit,
    notes: sayBesideReading(found),
    trouble: null,
  };
}

/** Longer curves than this are thinned out for tables and charts of offices; the drawing has all of them. */
const MOST_POINTS = 2000;

async function factChart(
  chart: Chart,
  curves: Curves,
  scene: Scene,
  run: RunDescription,
  draw: DrawChart,
): Promise<FactChart> {
  const drawn = chartDrawn(chart, curves, scene, run, scene.step);
  const { inks, ...pictures } = await draw(drawn);
  const [first] = drawn.curves;
  const axis = ({ name, unit }: { name: string; unit: string | null }): string =>
    unit ? `${name}, ${unit}` : name;
  const units = [...new Set(drawn.curves.map((c) => c.data.up.unit))];
  const up =
    drawn.curves.length === 1 ? axis(first.data.up) : units.length === 1 ? (units[0] ?? 'value') : 'values';
  return {
    id: chart.id,
    title: chart.title ?? '',
    along: first ? axis(first.data.along) : '',
    up: first ? up : '',
    logAlong: chart.logAlong,
    logUp: chart.logUp,
    // A picture over the steps has no curve to be put into a table.
    series: drawn.curves.flatMap((c, i): FactSeries[] =>
      c.data.sheet
        ? []
        : [{ name: c.name, ...thinned(c.data.x, c.data.y), ink: inks[i], joined: !c.data.scattered }],
    ),
    ...pictures,
  };
}

function thinned(x: ArrayLike<number>, y: ArrayLike<number>): Pick<FactSeries, 'x' | 'y'> {
  const every = Math.max(1, Math.ceil(x.length / MOST_POINTS));
  const kept = Array.from({ length: Math.ceil(x.length / every) }, (_, i) => i * every);
  // Where it ends is never left out.
  if (x.length > 0 && kept.at(-1) !== x.length - 1) kept.push(x.length - 1);
  return { x: kept.map((i) => x[i]), y: kept.map((i) => (Number.isFinite(y[i]) ? y[i] : null)) };
}

function scalesOf({ scene, run, spreads }: MeasuredScene): FactScale[] {
  return shownScales(scene).map((scale) => {
    const settled = settleScale(scale, run, scene.step, spreadOfScale(scale, scene, spreads));
    const { stored, shown } = unitsOfScale(scale, run);
    const { factor, shift } = (stored && shown && unitChange(stored, shown)) || { factor: 1, shift: 0 };
    const inUnit = (value: number): number => value * factor + shift;
    return {
      name: scale.name || ownName(parseQuantity(scale.quantity).field),
      unit: shown,
      low: inUnit(settled.low),
      high: inUnit(settled.high),
      map: nameOfMap(scale.map),
    };
  });
}
