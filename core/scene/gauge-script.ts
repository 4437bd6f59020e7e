import { quote, speak } from '../language/sentence.ts';
import type { SentenceReader } from '../language/sentence-reader.ts';
import { curveWorks, understoodWork } from '../measure/curves/registry.ts';
import type { RunDescription } from '../model/run.ts';
import { withStepIds } from '../ops/chain/step.ts';
import { sayAsk } from './ask.ts';
import { chart } from './charts/chart.ts';
import { curve } from './charts/curve.ts';
import type { Chart, Curve, CurveSource, Gauge, Scene } from './document.ts';
import { readAsk } from './read-ask.ts';
import { settingOf } from './setting.ts';

export const GAUGE = 'Gauge';
const THEN = ', then ';
const OF_RUN = ' of run ';
const EVERY_STEP = ' at every step';

/** A gauge in a script: `Gauge "heat": integral of T over everything`. */
export const gaugeSentence = (gauge: Gauge, scene: Scene, run: RunDescription): string =>
  `${GAUGE} ${gauge.name === null ? '' : `${quote(gauge.name)}: `}${sayAsk(gauge, scene, run)}`;

/** A chart in a script, and behind it a line for each of its curves: `Curve of gauge 2, x, then derivative`. */
export function chartSentences(of: Chart, scene: Scene, run: RunDescription): string[] {
  const setting = { ...settingOf(run, scene), exact: true };
  return [
    `${chart.opening}${speak([{ text: ' ' }, ...(chart.phrase.say(of, setting) ?? [])]).replace(/^(?=[^,])/, ' ')}`.trimEnd(),
    ...of.curves.map((one) => {
      const work = one.work.flatMap((step) => {
        const known = understoodWork(step);
        const said = known && speak(known.work.phrase.say(known.options, setting) ?? []);
        return said ? [`${THEN}${said}${step.off ? ' (off)' : ''}`] : [];
      });
      const look = speak(curve.phrase.say(one, setting) ?? []);
      return `${curve.opening} ${saySource(one.of, scene)}${work.join('')}${look}`;
    }),
  ];
}

function saySource(of: CurveSource, scene: Scene): string {
  if (of.kind === 'column')
    return `${quote(of.column)} in ${quote(of.table)}${of.run ? `${OF_RUN}${quote(of.run)}` : ''}`;
  const number = scene.gauges.findIndex((g) => g.id === of.gauge) + 1;
  return `gauge ${number}${of.part === 'value' ? '' : ` ${of.part}`}${of.everyStep ? EVERY_STEP : ''}`;
}

/** Reads what stands behind `Gauge`. */
export function readGauge(reader: SentenceReader, scene: Scene, run: RunDescription): Scene | false {
  const named = reader.first([
    () => {
      const name = reader.quoted();
      return name !== null && reader.words(':') && { name };
    },
  ]);
  const begin = reader.at;
  const rest = reader.until(/$/);
  const ask = readAsk(rest, scene, run);
  if ('at' in ask) {
    reader.at = begin + ask.at;
    return ask.refused
      ? reader.refuse(begin + ask.refused.to, ask.refused.because, ask.expected)
      : reader.miss(ask.expected);
  }
  const id = `gauge-${scene.gauges.length + 1}`;
  return {
    ...scene,
    gauges: [...scene.gauges, { ...ask, id, name: named?.name ?? null, on: { ...ask.on, id } }],
  };
}

/** Reads what stands behind `Chart`. */
export function readChart(reader: SentenceReader, scene: Scene, run: RunDescription): Scene | false {
  const found = {};
  if (!chart.phrase.read(reader, found, settingOf(run, scene))) return false;
  const made: Chart = { ...chart.plain, ...found, id: `chart-${scene.charts.length + 1}`, curves: [] };
  return { ...scene, charts: [...scene.charts, made] };
}

/** Reads what stands behind `Curve of`: one more curve of the last chart. */
export function readCurve(reader: SentenceReader, scene: Scene, run: RunDescription): Scene | false {
  const into = scene.charts.at(-1);
  if (!into) return reader.miss('a chart before its curves');
  const of = readSource(reader, scene);
  if (!of) return false;
  const setting = settingOf(run, scene);
  const work: Omit<Curve['work'][number], 'id'>[] = [];
  for (;;) {
    const step = reader.first([
      () => {
        if (!reader.words(THEN.trim())) return undefined;
        return reader.first(
          curveWorks.map((one) => () => {
            const options = { ...one.defaults(null) };
            if (!one.phrase.read(reader, options, setting)) return undefined;
            const off = reader.first([() => reader.words('(off)')]) ?? false;
            return { op: one.id, options, off };
          }),
        );
      },
    ]);
    if (!step) break;
    work.push(step);
  }
  const look = {};
  if (!curve.phrase.read(reader, look, setting)) return false;
  const id = `${into.id}-curve-${into.curves.length + 1}`;
  const made: Curve = {
    ...curve.plain,
    ...look,
    id,
    of,
    work: withStepIds<Omit<Curve['work'][number], 'id'> & { id?: string }>(work),
  };
  return { ...scene, charts: [...scene.charts.slice(0, -1), { ...into, curves: [...into.curves, made] }] };
}

function readSource(reader: SentenceReader, scene: Scene): CurveSource | false {
  if (reader.words('gauge')) {
    const number = reader.number(null, 'the number of a gauge');
    const gauge = number === undefined ? undefined : scene.gauges[Math.round(number) - 1];
    if (!gauge) return reader.miss('the number of a gauge');
    const part = reader.first([
      () => reader.name((['x', 'y', 'z', 'size'] as const).map((value) => ({ text: value, value }))),
    ]);
    const every = reader.first([() => reader.words(EVERY_STEP.trim())]) ?? false;
    return { kind: 'gauge', gauge: gauge.id, part: part ?? 'value', ...(every && { everyStep: true }) };
  }
  const column = reader.quoted();
  const table = column !== null && reader.words('in') ? reader.quoted() : null;
  if (column === null || table === null) return reader.miss('“a column” in “a history”');
  const run = reader.first([
    () => (reader.words(OF_RUN.trim()) ? (reader.quoted() ?? undefined) : undefined),
  ]);
  return { kind: 'column', table, column, ...(run && { run }) };
}
