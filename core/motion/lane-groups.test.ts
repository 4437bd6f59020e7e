import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { defaultScene } from '../scene/default-scene.ts';
import type { Scene } from '../scene/document.ts';
import { applyEdit } from '../scene/edits.ts';
import { even } from '../scene/reel/ease.ts';
import { keysByTime, laneGroups } from './lane-groups.ts';

let scene: Scene;
beforeAll(async () => {
  const plain = defaultScene(await ovenRun());
  const [{ id }] = plain.layers;
  const key = (at: number, value: unknown) => ({ at, value, ease: even });
  scene = applyEdit(plain, {
    type: 'reel.begin',
    beginning: {
      lanes: [
        { of: ['layers', id, 'opacity'], keys: [key(0, 0), key(2, 1)] },
        { of: ['camera'], keys: [key(1, plain.camera)] },
        { of: ['layers', id, 'visible'], keys: [key(2, true), key(3, false)] },
        { of: ['parts', 'oven', 'opacity'], keys: [key(0, 1)] },
        { of: ['camera', 'target'], keys: [key(1, [0, 0, 0]), key(4, [1, 0, 0])] },
        { of: ['time'], keys: [key(0, 0)] },
      ],
    },
  });
});

describe('lanes', () => {
  it('stand together with those of the same thing, where the first of them stands', () => {
    expect(laneGroups(scene).map(({ name, lanes }) => [name, lanes.map((l) => l.of.at(-1))])).toEqual([
      ['line 1', ['opacity', 'visible']],
      ['camera', ['camera', 'target']],
      ['part "oven"', ['opacity']],
      ['time', ['time']],
    ]);
    const all = laneGroups(scene).flatMap((g) => g.lanes);
    expect(all.length).toBe(scene.lanes.length);
    expect(new Set(all)).toEqual(new Set(scene.lanes));
  });

  it('have the keys of one time together', () => {
    const [{ lanes }] = laneGroups(scene);
    const [opacity, visible] = lanes.map((l) => l.id);
    expect(keysByTime(lanes)).toEqual([
      { at: 0, keys: [{ lane: opacity, at: 0 }] },
      {
        at: 2,
        keys: [
          { lane: opacity, at: 2 },
          { lane: visible, at: 2 },
        ],
      },
      { at: 3, keys: [{ lane: visible, at: 3 }] },
    ]);
  });
});
