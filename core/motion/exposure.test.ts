import { beforeAll, describe, expect, it } from 'vitest';
import { fullScene } from '../../tests/attack/documents.ts';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { read } from '../scene/addresses.ts';
import type { Scene } from '../scene/document.ts';
import { applyEdit } from '../scene/edits.ts';
import { even, hold } from '../scene/reel/ease.ts';
import { exposedScenes, MOST_MOMENTS } from './exposure.ts';

let run: RunDescription;
let moving: Scene;
const of = ['layers', 'layer-1', 'chain', 'step-1', 'offset'];

/** A section that goes a unit a second, for the first eight of ten; four pictures a second. */
beforeAll(async () => {
  run = await ovenRun();
  const keys = [
    { at: 0, value: 0, ease: even },
    { at: 8, value: 8, ease: even },
  ];
  moving = applyEdit(fullScene(run), { type: 'reel.begin', beginning: { lanes: [{ of, keys }] } });
});

const withReel = (change: Partial<Scene['reel']>): Scene => ({
  ...moving,
  reel: { ...moving.reel, seconds: 10, rate: 4, shutter: 180, ...change },
});
const offsets = (scene: Scene, at: number, passes = 48): unknown[] =>
  exposedScenes(scene, run, at, passes).map((state) => read(state, of));

describe('the moments over which a picture is exposed', () => {
  it('lie evenly within the time that the shutter is open', () => {
    // Half of a quarter of a second.
    const found = offsets(withReel({}), 2) as number[];
    expect(found).toHaveLength(MOST_MOMENTS);
    for (const [k, offset] of found.entries()) expect(offset).toBeCloseTo(2 + (0.125 * (k + 0.5)) / 16, 5);
    const whole = offsets(withReel({ shutter: 360 }), 2) as number[];
    expect(whole[15] - whole[0]).toBeCloseTo((0.25 * 15) / 16, 5);
  });

  it('are no more than there are passes', () => {
    expect(offsets(withReel({}), 2, 4)).toEqual([1, 3, 5, 7].map((k) => expect.closeTo(2 + k / 64, 5)));
    expect(offsets(withReel({}), 2, 1)).toEqual([]);
  });

  it('are none where the shutter is not open, or nothing moves meanwhile', () => {
    expect(offsets(withReel({ shutter: 0 }), 2)).toEqual([]);
    expect(offsets(withReel({}), 9)).toEqual([]);
    const held = {
      ...withReel({}),
      lanes: moving.lanes.map((l) => ({ ...l, keys: l.keys.map((k) => ({ ...k, ease: hold })) })),
    };
    expect(offsets(held, 2)).toEqual([]);
  });

  it('have no captions: one that begins meanwhile moves nothing', () => {
    const marker = { id: 'm', at: 9.05, name: '', caption: 'The fan is on', until: null };
    const told = { ...withReel({}), markers: [marker] };
    expect(exposedScenes(told, run, 9, 48)).toEqual([]);
    expect(exposedScenes(told, run, 2, 48)).toEqual(
      exposedScenes(withReel({}), run, 2, 48).map((s) => ({ ...s, markers: [] })),
    );
  });

  it('go on with the beginning where the film goes round, and stand still at its end where it does not', () => {
    const round = offsets(withReel({ to: 4, loop: true, shutter: 360 }), 3.875) as number[];
    expect(round[0]).toBeCloseTo(3.875 + 0.25 / 32, 5);
    // The second half lies beyond the end.
    expect(round[8]).toBeCloseTo(0.25 / 32, 5);
    const still = offsets(withReel({ shutter: 360 }), 7.875) as number[];
    expect(still.slice(8)).toEqual(new Array(8).fill(8));
  });
});
