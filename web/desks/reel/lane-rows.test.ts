import { describe, expect, it } from 'vitest';
import { emptyScene } from '#core/scene/empty-scene.ts';
import { even } from '#core/scene/reel/ease.ts';
import { keysInBox, laneRows, ROW_HEIGHT } from './lane-rows.ts';

const lane = (id: string, of: string[], times: number[]) => ({
  id,
  of,
  off: false,
  smooth: false,
  steady: false,
  keys: times.map((at) => ({ at, value: 0, ease: even })),
});
const scene = {
  ...emptyScene(),
  lanes: [
    lane('time', ['time'], [0, 4]),
    lane('turn', ['light', 'turn'], [1, 2]),
    lane('rise', ['light', 'rise'], [2, 3]),
  ],
};
const light = laneRows(scene, []).find((r) => r.kind === 'group')!;

describe('the rows of the reel', () => {
  it('stand one below the other, those of one thing below its name', () => {
    expect(laneRows(scene, []).map((r) => (r.kind === 'lane' ? r.lane.id : 'name'))).toEqual([
      'time',
      'name',
      'turn',
      'rise',
    ]);
    expect(laneRows(scene, []).map((r) => r.kind === 'lane' && r.inset)).toEqual([false, false, true, true]);
    const folded = laneRows(scene, [light.kind === 'group' ? light.group.key : '']);
    expect(folded).toHaveLength(2);
    expect(folded[1]).toMatchObject({ kind: 'group', folded: true });
  });

  it('are cut by a box: keys of its times in the rows it touches', () => {
    const rows = laneRows(scene, []);
    const tall = { above: 0, below: rows.length * ROW_HEIGHT };
    const within = (box: Partial<typeof tall> & { from: number; to: number }) =>
      keysInBox(rows, { ...tall, ...box }).map((k) => `${k.lane} ${k.at}`);
    expect(within({ from: 0, to: 2 })).toEqual(['time 0', 'turn 1', 'turn 2', 'rise 2']);
    // The name of an unfolded thing holds no keys of its own.
    expect(within({ from: 0, to: 4, above: ROW_HEIGHT + 1, below: 2 * ROW_HEIGHT })).toEqual([]);
    expect(within({ from: 0, to: 4, above: 2 * ROW_HEIGHT + 1, below: 3 * ROW_HEIGHT })).toEqual([
      'turn 1',
      'turn 2',
    ]);
    expect(within({ from: 4.1, to: 5 })).toEqual([]);
  });

  it('of a folded thing give the keys of all its lanes', () => {
    const rows = laneRows(scene, [light.kind === 'group' ? light.group.key : '']);
    const box = { from: 2, to: 4, above: ROW_HEIGHT, below: 2 * ROW_HEIGHT };
    expect(keysInBox(rows, box).map((k) => `${k.lane} ${k.at}`)).toEqual(['turn 2', 'rise 2', 'rise 3']);
  });
});
