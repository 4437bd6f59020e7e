import { formatHex, interpolate } from 'culori';
import { beforeAll, describe, expect, it } from 'vitest';
import { fullScene } from '../../tests/attack/documents.ts';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { keyable, read } from '../scene/addresses.ts';
import { blended } from '../scene/blending.ts';
import { readScene, type Scene, sceneSchema } from '../scene/document.ts';
import { applyEdit, type Edit } from '../scene/edits.ts';
import { shippedLooks } from '../scene/looks/registry.ts';
import { bothEnds, type Ease, even, hold } from '../scene/reel/ease.ts';
import { readScript, writeScript } from '../scene/scene-script.ts';
import {
  filmPictures,
  posterOfFilm,
  sayPace,
  seamOfFilm,
  stepsOfFilm,
  warningsOfFilm,
} from './reel-facts.ts';
import { laneTroubles, sceneAt } from './scene-at.ts';

let run: RunDescription;
let plain: Scene;
beforeAll(async () => {
  run = await ovenRun();
  plain = fullScene(run);
});

const key = (at: number, value: unknown, ease: Ease = even) => ({ at, value, ease });
const withLanes = (...lanes: { of: readonly string[]; keys: ReturnType<typeof key>[] }[]): Scene =>
  applyEdit(plain, { type: 'reel.begin', beginning: { lanes } });

/** The colour of a line that shows values. */
const coloured = ({ scales: [{ id }] }: Scene) =>
  ({ kind: 'field', field: 'point:temperature', component: 0, scale: id }) as const;

describe('a scene at a time of its film', () => {
  it('is the scene itself where nothing moves', () => expect(sceneAt(plain, run, 3)).toBe(plain));

  it('has each value where its keys have it: before the first, between, and behind the last', () => {
    const of = ['layers', 'layer-1', 'chain', 'step-1', 'offset'];
    const scene = withLanes({ of, keys: [key(2, 0, bothEnds), key(4, 0.8), key(6, 0.4, hold), key(8, 0.6)] });
    const at = (t: number) => read(sceneAt(scene, run, t), of);
    expect([0, 2, 4, 5, 6, 7.9, 8, 20].map(at)).toEqual([0, 0, 0.8, 0.6, 0.4, 0.4, 0.6, 0.6]);
    // Half of the time is half of the way of a curve that is the same from both ends, and a quarter is less.
    expect(at(3)).toBeCloseTo(0.4, 9);
    expect(at(2.5) as number).toBeLessThan(0.2);
    expect(read(scene, of)).toBe(read(plain, of));
  });

  it('blends every value it can have as its declaration says, and stays a valid scene', () => {
    const values = keyable(plain);
    for (const { address, value, name } of values) {
      const scene = withLanes({ of: address, keys: [key(0, value), key(2, value)] });
      expect(laneTroubles(scene, run), name).toEqual([]);
      const state = sceneAt(scene, run, 1);
      expect(sceneSchema.safeParse(state).success, name).toBe(true);
      expect(read(state, address), name).toEqual(value);
    }
    expect(values.length).toBeGreaterThan(100);
  });

  it('mixes colours as a package of the registry (culori) does in L*a*b* under D65', () => {
    const channels = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
    for (const [a, b] of [
      ['#102030', '#f0e0a0'],
      ['#ff0000', '#0000ff'],
      ['#000000', '#ffffff'],
    ])
      for (const share of [0.1, 0.5, 0.9]) {
        const known = channels(formatHex(interpolate([a, b], 'lab65')(share)));
        for (const [k, v] of channels(blended('colour', a, b, share) as string).entries())
          expect(Math.abs(v - known[k]), `${a} to ${b}`).toBeLessThanOrEqual(1);
      }
  });

  it('goes beyond its keys where its curve does, but never where the scene could not follow', () => {
    const swing: Ease = { kind: 'curve', handles: [0.3, 0, 0.6, 2] };
    const offset = ['layers', 'layer-1', 'chain', 'step-1', 'offset'];
    const opacity = ['layers', 'layer-0', 'opacity'];
    const scene = withLanes(
      { of: offset, keys: [key(0, 0, swing), key(1, 1)] },
      { of: opacity, keys: [key(0, 0, swing), key(1, 1)] },
    );
    const state = sceneAt(scene, run, 0.8);
    expect(read(state, offset) as number).toBeGreaterThan(1.05);
    expect(read(state, opacity)).toBe(1);
    expect(sceneSchema.safeParse(state).success).toBe(true);
  });

  it('shows the run at its time, between two steps or held', () => {
    const keys = [key(0, 0), key(4, 10)];
    const scene = withLanes({ of: ['time'], keys });
    const shown = (s: Scene, t: number) => {
      const { step, onward } = sceneAt(s, run, t);
      return [step, onward];
    };
    expect([0, 1, 2, 3, 4].map((t) => shown(scene, t))).toEqual([
      [0, 0],
      [0, 0.5],
      [1, 0],
      [1, 0.5],
      [2, 0],
    ]);
    const held: Scene = { ...scene, reel: { ...scene.reel, between: 'held' } };
    expect(shown(held, 3)).toEqual([1, 0]);
  });

  it('wears its look before single values are set, and cuts from one to the next', () => {
    const [night, paper] = ['night', 'paper'].map((id) => shippedLooks.find((l) => l.id === id)!);
    const scene = withLanes(
      { of: ['light', 'strength'], keys: [key(0, 0.3), key(2, 0.7)] },
      { of: ['look'], keys: [key(0, paper, hold), key(1, night, hold)] },
    );
    expect(laneTroubles(scene, run)).toEqual([]);
    expect(sceneAt(scene, run, 0.5).light.rig).toBe(paper.things.light!.rig);
    expect(sceneAt(scene, run, 1.5).light.rig).toBe(night.things.light!.rig);
    expect(sceneAt(scene, run, 1).light.strength).toBeCloseTo(0.5, 12);
  });

  it('looks at a target with keys of its own, wherever the camera is taken', () => {
    const camera = plain.camera;
    const scene = withLanes(
      { of: ['camera', 'target'], keys: [key(0, [0, 0, 0]), key(2, [2, 0, 0])] },
      {
        of: ['camera'],
        keys: [key(0, camera), key(2, { ...camera, position: camera.position.map((v) => v + 1), roll: 20 })],
      },
    );
    const state = sceneAt(scene, run, 1);
    expect(state.camera.target).toEqual([1, 0, 0]);
    expect(state.camera.roll).toBeCloseTo(10, 9);
  });

  it('has the caption of the time on its picture, unless captions lie beside it', () => {
    const marker = (id: string, at: number, caption: string, until: number | null = null) => ({
      id,
      at,
      name: id,
      caption,
      until,
    });
    const scene: Scene = {
      ...plain,
      markers: [marker('b', 4, 'second'), marker('a', 1, 'first', 3), marker('c', 6, '')],
    };
    const said = (s: Scene, t: number) =>
      sceneAt(s, run, t).annotations.flatMap((a) => (a.kind === 'caption' ? [a.text] : []));
    expect([0, 1, 2.9, 3, 4, 9.9].map((t) => said(scene, t))).toEqual([
      [],
      ['first'],
      ['first'],
      [],
      ['second'],
      ['second'],
    ]);
    expect(sceneSchema.safeParse(sceneAt(scene, run, 1)).success).toBe(true);
    expect(said({ ...scene, reel: { ...scene.reel, captions: 'beside' } }, 1)).toEqual([]);
  });

  it('tells what cannot act, and passes it over', () => {
    const lane = (id: string, of: string[], value: unknown) => ({
      id,
      of,
      off: false,
      smooth: false,
      steady: false,
      keys: [key(0, value), key(1, value)],
    });
    const lanes = [
      lane('gone', ['layers', 'no-such', 'opacity'], 0.5),
      lane('option', ['layers', 'layer-1', 'chain', 'step-1', 'nothing'], 1),
      lane('wrong', ['light', 'strength'], 'strong'),
      lane('outside', ['layers', 'layer-0', 'opacity'], 7),
      lane('plane', ['layers', 'layer-1', 'chain', 'step-1', 'normal'], [0, 0, 0]),
      lane('time', ['time'], 'soon'),
      lane('look', ['look'], { name: 'half a look' }),
      lane('first', ['haze', 'amount'], 0.25),
      lane('second', ['haze', 'amount'], 0.75),
    ];
    const scene: Scene = { ...plain, lanes };
    const troubles = laneTroubles(scene, run);
    expect(troubles.map((t) => t.lane)).toEqual(lanes.map((l) => l.id).filter((id) => id !== 'first'));
    for (const { says } of troubles) expect(says).toMatch(/\. [A-Z][^.]+\.$/);
    expect(troubles[0].moves).toBe('opacity of a deleted line');
    const state = sceneAt(scene, run, 0.5);
    expect(state.haze.amount).toBe(0.25);
    expect({ ...state, haze: plain.haze }).toEqual({ ...scene, haze: plain.haze });
    // Switched off, a lane neither acts nor is complained of.
    const off: Scene = { ...plain, lanes: lanes.map((l) => ({ ...l, off: true })) };
    expect(laneTroubles(off, run)).toEqual([]);
    expect(sceneAt(off, run, 0.5)).toBe(off);
  });

  it('in a script is read back to the same film', () => {
    const scene = withLanes(
      {
        of: ['layers', 'layer-1', 'chain', 'step-1', 'offset'],
        keys: [key(0, 0.125, bothEnds), key(2.5, 1)],
      },
      { of: ['camera'], keys: [key(0, plain.camera, hold), key(9.75, plain.camera)] },
      { of: ['backdrop', 'kind'], keys: [key(1, 'mist "with" [brackets', hold)] },
      { of: ['time'], keys: [key(0, 0), key(4, 10, { kind: 'curve', handles: [0.1, 0.2, 0.3, 1.5] })] },
      { of: ['look'], keys: [key(0, shippedLooks[0], hold)] },
    );
    const edits: Edit[] = [
      { type: 'lane.change', id: 'lane-2', change: { smooth: true, steady: true, off: true } },
      {
        type: 'marker.add',
        marker: { id: 'marker-1', at: 1.5, name: 'Baking', caption: 'At “200 °C”\nall day', until: 3 },
      },
      { type: 'marker.add', marker: { id: 'marker-2', at: 4, name: 'Cooling', caption: '', until: null } },
      {
        type: 'setting.change',
        thing: 'reel',
        change: { seconds: 12.5, rate: 30, from: 1, to: 9.5, loop: true, between: 'held', shutter: 180 },
      },
    ];
    const film = { ...edits.reduce(applyEdit, scene), step: 1, onward: 0.3 };
    const text = writeScript(film, run);
    expect(text).toContain('Key of line 2 / operation 1 / offset at 0 s is 0.125, ease both ends');
    const back = readScript(text, run);
    const places = (s: Scene) =>
      s.lanes.map((l) => ({ ...l, of: l.of.map((entry) => (entry.startsWith('layer-') ? 'line' : entry)) }));
    expect(places(back)).toEqual(places(film));
    expect(back.markers).toEqual(film.markers);
    expect(back.reel).toEqual(film.reel);
    expect([back.step, back.onward]).toEqual([1, 0.3]);
    // And so is a document that is stored.
    expect(readScene(JSON.parse(JSON.stringify(film)))).toEqual(film);
  });
});

describe('the pictures of a film', () => {
  const reel = (change: Partial<Scene['reel']>): Scene => ({ ...plain, reel: { ...plain.reel, ...change } });

  it('are as many as its length says, from its beginning to its end', () => {
    const film = filmPictures(reel({ seconds: 10, rate: 25 }));
    expect([film.count, film.at(0), film.at(249)]).toEqual([250, 0, 10]);
    // Where it goes round the last is as far from the first as any two.
    const round = filmPictures(reel({ seconds: 10, rate: 25, loop: true }));
    expect([round.count, round.at(0), round.at(249)]).toEqual([250, 0, 9.96]);
    const part = filmPictures(reel({ seconds: 10, rate: 24, from: 2, to: 3 }));
    expect([part.count, part.at(0), part.at(23)]).toEqual([24, 2, 3]);
    // Each is the nearest to its own time, and to those around it.
    for (const pictures of [film, round, part])
      for (let i = 0; i < pictures.count; i++) {
        const apart = pictures.at(1) - pictures.at(0);
        const times = [pictures.at(i), pictures.at(i) + 0.49 * apart, pictures.at(i) - 0.49 * apart];
        expect(times.every((time) => pictures.nearest(time) === i)).toBe(true);
      }
    // Ends that leave nothing are none.
    expect(filmPictures(reel({ seconds: 2, rate: 25, from: 5, to: 1 })).count).toBe(50);
    expect(filmPictures(reel({ seconds: 0.01, rate: 1 })).count).toBe(1);
  });

  it('are told of before they are made: steps used, made, skipped and repeated, and the pace', () => {
    const played = (seconds: number, change: Partial<Scene['reel']> = {}): Scene => {
      const scene = withLanes({ of: ['time'], keys: [key(0, 0), key(seconds, 10)] });
      return { ...scene, reel: { ...scene.reel, seconds, rate: 10, ...change } };
    };
    // 3 steps over 10 s of the run, in 2 s: 20 pictures, of which 18 lie between steps.
    const made = stepsOfFilm(played(2), run);
    expect(made).toMatchObject({ shown: 3, skipped: 0, repeated: 0, made: 18 });
    expect(sayPace(made.pace!)).toBe('5.26 times faster than it was');
    expect(warningsOfFilm(played(2), run)).toEqual([]);
    const held = stepsOfFilm(played(2, { between: 'held' }), run);
    expect(held).toMatchObject({ shown: 3, made: 0, repeated: 17 });
    expect(warningsOfFilm(played(2, { between: 'held' }), run)[0]).toMatch(/^17 pictures show the step/);
    // Two pictures: the first and the last step.
    const short = played(0.2, { between: 'held' });
    expect(stepsOfFilm(short, run)).toMatchObject({ shown: 2, skipped: 1 });
    expect(warningsOfFilm(short, run)[0]).toMatch(/^1 of 3 steps are not shown/);
    // Beyond the run nothing moves: that is no repeating.
    const beyond = withLanes({ of: ['time'], keys: [key(0, 0), key(2, 20)] });
    const longer = { ...beyond, reel: { ...beyond.reel, seconds: 2, rate: 10 } };
    expect(stepsOfFilm(longer, run)).toMatchObject({ repeated: 0, outside: 10 });
    expect(warningsOfFilm(longer, run)).toEqual([expect.stringMatching(/^10 pictures stand still/)]);
    // Lines that always show a step of their own do not go along.
    const apart = [0, 2].map((step, i) => ({
      ...longer.layers[0],
      id: `fixed ${i}`,
      time: { kind: 'fixed', step } as const,
    }));
    const fixed: Scene = { ...longer, layers: apart.map((l) => ({ ...l, colour: coloured(longer) })) };
    expect(stepsOfFilm(fixed, run)).toEqual({
      shown: 2,
      skipped: 0,
      repeated: 0,
      made: 0,
      outside: 0,
      pace: null,
    });
    expect(warningsOfFilm(fixed, run)).toEqual([]);
    // What cannot act is told first.
    const gone: Scene = {
      ...longer,
      lanes: [{ ...longer.lanes[0], id: 'gone', of: ['layers', 'none', 'opacity'] }, ...longer.lanes],
    };
    expect(warningsOfFilm(gone, run)[0]).toMatch(/^The lane of opacity of a deleted line does not act\. /);
    expect(stepsOfFilm(plain, run)).toMatchObject({ shown: 1, skipped: 0, repeated: 0, pace: null });
  });

  it('go round without a seam where what moves ends as it begins, or say what jumps', () => {
    const of = ['haze', 'amount'];
    const round = (last: number, turn = 0): Scene => {
      const camera = { ...plain.camera, position: plain.camera.position.map((v) => v + turn) };
      const scene = withLanes(
        { of, keys: [key(0, 0.1), key(2, 0.5), key(4, last)] },
        { of: ['camera'], keys: [key(0, plain.camera), key(4, camera)] },
      );
      return { ...scene, reel: { ...scene.reel, seconds: 4, rate: 10, loop: true } };
    };
    expect(seamOfFilm(round(0.1), run)).toEqual([]);
    // Keys have seven digits: a whole turn ends within them.
    expect(seamOfFilm(round(0.1, 1e-7), run)).toEqual([]);
    expect(seamOfFilm(round(0.2), run)).toEqual(['strength of the haze']);
    expect(seamOfFilm(round(0.2, 1), run)).toEqual(['the camera', 'strength of the haze']);
    expect(warningsOfFilm(round(0.2, 1), run)).toEqual([
      expect.stringMatching(
        /^It goes round, but jumps .* camera and strength of the haze are not the same\. Give /,
      ),
    ]);
    // What changes by jumps alone jumps on purpose: two cameras cut, a switch.
    const cuts = withLanes(
      { of: ['camera'], keys: [key(0, plain.camera, hold), key(2, { ...plain.camera, roll: 20 }, hold)] },
      { of: ['layers', 'layer-0', 'visible'], keys: [key(0, true), key(2, false)] },
    );
    const going = { ...cuts, reel: { ...cuts.reel, seconds: 4, rate: 10, loop: true } };
    expect(seamOfFilm(going, run)).toEqual([]);
    const turned = cuts.lanes.map((l) => ({ ...l, keys: l.keys.map((k) => ({ ...k, ease: even })) }));
    expect(seamOfFilm({ ...going, lanes: turned }, run)).toEqual(['the camera']);
    // A part of it may go round where the whole does not; and what does not go round has no seam.
    const part = round(0.2);
    expect(seamOfFilm({ ...part, reel: { ...part.reel, from: 2, to: 2.01 } }, run)).toEqual([
      'strength of the haze',
    ]);
    expect(seamOfFilm({ ...part, reel: { ...part.reel, loop: false } }, run)).toEqual([]);
  });

  it('have a poster: the picture nearest to its time, of those there are', () => {
    const at = (poster: number, change: Partial<Scene['reel']> = {}) =>
      posterOfFilm({ reel: { ...plain.reel, seconds: 2, rate: 10, poster, ...change } });
    // Twenty pictures from 0 to 2 s; going round they are a tenth of a second apart.
    expect([0, 0.05, 0.06, 1, 2, 9].map((poster) => at(poster))).toEqual([0, 0, 1, 10, 19, 19]);
    expect([1, 1.96].map((poster) => at(poster, { loop: true }))).toEqual([10, 19]);
    expect([0, 1.2].map((poster) => at(poster, { from: 1 }))).toEqual([0, 2]);
  });

  it('warn where they are to end before they begin, or begin behind their end', () => {
    const ends = (from: number, to: number | null) =>
      warningsOfFilm({ ...plain, reel: { ...plain.reel, seconds: 4, from, to } }, run);
    expect(ends(3, 2)).toEqual([expect.stringMatching(/begin at 3 s and to end at 2 s, but is 4 s long/)]);
    expect(ends(5, null)).toEqual([expect.stringMatching(/begin at 5 s and to end at 4 s/)]);
    expect(ends(1, 2)).toEqual([]);
  });

  it('say their pace in words', () => {
    expect(sayPace({ least: 1, most: 1 })).toBe('as fast as it was');
    expect(sayPace({ least: 40, most: 60 })).toBe('40 to 60 times faster than it was');
    expect(sayPace({ least: 0.1, most: 0.1 })).toBe('10 times slower than it was');
    expect(sayPace({ least: 0.5, most: 4 })).toBe('from 2 times slower to 4 times faster than it was');
  });
});

describe('keys', () => {
  const of = ['haze', 'amount'];
  const keysOf = (s: Scene) => s.lanes.find((l) => l.of.join() === of.join())?.keys;
  const all = (s: Scene) => keysOf(s)!.map(({ at }) => ({ lane: s.lanes[0].id, at }));
  const base = () =>
    applyEdit(plain, {
      type: 'reel.begin',
      beginning: { lanes: [{ of, keys: [key(1, 0.1), key(3, 0.3)] }] },
    });

  it('are set, and another at the same time takes the place of the one before', () => {
    const set = (s: Scene, at: number, value: number) =>
      applyEdit(s, { type: 'keys.set', at, values: [{ of, value }] });
    let scene = set(set(plain, 2, 0.5), 1, 0.2);
    expect(keysOf(scene)).toEqual([key(1, 0.2), key(2, 0.5)]);
    scene = set(scene, 2, 0.9);
    expect(keysOf(scene)).toEqual([key(1, 0.2), key(2, 0.9)]);
  });
  it('are moved, stretched, copied, eased and deleted, several at once', () => {
    const scene = base();
    const times = (s: Scene) => keysOf(s)!.map((k) => k.at);
    expect(times(applyEdit(scene, { type: 'keys.move', keys: all(scene), by: 0.5 }))).toEqual([1.5, 3.5]);
    // No key stands before the film.
    expect(times(applyEdit(scene, { type: 'keys.move', keys: all(scene), by: -2 }))).toEqual([0, 1]);
    const stretch: Edit = { type: 'keys.move', keys: all(scene), by: 0, around: 1, factor: 2 };
    expect(times(applyEdit(scene, stretch))).toEqual([1, 5]);
    expect(times(applyEdit(scene, { type: 'keys.copy', keys: all(scene), by: 4 }))).toEqual([1, 3, 5, 7]);
    const eased = applyEdit(scene, { type: 'keys.ease', keys: all(scene).slice(0, 1), ease: bothEnds });
    expect(keysOf(eased)).toEqual([key(1, 0.1, bothEnds), key(3, 0.3)]);
    // One that is moved onto another takes its place.
    const onto = applyEdit(scene, { type: 'keys.move', keys: all(scene).slice(0, 1), by: 2 });
    expect(keysOf(onto)).toEqual([key(3, 0.1)]);
    const less = applyEdit(scene, { type: 'keys.remove', keys: all(scene).slice(1) });
    expect(keysOf(less)).toEqual([key(1, 0.1)]);
    expect(applyEdit(less, { type: 'keys.remove', keys: all(less) }).lanes).toEqual([]);
  });
  it('of a beginning take the place of those within its time, and leave the others', () => {
    const scene = applyEdit(base(), {
      type: 'reel.begin',
      beginning: { lanes: [{ of, keys: [key(2, 0.7), key(4, 0.9)] }] },
    });
    expect(keysOf(scene)).toEqual([key(1, 0.1), key(2, 0.7), key(4, 0.9)]);
    expect(scene.lanes).toHaveLength(1);
  });
});
