import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun, withDisplacement } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { lengthOf, subtract } from '../model/vectors.ts';
import { read } from '../scene/addresses.ts';
import { defaultScene } from '../scene/default-scene.ts';
import type { Scene } from '../scene/document.ts';
import { applyEdit } from '../scene/edits.ts';
import { shippedLooks } from '../scene/looks/registry.ts';
import { saidInPicture } from '../scene/said-in-picture.ts';
import { readScript, writeScript } from '../scene/scene-script.ts';
import type { KeptView } from './beginnings/beginning.ts';
import { begun, readMotion, sayMotion } from './beginnings/read-motion.ts';
import { beginnings, settingOfReel } from './beginnings/registry.ts';
import { laneTroubles, sceneAt } from './scene-at.ts';

let run: RunDescription;
let scene: Scene;
let views: KeptView[];
beforeAll(async () => {
  run = await ovenRun();
  const opening = defaultScene(run);
  scene = readScript(
    [
      'Scene "Film"',
      'Section of oven at y = 0.5 m',
      'Isosurface of oven where temperature = 22 °C',
      'Repeat of oven 4 times around z through (0, 0, 0) m every 90°',
      'Film of 12 s, 25 pictures a second',
    ].join('\n'),
    run,
    { ...opening, layers: [] },
  );
  views = [0, 1, 2].map((n) => ({
    name: `view ${n + 1}`,
    camera: { ...scene.camera, position: [4 + n, -3 + 2 * n, 2] },
  }));
});

const setting = (of = scene) => settingOfReel(of, run, { views, looks: shippedLooks });

/** A scene with a motion that was typed. */
const film = (...typed: string[]): Scene => filmOf(scene, ...typed);

function filmOf(of: Scene, ...typed: string[]): Scene {
  return typed.reduce((now, text) => {
    const motion = readMotion(text, setting(now));
    if ('at' in motion) throw new Error(`${text}: at ${motion.at}, expected ${motion.expected.join(' | ')}`);
    return applyEdit(now, { type: 'reel.begin', beginning: begun(motion, setting(now)) });
  }, of);
}

const sectionAt = (s: Scene, t: number, key: string) =>
  read(sceneAt(s, run, t), ['layers', scene.layers[0].id, 'chain', scene.layers[0].chain[0].id, key]);

describe('beginnings', () => {
  it('propose something for this scene that is said, read back the same, and acts without trouble', () => {
    const s = setting();
    const proposed: string[] = [];
    for (const beginning of beginnings) {
      const options = beginning.defaults(s);
      if (typeof options === 'string') {
        expect(options, beginning.id).toMatch(/[.:] [A-Z]?[^.]+\.$/);
        continue;
      }
      expect(beginning.schema.safeParse(options).success, beginning.id).toBe(true);
      const span = { from: 1, to: 4.5, ease: beginning.ease };
      const text = sayMotion({ beginning, options, span }, s);
      const back = readMotion(text, s);
      expect(back, text).toMatchObject({ options, span });
      const made = applyEdit(scene, { type: 'reel.begin', beginning: beginning.begin(options, span, s) });
      expect(made.lanes.length, text).toBeGreaterThan(0);
      expect(laneTroubles(made, run), text).toEqual([]);
      for (const lane of made.lanes)
        for (const { at } of lane.keys) {
          expect(at, text).toBeGreaterThanOrEqual(1);
          expect(at, text).toBeLessThanOrEqual(4.5);
        }
      for (const { key } of beginning.controls(s)) expect(Object.keys(options), beginning.id).toContain(key);
      proposed.push(beginning.id);
    }
    // Nothing swings in this run.
    expect(proposed).toEqual(beginnings.map((b) => b.id).filter((id) => id !== 'turn the phase'));
  });

  it('sweep a section as the issue has it', () => {
    const swept = film('from 2 s to 5 s sweep section 1 from x = 0 to 0.8 m, ease both ends');
    expect(sectionAt(swept, 0, 'normal')).toEqual([1, 0, 0]);
    expect([0, 2, 3.5, 5, 9].map((t) => sectionAt(swept, t, 'offset'))).toEqual([0, 0, 0.4, 0.8, 0.8]);
    const iso = film('sweep isosurface 1 from 20 to 30 °C from 0 s to 10 s, evenly');
    const [layer] = iso.layers.filter((l) => l.chain[0]?.op === 'isosurface');
    expect(read(sceneAt(iso, run, 5), ['layers', layer.id, 'chain', layer.chain[0].id, 'levels'])).toEqual({
      kind: 'list',
      values: [25],
    });
  });

  it('take a typed unit for that of the run where this states none', () => {
    const bare = { ...run, lengthUnit: null };
    const read = readMotion(
      'sweep section 1 from x = 0 to 0.8 m',
      settingOfReel(scene, bare, { views, looks: shippedLooks }),
    );
    expect(read).toMatchObject({ options: { along: 'x', from: 0, to: 0.8 } });
    // Where there is one it is converted, and a number without a unit by nature has none.
    expect(readMotion('sweep section 1 from x = 0 to 800 mm', setting())).toMatchObject({
      options: { to: 0.8 },
    });
    expect(readMotion('sweep opacity of line 1 from 0 to 1 m', setting())).toMatchObject({ at: 36 });
  });

  it('grow a deformed shape to the factor it shows, also where that is an automatic one', () => {
    const bent = withDisplacement(run, 1e-4);
    const opened = defaultScene(bent);
    const ofBent = settingOfReel(opened, bent, { views, looks: shippedLooks });
    // What is proposed is what the line is moved by.
    const grow = beginnings.find((b) => b.id === 'grow')!;
    expect(
      grow.phrase
        .say(grow.defaults(ofBent) as never, ofBent)!
        .map((p) => p.text)
        .join(''),
    ).toBe('grow deformed shape 1');
    const motion = readMotion('from 2 s to 6 s grow deformed shape 1, evenly', ofBent);
    if ('at' in motion) throw new Error('not read');
    const made = applyEdit(opened, { type: 'reel.begin', beginning: begun(motion, ofBent) });
    const said = (t: number) => saidInPicture(sceneAt(made, bent, t), bent);
    expect([4, 6, 9].map(said)).toEqual([
      ['displacement × 500'],
      ['displacement × 1000'],
      ['displacement × 1000'],
    ]);
    expect(laneTroubles(made, bent)).toEqual([]);
    // The scene beside its film stays as it was.
    expect(made.layers).toEqual(opened.layers);
  });

  it('say that there are no words to show where there are none', () => {
    const s = setting({ ...scene, annotations: [] });
    expect(readMotion('hold at 5 s for 2 s, with words 1', s)).toMatchObject({
      refused: { because: expect.stringContaining('no words or marks to show') },
    });
  });

  it('play the results once, at a pace, slowly around an event, and standing still', () => {
    const time = (s: Scene, t: number) => {
      const { step, onward } = sceneAt(s, run, t);
      return 5 * (step + onward);
    };
    const once = film('play the results once');
    expect([0, 6, 12].map((t) => time(once, t))).toEqual([0, 5, 10]);
    const paced = film('from 1 s to 11 s play at 2 times real time');
    expect([1, 2, 3.5, 6, 11].map((t) => time(paced, t))).toEqual([0, 2, 5, 10, 10]);
    const slow = film('slow around 5 s for 2 s, 5 times slower');
    const times = Array.from({ length: 241 }, (_, i) => time(slow, i / 20));
    const speeds = times.slice(1).map((v, i) => (v - times[i]) * 20);
    // Outside 10 s of the run pass in 12 s of which 2 take five times as long: 18 / 12 = 1.5 s a second, and 0.3 within.
    expect(Math.max(...speeds)).toBeLessThan(2.2);
    expect(Math.min(...speeds)).toBeGreaterThan(0.15);
    expect(times[120]).toBeCloseTo(5, 1);
    expect(times[240]).toBe(10);
    // Without a jerk: no speed differs from the one before by more than a twentieth of the fastest.
    for (let i = 1; i < speeds.length; i++) expect(Math.abs(speeds[i] - speeds[i - 1])).toBeLessThan(0.12);
    const held = film('hold at 5 s for 3 s, saying "Now the loaves rise"');
    expect([0, 4.5, 6, 7.5, 12].map((t) => time(held, t))).toEqual([0, 5, 5, 5, 10]);
    expect(held.markers).toMatchObject([{ at: 4.5, until: 7.5, caption: 'Now the loaves rise' }]);
  });

  it('go round as on a turntable: the same distance and height all the way, and back where it began', () => {
    const round = film('turntable');
    const { camera } = scene;
    for (const t of [0, 0.7, 3, 5.5, 8, 11, 12]) {
      const now = sceneAt(round, run, t).camera;
      expect(lengthOf(subtract(now.position, now.target))).toBeCloseTo(
        lengthOf(subtract(camera.position, camera.target)),
        6,
      );
      expect(now.position[2]).toBeCloseTo(camera.position[2], 6);
      expect(now.target).toEqual(camera.target);
    }
    const azimuth = (t: number) => {
      const { position, target } = sceneAt(round, run, t).camera;
      return Math.atan2(position[1] - target[1], position[0] - target[0]);
    };
    // A quarter in a quarter of the time, and what is in front goes to the right: the camera to the left, clockwise from above.
    const turn = (((azimuth(0) - azimuth(3)) * 180) / Math.PI + 360) % 360;
    expect(turn).toBeCloseTo(90, 2);
    for (const [k, v] of sceneAt(round, run, 12).camera.position.entries())
      expect(v).toBeCloseTo(camera.position[k], 9);
  });

  it('cut from view to view, each as long as the others, and stay in the last', () => {
    const cut = film('from 3 s to 9 s cut through the kept views');
    expect(cut.lanes[0].keys.map((k) => [k.at, k.ease])).toEqual(
      [3, 5, 7].map((at) => [at, { kind: 'hold' }]),
    );
    const seen = [3, 4.99, 5, 6.9, 7, 9, 12].map((t) => sceneAt(cut, run, t).camera.position[0]);
    expect(seen).toEqual([4, 4, 5, 5, 6, 6, 6]);
  });

  it('fly through the views in their order, and walk a path that looks ahead', () => {
    const flown = film('from 0 s to 4 s fly through the kept views');
    expect([0, 2, 4].map((t) => sceneAt(flown, run, t).camera.position)).toEqual(
      views.map((v) => v.camera.position),
    );
    const walked = film('from 0 s to 4 s walk through (0, 0, 0.5), (2, 0, 0.5), (2, 2, 0.5) m, evenly');
    const middle = sceneAt(walked, run, 2).camera;
    expect(middle.position[0]).toBeCloseTo(2, 1);
    expect(middle.target[1]).toBeGreaterThan(middle.position[1]);
  });

  it('fade, build up, grow, spin and change looks', () => {
    const opacity = (s: Scene, line: number, t: number) => sceneAt(s, run, t).layers[line].opacity;
    const faded = film('from 0 s to 8 s fade line 1 in and out');
    expect([0, 2, 4, 8].map((t) => opacity(faded, 0, t))).toEqual([0, 1, 1, 0]);
    const built = film('build the scene up');
    expect([0, 4, 8, 12].map((t) => [0, 1, 2].map((line) => opacity(built, line, t)))).toEqual([
      [0, 0, 0],
      [1, 0, 0],
      [1, 1, 0],
      [1, 1, 1],
    ]);
    const spun = film('from 0 s to 2 s spin line 3 at 30 turns a minute, 2 times slower');
    const [, , rotor] = spun.layers;
    const turned = (t: number) =>
      read(sceneAt(spun, run, t), ['layers', rotor.id, 'chain', rotor.chain[0].id, 'turned']);
    expect([0, 1, 2].map(turned)).toEqual([0, 90, 180]);
    const grown = film('from 0 s to 4 s grow focal length of the camera, evenly');
    expect(sceneAt(grown, run, 4).camera.fieldOfView).toBe(scene.camera.fieldOfView);
    expect(sceneAt(grown, run, 0).camera.fieldOfView).toBe(2);
    const looks = film('from 0 s to 3 s change the look to night');
    expect(sceneAt(looks, run, 2).light).toEqual(scene.light);
    expect(sceneAt(looks, run, 3).light.rig).toBe(
      shippedLooks.find((l) => l.name === 'night')!.things.light!.rig,
    );
  });

  it.each([
    ['from 2 s to 5 s sweep sektion 1 from 0 to 1 m', /section 1/],
    ['from 5 s to 2 s turntable', /ends before it begins/],
    ['from 2 s to 2 s turntable', /takes no time/],
    ['turn the phase 2 times', /swings, sweeps or pulses/],
    ['turntable sideways', /the end/],
    ['', /turntable/],
  ])('say what is not understood in “%s”', (text, said) => {
    const read = readMotion(text, setting());
    expect('at' in read).toBe(true);
    if ('at' in read) expect(`${read.refused?.because} ${read.expected.join(' ')}`).toMatch(said);
  });

  it('wipe from one line to another: each on its side, the others on both', () => {
    const [section, isosurface, repeated] = scene.layers.map((l) => l.id);
    const wiped = film('from 2 s to 6 s wipe from line 3 to line 1, evenly');
    expect(wiped.layers.map((l) => [l.id, l.wipe])).toEqual([
      [section, 'after'],
      [isosurface, 'both'],
      [repeated, 'before'],
    ]);
    expect([0, 2, 3, 6, 9].map((t) => sceneAt(wiped, run, t).wipe.place)).toEqual([1, 1, 0.75, 0, 0]);
    // What a script says of it comes back.
    expect(
      readScript(writeScript(wiped, run), run, { ...scene, layers: [] }).layers.map((l) => l.wipe),
    ).toEqual(['after', 'both', 'before']);
  });

  it('wipe from one step to another: lines with values come twice, and a second time they only change their steps', () => {
    const typed = 'wipe from step 1 to step 3';
    const plain = { kind: 'plain', colour: '#d8d2c8' } as const;
    const layers = scene.layers.map((l, i) => (i === 2 ? { ...l, colour: plain } : l));
    const wiped = filmOf({ ...scene, layers }, typed);
    expect(wiped.layers.map((l) => [l.chain[0].op, l.wipe, l.time])).toEqual([
      ['section', 'before', { kind: 'fixed', step: 0 }],
      ['section', 'after', { kind: 'fixed', step: 2 }],
      ['isosurface', 'before', { kind: 'fixed', step: 0 }],
      ['isosurface', 'after', { kind: 'fixed', step: 2 }],
      // Without values it is the same at every step.
      ['repeat', 'both', { kind: 'now' }],
    ]);
    expect(new Set(wiped.layers.map((l) => l.id)).size).toBe(wiped.layers.length);
    const again = filmOf({ ...scene, layers }, typed, 'wipe from step 2 to step 1');
    expect(again.layers.length).toBe(wiped.layers.length);
    expect(again.layers.filter((l) => l.wipe === 'before').map((l) => l.time)).toEqual(
      again.layers.filter((l) => l.wipe === 'before').map(() => ({ kind: 'fixed', step: 1 })),
    );
    // No run has a step behind its last.
    const beyond = film('wipe from step 1 to step 400');
    expect(beyond.layers.find((l) => l.wipe === 'after')?.time).toEqual({
      kind: 'fixed',
      step: run.steps.length - 1,
    });
  });

  it('propose what a scene has, and say what it lacks', () => {
    const bare: Scene = { ...scene, layers: [], cameras: [] };
    const lacking = beginnings.filter(
      (b) =>
        typeof b.defaults(settingOfReel({ ...bare }, { ...run, steps: run.steps.slice(0, 1) })) === 'string',
    );
    expect(lacking.map((b) => b.id)).toEqual([
      'play results',
      'play at a pace',
      'slow around',
      'hold at',
      'fly through views',
      'cut through views',
      'fade',
      'build up',
      'change looks',
      'wipe lines',
      'wipe steps',
      'turn the phase',
      'spin a rotor',
    ]);
    // Typed as far as the name of what there is none of, the reason is said, not nothing.
    for (const [text, said] of [
      ['spin line 1 at 1500 turns a minute', /repeated around an axis/],
      ['fade line 1 in', /line/],
    ] as const) {
      const read = readMotion(text, settingOfReel(bare, run));
      expect('refused' in read && read.refused?.because, text).toMatch(said);
    }
  });
});
