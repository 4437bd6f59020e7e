import { describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { keyable } from '../scene/addresses.ts';
import { defaultScene } from '../scene/default-scene.ts';
import { holderName, holderOf, nameWithin, valueName } from './value-names.ts';

describe('names of values', () => {
  it('are told for all that can have keys', async () => {
    const run = await ovenRun();
    const scene = defaultScene(run);
    for (const { address, name } of keyable(scene)) expect(valueName(scene, run, address)).toBe(name);
    expect(valueName(scene, run, ['time'])).toBe('the time of the run');
    expect(holderName(scene, ['layers', scene.layers[0].id, 'opacity'])).toBe('line 1');
    expect(holderName(scene, ['parts', 'oven', 'colour'])).toBe('part "oven"');
  });

  it.each([
    [['layers', 'none', 'opacity'], 'opacity of a deleted line'],
    [['layers', 'none', 'chain', 'cut', 'offset'], 'offset of a deleted line'],
    [['annotations', 'none', 'place'], 'place of deleted words'],
    [['scenery', 'none', 'visible'], 'visible of deleted scenery'],
    [['scales', 'none', 'opacityCurve'], 'opacity curve of a deleted colour scale'],
    [['scales', 'none'], 'a deleted colour scale'],
  ])('are told of what is gone: %j', async (address, said) => {
    const run = await ovenRun();
    expect(valueName(defaultScene(run), run, address)).toBe(said);
  });

  it('leave out what they stand below', async () => {
    const run = await ovenRun();
    const scene = defaultScene(run);
    const [{ id }] = scene.layers;
    const within = (...address: string[]) => nameWithin(scene, run, address);
    expect(within('layers', id, 'opacity')).toBe('opacity');
    expect(within('camera', 'target')).toBe('target');
    expect(within('camera')).toBe('the camera');
    expect(within('layers', 'none', 'opacity')).toBe('opacity');
    expect(within('time')).toBe('the time of the run');
  });

  it('of a line whose operation is gone still say which line', async () => {
    const run = await ovenRun();
    const scene = defaultScene(run);
    const address = ['layers', scene.layers[0].id, 'chain', 'none', 'offset'];
    expect(valueName(scene, run, address)).toBe('offset of line 1');
    expect(holderOf(address)).toEqual(address.slice(0, 2));
  });
});
