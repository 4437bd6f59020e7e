import { describe, expect, it, vi } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { scale } from '#core/scene/things/scale.ts';
import { importSteps } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { answerQuestion } from './answer-question.ts';
import { ArraySource } from './array-source.ts';
import { addSteps } from './extend-run.ts';
import { GeometryMaker } from './geometry-maker.ts';
import type { RunQuestion } from './run-ranges.ts';
import { SceneSource } from './scene-source.ts';

/** A block of 2 x 2 x 2 cubes that is stretched along x: by 1, 2 and 3 in its three steps. */
async function setUp() {
  const steps = [1, 2, 3].map((stretch) => {
    const mesh = hexBlock(2);
    const points = mesh.points.map((v, i) => (i % 3 === 0 ? v * stretch : v));
    return { time: stretch, parts: { oven: writeVtu({ ...mesh, points }, [], stretch, {}) } };
  });
  const { run, store } = await importSteps(steps);
  const arrays = new ArraySource(store.load);
  const maker = new GeometryMaker(arrays);
  const ask = vi.fn((question: RunQuestion, _: AbortSignal) => answerQuestion(run, question, arrays));
  const source = (): SceneSource => new SceneSource(run, (request) => maker.make(request), { askRange: ask });
  const plain = defaultScene(run);
  const scale = { ...scaleOf('mesh:size'), range: { kind: 'all-steps' as const } };
  const scene = (field: string, range: 'all-steps' | 'this-step' = 'all-steps'): Scene => ({
    ...plain,
    scales: [{ ...scale, quantity: `${field}#0`, range: { kind: range } }],
    layers: [{ ...plain.layers[0], colour: { kind: 'field', field, component: 0, scale: 's' } }],
  });
  return { run, store, ask, source, scene };
}

const scaleOf = (field: string): Scene['scales'][number] => ({
  ...scale.plain,
  id: 's',
  name: 'size',
  quantity: `${field}#0`,
});

describe('ranges of quantities that no file states', () => {
  it('are those of the whole run, whatever was looked at before', async () => {
    const { source, scene } = await setUp();
    const size = scene('mesh:size');
    const settled = async (from: SceneSource, step: number) => {
      const frame = await from.frame(size, step, 'view');
      return settleScale(size.scales[0], frame.run, step);
    };
    // A cube of half a metre has 0.125 m³; stretched, twice and three times as much.
    const wanted = expect.objectContaining({ low: expect.closeTo(0.125, 6), high: expect.closeTo(0.375, 6) });
    for (const order of [[0], [2, 1, 0], [1, 1]]) {
      const one = source();
      for (const step of order) expect(await settled(one, step), `in the order ${order}`).toEqual(wanted);
    }
  });
  it('of one step are those of that step', async () => {
    const { source, scene } = await setUp();
    const size = scene('mesh:size', 'this-step');
    const one = source();
    for (const step of [2, 0, 1]) {
      const frame = await one.frame(size, step, 'view');
      const { low, high } = settleScale(size.scales[0], frame.run, step);
      expect([low, high]).toEqual([
        expect.closeTo(0.125 * (step + 1), 6),
        expect.closeTo(0.125 * (step + 1), 6),
      ]);
    }
  });
  it('are asked for once, kept with the run, and again after a failure', async () => {
    const { run, ask, source, scene } = await setUp();
    const one = source();
    await Promise.all([0, 1, 2].map((step) => one.frame(scene('mesh:size'), step, `slot ${step}`)));
    expect(ask).toHaveBeenCalledTimes(1);
    expect(Object.keys(one.run.measured)).toEqual(['mesh:size']);
    expect(run.measured).toEqual({});
    const other = new SceneSource(one.run, () => Promise.reject(new Error('not now')), { askRange: ask });
    await expect(other.frame(scene('mesh:size'), 0, 'view')).rejects.toThrow('not now');
    expect(ask).toHaveBeenCalledTimes(1);
    const third = source();
    ask.mockRejectedValueOnce(new Error('the disk is full'));
    await expect(third.frame(scene('mesh:edge-ratio'), 0, 'view')).rejects.toThrow('the disk is full');
    const frame = await third.frame(scene('mesh:edge-ratio'), 0, 'view');
    expect(settleScale(scene('mesh:edge-ratio').scales[0], frame.run, 0)).toMatchObject({
      low: expect.closeTo(1, 6),
      high: expect.closeTo(3, 6),
    });
  });
  it('are not asked for where the files state them, and are forgotten when steps are added', async () => {
    const { run, ask, source, scene } = await setUp();
    await source().frame({ ...scene('mesh:size'), layers: [] }, 0, 'view');
    expect(ask).not.toHaveBeenCalled();
    const measured = { 'mesh:size': { perStep: [null, null, null], overall: null } };
    expect(addSteps({ ...run, measured }, run).measured).toEqual({});
  });
});
