import { expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { withOfferedQuantities } from '../fields/quantity-sources.ts';
import { evenBands } from '../model/levels.ts';
import { defaultScene } from './default-scene.ts';
import type { Scene } from './document.ts';
import { applyEdit } from './edits.ts';
import { freshLayer } from './read-layer.ts';
import { readScript, writeScript } from './scene-script.ts';

const busyScene = async () => {
  const run = withOfferedQuantities(await ovenRun());
  const plain = defaultScene(run);
  const edits = [
    {
      type: 'scale.change',
      id: 'scale-1',
      change: { bands: evenBands(8), reversed: true, range: { kind: 'fixed', low: 20, high: 250 } },
    },
    { type: 'legend.change', id: 'scale-1', change: { title: 'Air', upright: false, x: 0.5, y: 0.92 } },
    { type: 'parts.change', parts: ['oven'], change: { colour: '#b4733f', edges: true } },
    {
      type: 'set.save',
      set: {
        name: 'hot',
        rule: { kind: 'range', field: 'point:temperature', component: 0, low: 22, high: 30, when: 1 },
      },
    },
    { type: 'setting.change', thing: 'light', change: { contact: 0.35 } },
    {
      type: 'setting.change',
      thing: 'floor',
      change: { kind: 'tiles', height: 0.02, edge: 0.4, second: '#334455', mirrors: 0.2, roughness: 0.5 },
    },
    { type: 'setting.change', thing: 'lookInside', change: { front: 'removed' } },
    { type: 'setting.change', thing: 'picture', change: { aspect: 1.6 } },
    { type: 'setting.change', thing: 'stamp', change: { unit: 'min', decimals: 2, style: 'clock' } },
    { type: 'layer.add', layer: { ...freshLayer(run, 'b'), name: 'Zone', set: 'hot', opacity: 0.3 } },
    { type: 'layer.add', layer: { ...freshLayer(run, 'c'), from: 'b', colour: plain.layers[0].colour } },
  ] as const;
  const scene = edits.reduce<Scene>((s, e) => applyEdit(s, e as never), plain);
  return { run, scene };
};

it('a scene as sentences is read back to the same scene', async () => {
  const { run, scene } = await busyScene();
  const back = readScript(writeScript(scene, run), run);
  const ids = (s: Scene) => {
    const layer = new Map(s.layers.map((l, i) => [l.id, `layer ${i}`]));
    const scale = new Map(s.scales.map((x, i) => [x.id, `scale ${i}`]));
    return JSON.parse(
      JSON.stringify(s, (key, value) => {
        if ((key === 'id' || key === 'from' || key === 'scale') && typeof value === 'string')
          return layer.get(value) ?? scale.get(value) ?? value;
        return value;
      }),
    );
  };
  expect(ids(back)).toEqual(ids(scene));
});

it('words alone are added to the lines a run opens with', async () => {
  const { run } = await busyScene();
  const plain = defaultScene(run);
  const made = readScript('Text "t = {time:.1f} s" at 50 % 6 %\nAxes at 7 % 86 %', run);
  expect(made.layers).toEqual(plain.layers);
  expect(made.scales).toEqual(plain.scales);
  expect(made.annotations.map((a) => a.kind)).toEqual(['text', 'axes']);
  const alone = readScript('Surface of everything\nAxes at 7 % 86 %', run);
  expect(alone.layers).toHaveLength(1);
  expect(alone.layers[0].id).not.toBe(plain.layers[0].id);
});

it('some sentences alone make a scene, and a wrong one is named with what would be', async () => {
  const { run, scene } = await busyScene();
  const made = readScript('# two lines\nSection at z = 0.5 m\n\nisosurface of temperature at 22 °C', run);
  expect(made.layers.map((l) => l.chain[0].op)).toEqual(['section', 'isosurface']);
  expect(readScript('Crease lines of oven beyond 30°', run, scene).layers).toHaveLength(4);
  expect(() => readScript('Surface of oven\nSection of oven at q = 1', run)).toThrow(
    /^Line 2: "q" is not understood here; there could be x, y and z/,
  );
  expect(() => readScript('Light dim on paper', run)).toThrow(/"dim" .* rim, studio, product/);
});
