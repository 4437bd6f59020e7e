import { beforeEach, describe, expect, it } from 'vitest';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { CurveData } from '#core/measure/curves/curve-data.ts';
import type { ArrayRef, RunDescription, RunTable } from '#core/model/run.ts';
import { chart } from '#core/scene/charts/chart.ts';
import { curve } from '#core/scene/charts/curve.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Chart, Curve, Gauge, Layer, Scene } from '#core/scene/document.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { isReading, type Reading } from '#core/scene/reading.ts';
import { importSteps, ovenSteps } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { GaugeAnswers } from './gauge-answers.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { type MeasureRequest, measureParts } from './measuring.ts';
import { Ranges } from './ranges.ts';
import { SceneSource } from './scene-source.ts';

let run: RunDescription;
let scene: Scene;
let arrays: ArraySource;
let source: SceneSource;
let asked: MeasureRequest[][];
let loaded: string[];
let columnOf: (ref: ArrayRef) => Promise<ArrayLike<number>>;

const PULSE = [0, 2, 8, 18];

beforeEach(async () => {
  const { run: made, store } = await importSteps(ovenSteps());
  const time = await store.put(Float64Array.from([0, 5, 10, 15]));
  const pulse = await store.put(Float64Array.from(PULSE));
  const column = (name: string, unit: string, values: ArrayRef): RunTable['columns'][number] => ({
    ...({ first: 0, last: 0 } as RunTable['columns'][number]),
    name,
    unit,
    values,
  });
  const table: RunTable = {
    name: 'probe',
    rows: 4,
    time: 0,
    columns: [column('time', 's', time), column('pulse', 'N', pulse)],
  };
  run = withOfferedQuantities({ ...made, tables: [table] });
  asked = [];
  loaded = [];
  arrays = new ArraySource(store.load);
  const load = (ref: ArrayRef): Promise<ArrayBuffer> => {
    loaded.push(ref.hash);
    return store.load(ref);
  };
  columnOf = async (ref) => new Float64Array(await store.load(ref));
  const maker = new GeometryMaker(new ArraySource(load));
  source = new SceneSource(run, (request) => maker.make(request), {
    measure: (requests) => {
      asked.push([...requests]);
      return measureParts(maker, requests);
    },
    column: columnOf,
  });
  scene = defaultScene(run);
});

function gauge(id: string, sentence: string, within = scene): Gauge {
  const ask = readAsk(sentence, within, run);
  if ('at' in ask) throw new Error(`${sentence}: not understood at ${ask.at}`);
  return { ...ask, id, name: id };
}

const drawn = (id: string, of: Curve['of'], work: Curve['work'] = []): Curve => ({
  ...curve.plain,
  id,
  of,
  work,
});
const chartOf = (...curves: Curve[]): Chart => ({ ...chart.plain, id: 'chart', curves });
const ofGauge = (id: string): Curve['of'] => ({ kind: 'gauge', gauge: id, part: 'value' });

// The block is a unit cube, its temperature 20 + 10 n + x + 2 y + 3 z: linear, so that its mean is that of its middle.
describe('gauges', () => {
  it('read at a step what they ask, with what it was measured on', async () => {
    const found = await source.gauges.at(gauge('mean', 'average of temperature over everything'), scene, 1);
    expect(found.value).toBeCloseTo(33, 4);
    expect(found).toMatchObject({
      unit: '°C',
      on: { parts: ['oven'], dimension: 3, cells: 64, bounds: [0, 1, 0, 1, 0, 1] },
      positive: null,
    });
  });

  it('tell of lines through the steps what these met on their way, and never zeros', async () => {
    // Grains that go 1 m a step along x, as warm as 10 n there.
    const grains = (n: number) => ({
      time: n,
      parts: {
        flour: writeVtu(
          {
            points: Float32Array.from([n, 0, 0, n, 1, 0]),
            types: new Uint8Array(2).fill(1),
            offsets: Uint32Array.of(0, 1, 2),
            connectivity: Uint32Array.of(0, 1),
          },
          [
            {
              name: 'warmth',
              location: 'point',
              components: 1,
              unit: 'K',
              data: new Float32Array(2).fill(10 * n),
            },
            { name: 'push', location: 'point', components: 3, unit: 'N', data: new Float32Array(6).fill(2) },
          ],
          n,
          { length: 'm', time: 's' },
        ),
      },
    });
    const { run: dust, store } = await importSteps([grains(0), grains(1), grains(2)]);
    const maker = new GeometryMaker(new ArraySource(store.load));
    const gauges = new GaugeAnswers(new Ranges(dust, null), (requests) => measureParts(maker, requests));
    const asked = async (sentence: string) => {
      const ask = readAsk(sentence, defaultScene(dust), dust);
      if ('at' in ask) throw new Error(ask.expected.join());
      const [[found]] = await gauges.overSteps([ask], defaultScene(dust), [2]);
      return isReading(found) ? found.value : found.trouble;
    };
    expect(await asked('length of trails of everything')).toBeCloseTo(4, 5);
    // Straight from 0 over 10 to 20.
    expect(await asked('average of warmth over trails of everything')).toBeCloseTo(10, 5);
    expect(await asked('maximum of warmth over trails of everything')).toBeCloseTo(20, 5);
    expect(await asked('average of push over trails of everything')).toBe('This part has no push.');
  });

  it('tell what they take for granted', async () => {
    const plain = {
      ...run,
      fields: run.fields.map((f) => (f.role === 'temperature' ? { ...f, unit: null } : f)),
    };
    const maker = new GeometryMaker(arrays);
    const gauges = new GaugeAnswers(new Ranges(plain, null), (requests) => measureParts(maker, requests));
    const ask = readAsk('average of (temperature + 5 kW) over everything', scene, plain);
    if ('at' in ask) throw new Error(ask.expected.join());
    expect(await gauges.at(ask, scene, 0)).toMatchObject({
      value: expect.closeTo(28, 4),
      note: 'the unit of temperature is not known, so 5 kW counts as 5',
    });
  });

  it('measure what is hidden as well, for numbers are of the run', async () => {
    const hidden = { ...scene, parts: { oven: { hidden: true, edges: null } as never } };
    const found = await source.gauges.at(gauge('size', 'volume of everything'), hidden, 0);
    expect(found.value).toBeCloseTo(1, 5);
  });

  it('say why there is nothing, each for itself', async () => {
    const lines = gauge('length', 'length of everything');
    const later = { ...gauge('later', 'volume of everything'), measure: 'of a later version' };
    const found = await source.gauges.readings(
      [lines, later, gauge('a', 'area of everything')],
      scene,
      0,
      'test',
    );
    expect(found.length).toEqual({
      trouble: 'This part has no length: they are bodies, which have a volume and an area.',
    });
    expect(found.later).toEqual({ trouble: 'There is no measure "of a later version" in this version.' });
    expect((found.a as Reading).value).toBeCloseTo(6, 5);
  });

  it('go over all steps with one message a step and each array read once, and keep what they found', async () => {
    const gauges = [
      gauge('mean', 'average of temperature over everything'),
      gauge('most', 'maximum of temperature over everything'),
    ];
    const told: number[] = [];
    const found = await source.gauges.overSteps(gauges, scene, [0, 1, 2], (done) => told.push(done));
    const values = found.map((all) => all.map((one) => (isReading(one) ? one.value : one)));
    for (const n of [0, 1, 2]) {
      expect(values[0][n]).toBeCloseTo(23 + 10 * n, 4);
      expect(values[1][n]).toBeCloseTo(26 + 10 * n, 4);
    }
    expect(told).toHaveLength(3);
    expect(told.at(-1)).toBe(1);
    expect(asked.map((one) => one.length)).toEqual([2, 2, 2]);
    expect(loaded.length).toBe(new Set(loaded).size);
    await source.gauges.overSteps(gauges, scene, [0, 1, 2]);
    expect(asked).toHaveLength(3);
  });

  it('end when they are cancelled', async () => {
    const cancel = new AbortController();
    const going = source.gauges.overSteps(
      [gauge('mean', 'average of temperature over everything')],
      scene,
      [0, 1, 2],
      () => cancel.abort(new DOMException('cancelled', 'AbortError')),
      cancel.signal,
    );
    await expect(going).rejects.toThrow('cancelled');
  });

  it('are read for the words of a picture, and only those', async () => {
    const written: Scene = {
      ...scene,
      gauges: [
        gauge('heat', 'integral of temperature over everything'),
        gauge('size', 'volume of everything'),
      ],
      annotations: [
        { id: 'w', kind: 'text', visible: true, text: '{heat:.1f}', x: 0, y: 0, align: 'left' } as never,
      ],
    };
    const { readings } = await source.frame(written, 2, 'test');
    expect(Object.keys(readings)).toEqual(['heat']);
    expect((readings.heat as Reading).value).toBeCloseTo(43, 3);
  });
});

describe('points of lines over time', () => {
  it('are counted and averaged, of a subset of a subset too', async () => {
    const step = (id: string, op: string, options: object): Layer['chain'][number] => ({
      id,
      op,
      options,
      off: false,
    });
    const [first] = scene.layers;
    const grains: Layer = {
      ...first,
      id: 'grains',
      chain: [step('p', 'points', {}), step('x', 'clip', { shape: 'plane', normal: [1, 0, 0], offset: 0.4 })],
    };
    const some: Layer = {
      ...first,
      id: 'some',
      from: 'grains',
      chain: [step('y', 'clip', { shape: 'plane', normal: [0, 1, 0], offset: 0.6, invert: true })],
    };
    const lines = { ...scene, layers: [first, grains, some] };
    const gauges = ['count of points of', 'average of temperature over'].map((what, i) => ({
      ...gauge(`g${i}`, `${what} everything`),
      on: { ...some, id: `g${i}`, parts: null, from: 'some', chain: [] },
    }));
    const found = await source.gauges.overSteps(gauges, lines, [0, 1, 2]);
    const { points } = hexBlock(4);
    for (const n of [0, 1, 2]) {
      let [count, sum] = [0, 0];
      for (let i = 0; i < points.length; i += 3) {
        const [x, y, z] = points.slice(i, i + 3);
        if (x <= 0.4 || y >= 0.6) continue;
        count++;
        sum += 20 + 10 * n + x + 2 * y + 3 * z;
      }
      expect(count).toBeGreaterThan(10);
      expect((found[0][n] as Reading).value).toBe(count);
      expect((found[1][n] as Reading).value).toBeCloseTo(sum / count, 3);
    }
  });
});

describe('curves', () => {
  const curvesOf = (charts: Chart[], within: Scene) => source.curves.of(charts, within, run, 0);

  it('are answers over the steps, columns of histories, and what is done with them', async () => {
    const within = { ...scene, gauges: [gauge('mean', 'average of temperature over everything')] };
    const curves = await curvesOf(
      [
        chartOf(
          drawn('a', ofGauge('mean')),
          drawn('b', { kind: 'column', table: 'probe', column: 'pulse' }, [
            { id: 's', op: 'derivative', options: {}, off: false },
          ]),
          drawn('c', ofGauge('mean'), [{ id: 's', op: 'difference', options: { other: 'a' }, off: false }]),
        ),
      ],
      within,
    );
    const a = curves.a as CurveData;
    expect([...a.x]).toEqual([0, 5, 10]);
    expect([...a.y].map((v) => +v.toFixed(3))).toEqual([23, 33, 43]);
    expect(a).toMatchObject({
      along: { name: 'time', unit: 's' },
      up: { name: 'mean', unit: '°C' },
      overSteps: true,
    });
    // The impulse is a parabola, so that the force behind it is known exactly.
    expect([...(curves.b as CurveData).y].map((v) => +v.toFixed(6))).toEqual([0, 0.8, 1.6, 2.4]);
    expect((curves.b as CurveData).up.unit).toBe('N/s');
    expect([...(curves.c as CurveData).y]).toEqual([0, 0, 0]);
  });

  it('are columns of the histories of other runs too, whoever holds them', async () => {
    const asked: string[] = [];
    const bench: RunDescription = {
      ...run,
      name: 'bench',
      tables: [{ ...run.tables[0], name: 'weighed', columns: run.tables[0].columns.toReversed(), time: 1 }],
    };
    const own = new SceneSource(run, () => Promise.reject(new Error('nothing is drawn')), {
      askRange: async ({ kind, key }) => {
        asked.push(`${kind} ${key}`);
        return key === 'bench' ? bench : { trouble: `there is no run “${key}” here; there is “bench”` };
      },
      column: columnOf,
    });
    const held = (other: string, column = 'pulse') =>
      ({ kind: 'column', table: 'weighed', column, run: other }) as const;
    const curves = await own.curves.of(
      [chartOf(drawn('a', held('bench')), drawn('b', held('bank')), drawn('c', held('bench', 'none')))],
      scene,
      run,
      0,
    );
    expect([...(curves.a as CurveData).y]).toEqual(PULSE);
    expect([...(curves.a as CurveData).x]).toEqual([0, 5, 10, 15]);
    expect(curves.b).toEqual({ trouble: 'There is no run “bank” here; there is “bench”.' });
    expect(curves.c).toEqual({ trouble: 'The run “bench” has no history “none” of “weighed”.' });
    // Each run is asked for once.
    expect(asked).toEqual(['run bench', 'run bank']);
  });

  it('of every step are put together as a picture over them, each after what is done with it', async () => {
    const along =
      'profile of temperature along probe line in everything through (0.1, 0.25, 0.25), (0.4, 0.25, 0.25)';
    const within = { ...scene, gauges: [gauge('line', along)] };
    const every = { kind: 'gauge', gauge: 'line', part: 'value', everyStep: true } as const;
    const curves = await curvesOf(
      [
        chartOf(
          drawn('now', ofGauge('line')),
          drawn('all', every),
          drawn('slope', every, [{ id: 's', op: 'derivative', options: {}, off: false }]),
          drawn('less', ofGauge('line'), [
            { id: 's', op: 'difference', options: { other: 'all' }, off: false },
          ]),
        ),
      ],
      within,
    );
    const [now, all, slope] = [curves.now, curves.all, curves.slope] as CurveData[];
    expect(all).toMatchObject({
      along: { name: 'time', unit: 's' },
      up: { name: 'way along it' },
      overSteps: true,
      sheet: { of: { name: 'temperature', unit: '°C' } },
    });
    expect([...all.x]).toEqual([0, 5, 10]);
    const { places, values } = all.sheet!;
    expect([...places]).toEqual([...now.x]);
    // The first step is on show; each later one is 10 degrees warmer.
    for (let step = 0; step < 3; step++)
      for (let i = 0; i < places.length; i++)
        expect(values[step * places.length + i]).toBeCloseTo(now.y[i] + 10 * step, 3);
    const steep = slope.sheet!.values;
    expect(slope.sheet!.of.unit).toMatch(/\/m/);
    for (let i = 0; i < places.length; i++) expect(steep[i]).toBeCloseTo(steep[i + places.length], 2);
    expect(curves.less).toMatchObject({ trouble: expect.stringContaining('taken away') });
    // At another step they are the very same, so that nothing is painted twice.
    const again = await source.curves.of(
      [chartOf(drawn('all', every), drawn('now', ofGauge('line')))],
      within,
      run,
      1,
    );
    expect(again.all).toBe(all);
    expect(again.now).not.toBe(now);
  });

  it('say why they cannot be drawn', async () => {
    const itself = [{ id: 's', op: 'difference', options: { other: 'b' }, off: false }];
    const curves = await curvesOf(
      [
        chartOf(
          drawn('a', ofGauge('gone')),
          drawn('b', { kind: 'column', table: 'probe', column: 'pulse' }, itself),
          drawn('c', { kind: 'column', table: 'probe', column: 'none' }),
          drawn('d', { kind: 'column', table: 'probe', column: 'pulse' }, [
            { id: 's', op: 'later', options: {}, off: false },
          ]),
        ),
      ],
      scene,
    );
    const troubles = Object.fromEntries(
      Object.entries(curves).map(([id, c]) => [id, 'trouble' in c && c.trouble]),
    );
    expect(troubles).toEqual({
      a: 'The gauge it is of is gone. Choose another curve.',
      b: 'The curve that is taken away is gone or cannot be drawn. Choose another.',
      c: 'This run has no history “none” of “probe”.',
      d: 'This version does not understand “later”. Switch it off or take it away.',
    });
  });
});
