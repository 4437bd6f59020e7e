import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../../tests/sample-run.ts';
import { cross, dot, lengthOf, subtract, type Vector } from '../../model/vectors.ts';
import { cameraAxes } from '../camera.ts';
import { defaultScene } from '../default-scene.ts';
import type { Scene } from '../document.ts';
import { applyEdit } from '../edits.ts';
import { readScript, writeScript } from '../scene-script.ts';
import { inWorld, upOf, upright, worldAxes } from './upright.ts';

const directions = ['+x', '-x', '+y', '-y', '+z', '-z'] as const;

let scene: Scene;
let run: Awaited<ReturnType<typeof ovenRun>>;
beforeAll(async () => {
  run = await ovenRun();
  scene = defaultScene(run);
});

describe.each(directions)('a world with %s up', (up) => {
  it('has right-handed axes of length one, the last of them up', () => {
    const [a, b, c] = worldAxes(upOf({ up }));
    expect(c).toEqual(upOf({ up }));
    for (const axis of [a, b, c]) expect(lengthOf(axis)).toBe(1);
    expect(dot(a, b)).toBeCloseTo(0, 12);
    expect(lengthOf(subtract(cross(a, b), c))).toBe(0);
  });
  it('is looked at as the one before was: as far, as much from above', () => {
    const above = (s: Scene): number => dot(cameraAxes(s.camera).back, upOf(s.upright));
    const far = (s: Scene): number => lengthOf(subtract(s.camera.position, s.camera.target));
    const turned = applyEdit(scene, { type: 'setting.change', thing: 'upright', change: { up } });
    expect(turned.upright).toEqual({ up });
    expect(above(turned)).toBeCloseTo(above(scene), 9);
    expect(far(turned)).toBeCloseTo(far(scene), 9);
    const back = applyEdit(turned, { type: 'setting.change', thing: 'upright', change: { up: '+z' } });
    for (let k = 0; k < 3; k++) expect(back.camera.position[k]).toBeCloseTo(scene.camera.position[k], 9);
  });
  it('is said in a script and read back', () => {
    const turned = applyEdit(scene, { type: 'setting.change', thing: 'upright', change: { up } });
    expect(readScript(writeScript(turned, run), run).upright).toEqual({ up });
  });
});

it('directions of a world with +z up are as they are', () => {
  const v: Vector = [0.3, -0.4, 0.5];
  expect(inWorld(v, [0, 0, 1])).toEqual(v);
  expect(upright.defaults({} as never, 1)).toEqual({ up: '+z' });
});
