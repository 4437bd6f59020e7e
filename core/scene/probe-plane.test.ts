import { describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { speak } from '../language/sentence.ts';
import { runBounds } from '../model/run.ts';
import { planeOnFace } from '../ops/kernels/planes.ts';
import { defaultScene } from './default-scene.ts';
import type { Scene } from './document.ts';
import { applyEdit } from './edits.ts';
import { layerSentence } from './layer-sentence.ts';
import { probePlane } from './probe-plane.ts';
import { readLayer } from './read-layer.ts';
import { settingOf } from './setting.ts';

async function probed(normal: [number, number, number], scene?: Scene) {
  const run = await ovenRun();
  const begin = scene ?? defaultScene(run);
  const [x0, x1, y0, y1, z0, z1] = runBounds(run);
  const middle = [(x0 + x1) / 2, (y0 + y1) / 2, (z0 + z1) / 2];
  const ends = [
    [x0, x1],
    [y0, y1],
    [z0, z1],
  ];
  const place = middle.map((m, k) => (normal[k] === 0 ? m : ends[k][normal[k] > 0 ? 1 : 0])) as typeof normal;
  let n = 0;
  const part = run.parts.find((p) => p.meshes.some((m) => m.dimension === 3))!.name;
  const made = probePlane({ part, place, normal }, begin, run, () => `new-${n++}`);
  const after = made.layers.reduce(
    (now, layer, i) =>
      applyEdit(now, { type: 'layer.add', layer, scale: i === 0 ? (made.scale ?? undefined) : undefined }),
    begin,
  );
  return { run, made, after, ends, part };
}

describe('a probe plane', () => {
  it('lies a little within the face that was pointed at, from whichever side', async () => {
    for (const [k, sign] of [
      [0, 1],
      [1, -1],
      [2, 1],
    ]) {
      const normal: [number, number, number] = [0, 0, 0];
      normal[k] = sign;
      const { made, ends } = await probed(normal);
      const { options } = made.layers[0].chain[0] as { options: { normal: number[]; offset: number } };
      expect(options.normal).toEqual(normal.map(Math.abs));
      const [low, high] = ends[k];
      const depth = sign > 0 ? high - options.offset : options.offset - low;
      expect(depth / (high - low)).toBeGreaterThan(0.015);
      expect(depth / (high - low)).toBeLessThan(0.025);
    }
  });
  it('is a line with what follows it: contour lines at once, arrows and mesh when wanted', async () => {
    const { run, made, after, part } = await probed([0, 0, 1]);
    const [plane, ...followers] = made.layers;
    expect(plane).toMatchObject({ name: 'Probe 1', parts: [part], visible: true, colour: { kind: 'field' } });
    expect(followers.map((l) => [l.name, l.from, l.visible])).toEqual([
      ['Probe 1, contour lines', plane.id, true],
      ['Probe 1, mesh', plane.id, false],
    ]);
    // Lines without colours of their own take the levels of what they lie on.
    const ticks = settingOf(run, after, plane).levels;
    expect(ticks.length).toBeGreaterThan(2);
    expect(settingOf(run, after, followers[0]).levels).toEqual(ticks);
    expect(settingOf(run, after, { colour: followers[0].colour }).levels).toEqual([]);
    // The next has a name of its own.
    expect((await probed([1, 0, 0], after)).made.layers[0].name).toBe('Probe 2');
  });
  it('is said, limits and all, and read again', async () => {
    const { run, made, after } = await probed([0, 0, 1]);
    const id = made.layers[0].id;
    const limited = applyEdit(after, {
      type: 'chain.change',
      id,
      step: made.layers[0].chain[0].id,
      options: { low: 0.1, high: 0.3 },
    });
    for (const layer of limited.layers.filter((l) => made.layers.some((m) => m.id === l.id))) {
      const said = speak(layerSentence(layer, limited, run, 'exact'));
      const read = readLayer(said, limited, run, layer, layer.id);
      expect('layer' in read && read.layer.chain, said).toEqual(layer.chain);
      if (layer.id === id) expect(said).toMatch(/ kept above 0\.1\d* m kept below 0\.3\d* m/);
    }
  });
  it('laid on a face along an axis is said by the letter of the axis', () => {
    expect(planeOnFace([1, 2, 3], [0, 0, -1])).toEqual({ normal: [0, 0, 1], offset: 3 });
    const { normal, offset } = planeOnFace([1, 1, 0], [3, 4, 0]);
    expect(normal).toEqual([expect.closeTo(0.6, 9), expect.closeTo(0.8, 9), 0]);
    expect(offset).toBeCloseTo(1.4, 9);
  });
});
