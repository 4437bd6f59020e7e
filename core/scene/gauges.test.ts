import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { withOfferedQuantities } from '../fields/quantity-sources.ts';
import type { RunDescription } from '../model/run.ts';
import { filledIn, needsOfText, templateTroubles } from './annotations/template.ts';
import { templateWords } from './annotations/template-words.ts';
import { sceneMismatches } from './apply-scene.ts';
import { chart } from './charts/chart.ts';
import { curve } from './charts/curve.ts';
import { defaultScene } from './default-scene.ts';
import { type Chart, type Curve, type Gauge, readScene, type Scene } from './document.ts';
import { applyEdit } from './edits.ts';
import { gaugeLabel } from './gauge-label.ts';
import { readAsk } from './read-ask.ts';
import type { Reading } from './reading.ts';
import { renameInScene } from './rename-in-scene.ts';
import { repairScene } from './repair-scene.ts';
import { sayBesideReading, sayDirection, sayMeasuredOn, sayValueRead } from './say-reading.ts';
import { readScript, writeScript } from './scene-script.ts';

let run: RunDescription;
let plain: Scene;
beforeAll(async () => {
  run = withOfferedQuantities(await ovenRun());
  plain = defaultScene(run);
});

function gauge(id: string, sentence: string, name: string | null = null): Gauge {
  const ask = readAsk(sentence, plain, run);
  if ('at' in ask) throw new Error(`${sentence}: not understood at ${ask.at}`);
  return { ...ask, id, name, on: { ...ask.on, id } };
}

const drawn = (id: string, of: Curve['of'], more: Partial<Curve> = {}): Curve => ({
  ...curve.plain,
  id,
  of,
  work: [],
  ...more,
});
const chartOf = (id: string, curves: Curve[], more: Partial<Chart> = {}): Chart => ({
  ...chart.plain,
  id,
  curves,
  ...more,
});
const of = (id: string): Curve['of'] => ({ kind: 'gauge', gauge: id, part: 'value' });

/** Gauges of some kinds, and charts with all that can be said of them. */
function whole(): Scene {
  const work = [
    { id: 'step-1', op: 'smoothing', options: { places: 3 }, off: false },
    { id: 'step-2', op: 'difference', options: { other: 'chart-1-curve-1' }, off: true },
  ];
  return {
    ...plain,
    gauges: [
      gauge('gauge-1', 'average of temperature over everything', 'heat: all of it'),
      gauge('gauge-2', 'area average of temperature over section of everything at y = 0.12'),
    ],
    charts: [
      chartOf('chart-1', [drawn('chart-1-curve-1', of('gauge-1'))]),
      chartOf(
        'chart-2',
        [
          drawn('chart-2-curve-1', of('gauge-2'), {
            work,
            ink: '#123456',
            width: 2,
            line: 'dashed',
            axis: 'own',
            name: 'b',
          }),
          drawn('chart-2-curve-2', { kind: 'column', table: 'probe "1"', column: 'p' }, { visible: false }),
          drawn('chart-2-curve-3', { kind: 'column', table: 'scale', column: 'mass', run: 'bench "2"' }),
          drawn('chart-2-curve-4', { ...of('gauge-2'), everyStep: true } as Curve['of']),
        ],
        { title: 'Warm', arrange: 'stacked', logUp: true, from: 1, to: 2.5, legend: false, now: false },
      ),
    ],
  };
}

describe('gauges and charts in a scene', () => {
  it('are kept, said in a script and read back the same', () => {
    const scene = readScene(JSON.parse(JSON.stringify(whole())));
    const script = writeScript(scene, run);
    expect(script).toContain('Gauge "heat: all of it": average of temperature over everything');
    expect(script).toContain('Chart "Warm", stacked, logarithmic up, from 1, to 2.5, without legend');
    expect(script).toContain(
      'Curve of gauge 2, then moving average over 3 places, then less curve 1 (off), called "b"',
    );
    const again = readScript(script, run);
    expect(again.gauges).toEqual(scene.gauges);
    expect(again.charts).toEqual(scene.charts);
  });

  it('are missing in scenes of before and mended where they do not fit', () => {
    const { gauges: _, charts: __, ...before } = plain;
    expect(readScene(before)).toMatchObject({ gauges: [], charts: [] });
    const scene = whole();
    const damaged = JSON.parse(JSON.stringify(scene));
    damaged.gauges[0].measure = 7;
    damaged.gauges[1].on.opacity = 4;
    damaged.charts[1].curves[0].width = 'wide';
    damaged.charts[1].curves[1].of = { kind: 'unheard of' };
    const { scene: mended, repairs } = repairScene(damaged);
    expect(mended.gauges.map((g) => [g.id, g.on.opacity])).toEqual([['gauge-2', 1]]);
    expect(mended.charts[1].curves.map((c) => [c.id, c.width])).toEqual([
      ['chart-2-curve-1', 1],
      ['chart-2-curve-3', 1],
      ['chart-2-curve-4', 1],
    ]);
    expect(repairs).toHaveLength(4);
  });

  it('ask for other names where a run calls things otherwise, and tell what a run lacks', () => {
    const scene = whole();
    const renamed = renameInScene(scene, { fields: { 'point:temperature': 'point:T' }, parts: {} });
    expect(renamed.gauges[0].options).toMatchObject({ field: 'point:T' });
    const told = sceneMismatches({ ...renamed, layers: [], scales: [] }, run).join('; ');
    expect(told).toContain(
      'the run has no point field "T": the gauge “heat: all of it” measures it, a gauge measures it',
    );
  });

  it('are edited by name, and curves go with their gauge', () => {
    let scene = applyEdit(plain, { type: 'gauge.add', gauge: gauge('g', 'volume of everything') });
    scene = applyEdit(scene, { type: 'chart.add', chart: chartOf('c', [drawn('one', of('g'))]) });
    scene = applyEdit(scene, { type: 'chart.add', chart: chartOf('d', []) });
    scene = applyEdit(scene, {
      type: 'gauge.add',
      gauge: gauge('h', 'area of everything'),
      curve: { chart: 'c', curve: drawn('two', of('h')) },
    });
    scene = applyEdit(scene, { type: 'curve.move', id: 'one', chart: 'd', to: 0 });
    expect(scene.charts.map((c) => c.curves.map((x) => x.id))).toEqual([['two'], ['one']]);
    scene = applyEdit(scene, { type: 'curve.change', id: 'two', change: { name: 'skin' } });
    scene = applyEdit(scene, { type: 'gauge.move', id: 'h', to: 0 });
    scene = applyEdit(scene, { type: 'chart.change', id: 'd', change: { logUp: true } });
    scene = applyEdit(scene, { type: 'gauge.change', id: 'g', change: { name: 'room' } });
    expect(scene.gauges.map((g) => [g.id, g.name])).toEqual([
      ['h', null],
      ['g', 'room'],
    ]);
    const gone = applyEdit(scene, { type: 'gauge.remove', id: 'g' });
    expect(gone.charts.map((c) => c.curves.length)).toEqual([1, 0]);
    expect(gone.charts[1].logUp).toBe(true);
  });
});

describe('words that tell of gauges', () => {
  const reading = (value: number | number[], unit: string): Reading => ({
    value,
    unit,
    positive: null,
    on: { parts: ['oven'], dimension: 3, cells: 64, bounds: [0, 1, 0, 1, 0, 1] },
  });

  it('say their number in any unit and form, and ask for just those', () => {
    const scene = {
      ...plain,
      gauges: [
        gauge('g', 'average of temperature over everything', 'heat'),
        gauge('h', 'volume of everything'),
      ],
    };
    const setting = {
      scene,
      run,
      step: 0,
      here: null,
      readings: { g: reading(122.04, '°C'), h: reading(0.5, 'm³') },
    };
    expect(filledIn('{heat:.1f} °C, {heat in K:.0f} K', setting)).toBe('122.0 °C, 395 K');
    expect(gaugeLabel(scene.gauges[1], scene, run)).toBe('volume of oven');
    expect(filledIn('{volume of oven:.2f}', setting)).toBe('0.50');
    expect(needsOfText('{heat} {time}', run, scene).gauges).toEqual(['g']);
    expect(filledIn('{heat:.1f}', { ...setting, readings: {} })).toBe('–');
    expect(templateTroubles('{heet}', setting)[0]).toContain('no value “heet”');
  });

  it('say vectors whole and by their parts', () => {
    const ask = {
      ...gauge('f', 'volume of everything', 'push'),
      measure: 'force',
      options: { field: 'point:temperature' },
    };
    const setting = {
      scene: { ...plain, gauges: [ask] },
      run,
      step: 0,
      here: null,
      readings: { f: reading([3, 0, -4], 'N') },
    };
    expect(filledIn('{push:.1f} N, {push z:.0f}, {push size:.0f}', setting)).toBe(
      '(3.0, 0.0, −4.0) N, −4, 5',
    );
    expect(
      templateWords(setting)
        .filter((w) => w.gauge)
        .map((w) => w.name),
    ).toEqual(['push', 'push x', 'push y', 'push z', 'push size']);
  });

  it('have their place, direction, moment and what was left out beside them', () => {
    const found: Reading = {
      ...reading([0, -12.5, 0], 'N'),
      place: [0.1, 0.2, 0.3],
      moment: [1, 2, 3],
      missing: 0.02,
      note: '99 % of this force is along −y',
      positive: [0, 2, 0],
    };
    expect(sayValueRead(found)).toBe('(0, −12.5, 0) N');
    expect(sayMeasuredOn(found)).toBe('oven, 64 cells');
    expect(sayBesideReading(found)).toEqual([
      'At (0.1, 0.2, 0.3).',
      'Moment (1, 2, 3) N·length.',
      'Positive along +y, as the arrow on the stage shows.',
      '2 % of it has no value and was left out.',
      'Look again: 99 % of this force is along −y.',
    ]);
    expect(sayDirection([1, 1, 0])).toBe('(1, 1, 0)');
    expect(sayDirection([0, 0, -3])).toBe('−z');
  });
});
