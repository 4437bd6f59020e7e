import { beforeAll, describe, expect, it } from 'vitest';
import { CompiledScale } from '#core/colour/compiled-scale.ts';
import { type RunDescription, type RunStep, runBounds } from '#core/model/run.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { shownScales } from '#core/scene/shown-scales.ts';
import { type Filled, PretendedPainter } from '../../tests/pretended-painter.ts';
import { ovenRun } from '../../tests/sample-run.ts';
import { legendTitle, paintWords, type Worded, type WordsBox } from './paint-words.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  run = await ovenRun();
  scene = defaultScene(run);
});

type Legend = Scene['scales'][number]['legend'];
const withLegend = (change: Partial<Legend>, more: Partial<Scene> = {}): Scene => ({
  ...scene,
  ...more,
  scales: scene.scales.map((s) => ({ ...s, legend: { ...s.legend, ...change } })),
});

function painted(
  of: Scene,
  width = 900,
  height = 600,
  step = 1,
  { spreads = [], behind = null, run: ofRun = run }: Partial<Worded> = {},
) {
  const painter = new PretendedPainter();
  const boxes = paintWords(
    painter as unknown as CanvasRenderingContext2D,
    {
      scene: of,
      run: ofRun,
      step,
      spreads,
      behind,
      bounds: runBounds(run),
      attached: {},
      readings: {},
      curves: {},
    },
    { width, height },
  );
  const box = (kind: WordsBox['kind']): WordsBox => boxes.find((b) => b.kind === kind)!;
  return { painter, boxes, box };
}

describe('the legend', () => {
  it.each([true, false])('names values where their colours are (upright %s)', (upright) => {
    const { painter } = painted(withLegend({ upright, x: 0.5, y: 0.5 }));
    const [bar] = painter.frames;
    const scale = CompiledScale.of({ map: 'heat', reversed: false, bands: null, low: 20, high: 46 });
    const named = painter.texts.filter((t) => /^[\d.]+$/.test(t.text));
    expect(named.map((t) => Number(t.text))).toEqual(scale.ticks());
    for (const { text, x, y, size } of named) {
      const along = upright ? (bar.y + bar.height - y) / bar.height : (x - bar.x) / bar.width;
      expect(along).toBeCloseTo(scale.fraction(Number(text)), upright ? 2 : 6);
      if (upright) expect(x).toBeGreaterThan(bar.x + bar.width);
      else expect(y).toBeGreaterThan(bar.y + bar.height);
      expect(size).toBeCloseTo(0.0225 * 600, 6);
    }
  });

  it.each([true, false])(
    'shows along its bar the colours of the model, low end first (upright %s)',
    (upright) => {
      const { painter } = painted(withLegend({ upright, x: 0.5, y: 0.5 }));
      const strips = painter.fills.filter((f) => (upright ? f.height === 1 : f.width === 1));
      const scale = CompiledScale.of({ map: 'heat', reversed: false, bands: null, low: 20, high: 46 });
      expect(strips.length).toBeGreaterThan(200);
      const place = (f: Filled): number => (upright ? -f.y : f.x);
      expect([...strips].sort((a, b) => place(a) - place(b))).toEqual(strips);
      for (const [i, { colour }] of strips.entries()) {
        const exact = scale.colour(scale.value((i + 0.5) / strips.length)).map((v) => Math.round(255 * v));
        expect(colour).toBe(`rgb(${exact.join(' ')})`);
      }
    },
  );

  it('stays on the picture wherever it is put, and its box holds what it writes', () => {
    for (const upright of [true, false])
      for (const [x, y] of [
        [-5, -5],
        [0, 1],
        [0.5, 0.5],
        [1, 0],
        [5, 5],
      ]) {
        const { painter, box } = painted(
          withLegend({ upright, x, y }, { stamp: { ...scene.stamp, visible: false } }),
        );
        const b = box('legend');
        expect(b.x >= 0 && b.y >= 0 && b.x + b.width <= 900 && b.y + b.height <= 600).toBe(true);
        for (const t of painter.texts) {
          const half = t.text.length * 0.25 * t.size;
          const left = t.align === 'center' ? t.x - half : t.x;
          expect(left).toBeGreaterThanOrEqual(b.x - 1);
          expect(left + 2 * half).toBeLessThanOrEqual(b.x + b.width + 1);
          expect(t.y).toBeGreaterThanOrEqual(b.y);
          expect(t.y).toBeLessThanOrEqual(b.y + b.height);
        }
      }
  });

  it('keeps the composition at every size', () => {
    const small = painted(scene, 600, 400);
    const large = painted(scene, 2400, 1600);
    expect(large.boxes).toHaveLength(small.boxes.length);
    for (const [i, b] of small.boxes.entries())
      for (const key of ['x', 'y', 'width', 'height'] as const)
        expect(large.boxes[i][key]).toBeCloseTo(4 * b[key], 6);
    for (const [i, t] of small.painter.texts.entries())
      expect(large.painter.texts[i]).toMatchObject({ text: t.text, size: expect.closeTo(4 * t.size, 6) });
  });

  it('stands beside others, however long their titles are', () => {
    const [layer] = scene.layers;
    const titles = ['Heat', 'Temperature of the chamber air', 'How warm the crust is'];
    const scales = titles.map((title, i) => ({
      ...scene.scales[0],
      id: `s${i}`,
      legend: { ...scene.scales[0].legend, title, x: [0.925, 0.075, 0.785][i] },
    }));
    const layers = scales.map((s) => ({
      ...layer,
      id: s.id,
      colour: { ...layer.colour, scale: s.id } as typeof layer.colour,
    }));
    const boxes = painted({ ...scene, layers, scales }).boxes.filter((b) => b.kind === 'legend');
    expect(boxes).toHaveLength(3);
    for (const [i, a] of boxes.entries())
      for (const b of boxes.slice(i + 1)) expect(a.x + a.width <= b.x || b.x + b.width <= a.x).toBe(true);
  });

  it('is called by its own title, or by its quantity with the unit', () => {
    expect(legendTitle(scene.scales[0], run)).toEqual({ title: 'Temperature', unit: '°C' });
    const own = withLegend({ title: 'how hot' });
    expect(painted(own).painter.texts.map((t) => t.text)).toContain('How hot, °C');
    const strange = { ...scene.scales[0], quantity: 'point:gone#0', name: 'old' };
    expect(legendTitle(strange, run)).toEqual({ title: 'Old', unit: null });
  });

  it('is there for scales that something on show is coloured by, and only while it is visible', () => {
    expect(shownScales(scene)).toHaveLength(1);
    const [layer] = scene.layers;
    for (const change of [
      { visible: false },
      { opacity: 0 },
      { colour: { kind: 'plain', colour: '#ffffff' } },
    ])
      expect(shownScales({ ...scene, layers: [{ ...layer, ...change } as typeof layer] })).toEqual([]);
    expect(painted(withLegend({ visible: false })).box('legend')).toBeUndefined();
  });

  it('of very small values shares a power of ten with them', () => {
    const tiny: Scene = withLegend({});
    tiny.scales[0].range = { kind: 'fixed', low: 0, high: 4e-6 };
    const texts = painted(tiny).painter.texts.map((t) => t.text);
    expect(texts).toContain('Temperature, × 10⁻⁶ °C');
    expect(texts).toEqual(expect.arrayContaining(['0', '1', '2', '3', '4']));
  });
});

describe('the stamp', () => {
  it('says the time of the step, with the unit of the run', () => {
    const { painter, box } = painted(scene, 900, 600, 2);
    const stamp = painter.texts.at(-1)!;
    expect(stamp.text).toBe('t = 10 s');
    expect(box('stamp').width).toBeCloseTo(stamp.text.length * 0.5 * stamp.size, 6);
  });

  it('says nothing of a state that has no time', () => {
    const alone = (time: number, kind: RunStep['kind'] = 'time') =>
      painted(scene, 900, 600, 0, { run: { ...run, steps: [{ index: 0, time, kind, number: 1 }] } });
    expect(alone(0).box('stamp')).toBeUndefined();
    expect(alone(5).painter.texts.at(-1)!.text).toBe('t = 5 s');
    expect(alone(0, 'mode').painter.texts.at(-1)!.text).toMatch(/^mode 1/);
  });

  it('stays on the picture, and can be left out', () => {
    for (const x of [-1, 0, 1, 3]) {
      const b = painted({ ...scene, stamp: { ...scene.stamp, x, y: x } }).box('stamp');
      expect(b.x >= 0 && b.y >= 0 && b.x + b.width <= 900 && b.y + b.height <= 600).toBe(true);
    }
    expect(painted({ ...scene, stamp: { ...scene.stamp, visible: false } }).box('stamp')).toBeUndefined();
  });

  it('every word has a halo, so that it is legible on whatever lies beneath', () => {
    const { painter } = painted(scene);
    expect(painter.halos).toEqual(painter.texts.map((t) => t.text));
  });
});

describe('a wipe', () => {
  const valued = () => scene.layers.find((l) => l.colour.kind === 'field')!;
  const sides = (change: Partial<Scene['wipe']> = {}, names: (string | null)[] = [null, null]): Scene => ({
    ...scene,
    layers: (['before', 'after'] as const).map((wipe, i) => ({
      ...valued(),
      id: wipe,
      name: names[i],
      wipe,
      visible: true,
      time: { kind: 'fixed', step: 2 * i } as const,
    })),
    wipe: { ...scene.wipe, place: 0.5, ...change },
  });
  const said = (of: Scene) => painted(of).painter.texts.map((t) => t.text);
  const time = (step: number) => `t = ${run.steps[step].time} s`;

  it('says the step of each of its sides beside its edge, and no other time', () => {
    const { painter, box } = painted(sides());
    const [before, after] = [0, 2].map((step) => painter.texts.find((t) => t.text === time(step))!);
    expect(before).toMatchObject({ align: 'right' });
    expect(after).toMatchObject({ align: 'left' });
    expect(before.x).toBeLessThan(450);
    expect(after.x).toBeGreaterThan(450);
    expect(box('stamp')).toBeUndefined();
    const edge = painter.fills.find((f) => f.colour === '#ffffff' && f.height === 600)!;
    expect([edge.x, edge.x + edge.width].map(Math.round)).toEqual([449, 451]);
  });

  it('calls a side by its only line where that has a name', () => {
    expect(said(sides({}, ['new vent', 'old vent']))).toEqual(
      expect.arrayContaining(['new vent', 'old vent']),
    );
  });

  it('says nothing where a side has no room, where that is not wanted, and at its ends', () => {
    expect(said(sides({ place: 0.02 }))).not.toContain(time(0));
    expect(said(sides({ place: 0.02 }))).toContain(time(2));
    expect(said(sides({ said: false }))).not.toContain(time(2));
    for (const place of [0, 1]) expect(said(sides({ place }))).not.toContain(time(2));
    expect(painted(sides({ edge: false })).painter.fills.some((f) => f.height === 600)).toBe(false);
  });

  it('that goes upwards has its words above and below its edge', () => {
    const { painter } = painted(sides({ way: 'upwards', place: 0.25 }));
    const y = (step: number) => painter.texts.find((t) => t.text === time(step))!.y;
    // A quarter of the way from the foot of 600 pixels.
    expect(y(0)).toBeGreaterThan(450);
    expect(y(2)).toBeLessThan(450);
  });

  it('leaves a picture of one fixed step its time', () => {
    const fixed = { ...scene, layers: [{ ...valued(), time: { kind: 'fixed', step: 2 } as const }] };
    expect(said(fixed)).toContain(time(2));
  });
});
