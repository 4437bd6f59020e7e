import { beforeAll, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { defaultScene } from './default-scene.ts';
import type { Layer, Scene } from './document.ts';
import { followsTime, momentOnShow } from './moment-on-show.ts';

let scene: Scene;
let valued: Layer;
let plain: Layer;
beforeAll(async () => {
  scene = { ...defaultScene(await ovenRun()), step: 1, onward: 0.25 };
  const [{ id }] = scene.scales;
  const colour = { kind: 'field', field: 'point:temperature', component: 0, scale: id } as const;
  valued = { ...scene.layers[0], chain: [], colour, visible: true, opacity: 1 };
  plain = { ...valued, colour: { kind: 'plain', colour: '#d8d2c8' } };
});

const at = (step: number): Layer['time'] => ({ kind: 'fixed', step });
const shown = (...layers: Layer[]) => momentOnShow({ ...scene, layers });

it('it is the time of the scene, as soon as a line with values goes along with it', () => {
  const now = { step: 1, onward: 0.25 };
  expect(shown(valued)).toEqual(now);
  expect(shown(valued, { ...valued, time: at(2) })).toEqual(now);
  expect(shown({ ...valued, time: { kind: 'later', by: 1 } })).toEqual(now);
  // Nothing has values: there is no other time to be told.
  expect(shown(plain)).toEqual(now);
  expect(shown()).toEqual(now);
});

it('it is the step that all lines with values always show, and none where these are several', () => {
  expect(shown({ ...valued, time: at(2) })).toEqual({ step: 2, onward: 0 });
  expect(shown({ ...valued, time: at(2) }, plain, { ...valued, time: at(2) })).toEqual({
    step: 2,
    onward: 0,
  });
  expect(shown({ ...valued, time: at(2) }, { ...valued, time: at(0) })).toBeNull();
  // What is hidden says nothing.
  expect(shown({ ...valued, time: at(2) }, { ...valued, visible: false })).toEqual({ step: 2, onward: 0 });
  expect(shown({ ...valued, time: at(2) }, { ...valued, opacity: 0 })).toEqual({ step: 2, onward: 0 });
});

it('a scene follows its time as long as a line with values may do so, hidden ones too', () => {
  const follows = (...layers: Layer[]) => followsTime({ layers });
  expect(follows(plain)).toBe(true);
  expect(follows({ ...valued, time: at(2) }, plain)).toBe(false);
  expect(follows({ ...valued, time: at(2) }, { ...valued, visible: false })).toBe(true);
});
