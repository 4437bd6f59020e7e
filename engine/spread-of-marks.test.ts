import { beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { importSteps, temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { SceneSource } from './scene-source.ts';
import { spreadOfMarks } from './spread-of-marks.ts';

let source: SceneSource;
let scene: Scene;
beforeAll(async () => {
  // A cube of side 1 whose temperature is 100 z.
  const mesh = hexBlock(4);
  const { run, store } = await importSteps([
    { time: 0, parts: { oven: writeVtu(mesh, [temperature(mesh, (_x, _y, z) => 100 * z)]) } },
  ]);
  const maker = new GeometryMaker(new ArraySource(store.load));
  source = new SceneSource(run, (request) => maker.make(request));
  scene = defaultScene(run);
});

const withScale = (change: Partial<Scene['scales'][number]>): Scene => ({
  ...scene,
  scales: [{ ...scene.scales[0], range: { kind: 'all-steps' }, ...change }],
});

describe('what a frame knows of its values', () => {
  it('is how they are spread over the area on show, where a scale must know it', async () => {
    const frame = await source.frame(withScale({ range: { kind: 'fixed', low: 25, high: 80 } }), 0, 'view');
    const { spread } = frame.parts[0];
    expect(spread).toMatchObject({ by: 'area', low: 0, high: 100, missing: 0 });
    expect(spread!.weight).toBeCloseTo(6, 5);
    // The lid and the floor lie at one value each, the four walls rise.
    expect(spread!.bins[0]).toBeGreaterThan(1);
    expect(spread!.bins[256]).toBeLessThan(0.02);
    expect(spread!.highAt![2]).toBeCloseTo(1, 6);
  });
  it('is not asked for where nobody needs it', async () => {
    expect((await source.frame(withScale({}), 0, 'view')).parts[0].spread).toBeNull();
  });
  it('is what edges show of their own, beside what the faces show', async () => {
    const [layer] = scene.layers;
    const by = { field: 'formula:x', component: 0, scale: scene.scales[0].id };
    const edged = { ...withScale({}), layers: [{ ...layer, edges: { ...layer.edges, shown: true, by } }] };
    const [part] = (await source.frame(edged, 0, 'view')).parts;
    const [mark] = part.shape.marks;
    if (mark.kind !== 'surface') throw new Error('no surface');
    for (let v = 0; v < part.values[0]!.length; v += 7) {
      expect(part.values[0]![v]).toBeCloseTo(100 * mark.positions[3 * v + 2], 3);
      expect(part.edgeValues[0]![v]).toBeCloseTo(mark.positions[3 * v], 5);
    }
    const plain = await source.frame({ ...edged, layers: [layer] }, 0, 'view');
    expect(plain.parts[0].edgeValues).toEqual([null]);
  });
  it('of clouds goes by the values of their grid, of texts there is none', () => {
    const grid = { values: Float32Array.from([1, 2, Number.NaN, 4]) } as never;
    const spread = spreadOfMarks([{ kind: 'volume', grid }], [null])!;
    expect(spread).toMatchObject({ by: 'number', weight: 3, missing: 1, low: 1, high: 4, highAt: null });
    const text = { kind: 'text', places: new Float32Array(), starts: new Uint32Array(), texts: [] } as never;
    expect(spreadOfMarks([text], [null])).toBeNull();
  });
});
