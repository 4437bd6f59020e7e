import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun, withDisplacement } from '../../tests/sample-run.ts';
import { type Spread, spreadOfTriangles } from '../colour/spread.ts';
import type { CurveData } from '../measure/curves/curve-data.ts';
import type { RunDescription } from '../model/run.ts';
import { chart } from '../scene/charts/chart.ts';
import { curve } from '../scene/charts/curve.ts';
import { defaultScene } from '../scene/default-scene.ts';
import type { Scale, Scene } from '../scene/document.ts';
import { applyEdit } from '../scene/edits.ts';
import type { Reading } from '../scene/reading.ts';
import { readScript, writeScript } from '../scene/scene-script.ts';
import { type KnownOfScene, sceneToCheck } from './checked-scene.ts';
import type { PictureSeen, SeenWords } from './picture-seen.ts';
import { openFindings, preflight, preflightRules } from './registry.ts';
import type { CheckedFigure, CheckedFilm, Finding } from './rule.ts';

let run: RunDescription;
/** With all that a picture should say: nothing is found in it. */
let scene: Scene;
let scale: Scale;

beforeAll(async () => {
  // Temperatures from 20 to 46 °C over three steps.
  run = await ovenRun();
  const opened = defaultScene(run);
  const title = { id: 'title', kind: 'text', visible: true, text: 'Oven', align: 'left', x: 0.1, y: 0.1 };
  const lettering = { size: 3, weight: 'medium', serif: false, ink: null, ground: 'as needed' };
  scene = { ...opened, annotations: [{ ...title, ...lettering } as Scene['annotations'][number]] };
  scale = { ...scene.scales[0], range: { kind: 'all-steps' } };
  scene = { ...scene, scales: [scale] };
});

/** A square on which the value rises straight from one number to another. */
const rising = (from: number, to: number): Spread =>
  spreadOfTriangles([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0], [0, 1, 2, 0, 2, 3], [from, to, to, from]);

const words = (more: Partial<SeenWords> & { id: string }): SeenWords => ({
  kind: 'annotation',
  name: more.id,
  box: { x: 0.1, y: 0.1, width: 0.2, height: 0.1 },
  hangs: false,
  overModel: 0,
  words: [{ text: 'Oven', height: 0.03, box: { x: 0.1, y: 0.1, width: 0.1, height: 0.03 }, contrast: 9 }],
  ...more,
});
const seen = (more: Partial<PictureSeen> = {}): PictureSeen => ({
  width: 1600,
  height: 1000,
  words: [words({ id: 'title' })],
  empty: [],
  abrupt: {},
  ...more,
});

const checked = (of: Scene, known: Partial<KnownOfScene> = {}, other: RunDescription = run): Finding[] => {
  const all = { spreads: [], readings: {}, curves: {}, picture: seen(), ...known };
  return preflight(sceneToCheck(of, other, 1, all), of.checks);
};
const rules = (findings: readonly Finding[]): string[] => findings.map((f) => f.rule);

/** What is left when the mend of the only finding is done. */
function mended(of: Scene, known: Partial<KnownOfScene> = {}, other: RunDescription = run): string[] {
  const [finding] = checked(of, known, other);
  expect(finding.mend, finding.rule).toBeDefined();
  return rules(checked(finding.mend!.edits.reduce(applyEdit, of), known, other));
}

const withScale = (change: Partial<Scale>): Scene => ({ ...scene, scales: [{ ...scale, ...change }] });
const spread = (of: Spread): Partial<KnownOfScene> => ({
  spreads: [{ layer: scene.layers[0].id, part: 'oven', spread: of }],
});

describe('the preflight of a scene', () => {
  it('finds nothing where there is nothing, and every rule has a name of its own', () => {
    expect(checked(scene)).toEqual([]);
    expect(new Set(preflightRules.map((r) => r.id)).size).toBe(preflightRules.length);
    expect(preflightRules).toHaveLength(31);
  });
  it('finds colours that saturate, unless they are told apart or hidden', () => {
    const half = { range: { kind: 'fixed', low: 20, high: 30 } } as const;
    const known = spread(rising(20, 40));
    expect(rules(checked(withScale(half), known))).toEqual(['saturated']);
    expect(checked(withScale(half), known)[0].says).toContain('50 % above');
    expect(checked(withScale({ ...half, above: '#112233' }), known)).toEqual([]);
    expect(checked(withScale({ ...half, shownTo: 'range' }), known)).toEqual([]);
    expect(checked(withScale(half), spread(rising(20, 30.01)))).toEqual([]);
    expect(mended(withScale(half), known)).toEqual([]);
  });
  it('finds maps whose lightness tells nothing, and those that some eyes do not tell apart', () => {
    const rainbow = withScale({ map: 'turbo' });
    expect(rules(checked(rainbow))).toContain('unordered map');
    expect(mended(rainbow)).toEqual([]);
    const wedge = withScale({ map: 'red-yellow-green' });
    expect(rules(checked(wedge))).toEqual(['colour-blind']);
    expect(checked(wedge)[0].says).toContain('without red cones and without green cones');
    expect(mended(wedge)).toEqual([]);
    for (const map of ['viridis', 'cividis', 'red-blue', 'dial', 'grey'])
      expect(checked(withScale({ map })), map).toEqual([]);
  });
  it('finds logarithms of what has none, and what is the same everywhere', () => {
    const log = { spacing: { kind: 'log' }, range: { kind: 'fixed', low: 1, high: 99 } } as const;
    const below = withScale({ ...log, below: '#000000' });
    expect(rules(checked(below, spread(rising(-3, 50))))).toEqual(['no logarithm']);
    expect(mended(below, spread(rising(-3, 50)))).toEqual([]);
    expect(rules(checked(withScale({ ...log, range: { kind: 'fixed', low: -9, high: -1 } })))).toEqual([
      'no logarithm',
    ]);
    expect(checked(withScale(log), spread(rising(1, 50)))).toEqual([]);
    expect(rules(checked(withScale({ range: { kind: 'fixed', low: 5, high: 5 } })))).toEqual([
      'nothing to tell',
    ]);
  });
  it('finds two scales with the same colours for different values', () => {
    const other: Scale = { ...scale, id: 'other', name: 'Other', range: { kind: 'fixed', low: 0, high: 9 } };
    const [layer] = scene.layers;
    const colour = { ...layer.colour, scale: 'other' } as typeof layer.colour;
    const two: Scene = {
      ...scene,
      scales: [scale, other],
      layers: [layer, { ...layer, id: 'second', colour }],
    };
    expect(rules(checked(two))).toEqual(['same map']);
    expect(mended(two)).toEqual([]);
    expect(checked({ ...two, scales: [scale, { ...other, map: 'steam' }] })).toEqual([]);
  });
  it('finds haze and glow that lie over values, while there are any', () => {
    const haze = { ...scene.haze, amount: 0.5, sparesValues: false };
    const glow = { ...scene.glow, strength: 1, sparesValues: false };
    expect(checked({ ...scene, haze: { ...haze, sparesValues: true } })).toEqual([]);
    expect(rules(checked({ ...scene, haze, glow }))).toEqual(['veiled values', 'veiled values']);
    expect(mended({ ...scene, haze })).toEqual([]);
    const layers = scene.layers.map((l) => ({ ...l, colour: { kind: 'plain', colour: '#808080' } as const }));
    expect(checked({ ...scene, haze, glow, layers })).toEqual([]);
  });
  it('finds what is missing: legend, unit, title, time', () => {
    const bare = { ...scene, legends: { ...scene.legends, shown: false } };
    expect(rules(checked(bare))).toEqual(['no legend']);
    expect(mended(bare)).toEqual([]);
    const unitless = { ...run, fields: run.fields.map((f) => ({ ...f, unit: null })) };
    expect(rules(checked(scene, {}, unitless))).toEqual(['no unit']);
    const shares = { ...unitless, fields: unitless.fields.map((f) => ({ ...f, role: 'fraction' as const })) };
    expect(checked(scene, {}, shares)).toEqual([]);
    const untitled = { ...scene, annotations: [] };
    expect(rules(checked(untitled))).toEqual(['no title']);
    expect(mended(untitled)).toEqual([]);
    const timeless = { ...scene, stamp: { ...scene.stamp, visible: false } };
    expect(rules(checked(timeless))).toEqual(['no time']);
    expect(mended(timeless)).toEqual([]);
    expect(checked(timeless, {}, { ...run, steps: run.steps.slice(0, 1) })).toEqual([]);
    const told = { ...scene.annotations[0], text: 'after {time:.1f} s' };
    expect(checked({ ...timeless, annotations: [told] })).toEqual([]);
  });
  it('finds exaggeration, cut parts and made-up moments that are not stated', () => {
    const silent = { ...scene, stamp: { ...scene.stamp, notes: false } };
    expect(checked(silent)).toEqual([]);
    const hidden = { ...silent.parts, [run.parts[0].name]: { ...plainPart(), hidden: true } };
    expect(rules(checked({ ...silent, parts: hidden }))).toEqual(['cut unstated']);
    expect(mended({ ...silent, parts: hidden })).toEqual([]);
    expect(rules(checked({ ...silent, onward: 0.5 }))).toEqual(['between unstated']);
    const bending = withDisplacement(run, 0.01);
    const bent = { ...defaultScene(bending), annotations: scene.annotations };
    const factor = { ...bent, stamp: { ...bent.stamp, notes: false } };
    expect(rules(checked(factor, {}, bending)).filter((r) => r.endsWith('unstated'))).toEqual([
      'deformation unstated',
    ]);
  });
  it('finds words that are too small where they are read, or in too few pixels', () => {
    const inRoom = { ...scene, checks: { ...scene.checks, seen: 'room' as const } };
    // Capitals of 3 % of 1.25 m are 27 mm: from 6 m 15 minutes of arc.
    expect(rules(checked(inRoom))).toEqual(['small words']);
    expect(checked(inRoom)[0].says).toContain('15 of 16 minutes of arc');
    const [finding] = checked(inRoom);
    const larger = finding.mend!.edits.reduce(applyEdit, inRoom);
    expect(larger.annotations[0].size).toBe(3.2);
    expect(checked(scene, { picture: seen({ width: 400, height: 250 }) })[0].says).toContain('8 pixels');
    expect(checked(scene, { picture: null })).toEqual([]);
  });
  it('finds words that are faint, over each other, or over the model', () => {
    const faint = words({ id: 'title', words: [{ ...words({ id: 'x' }).words[0], contrast: 4.4 }] });
    expect(rules(checked(scene, { picture: seen({ words: [faint] }) }))).toEqual(['faint words']);
    const apart = words({ id: 'note', box: { x: 0.5, y: 0.5, width: 0.2, height: 0.1 } });
    const over = words({ id: 'note', box: { x: 0.2, y: 0.1, width: 0.2, height: 0.1 } });
    expect(checked(scene, { picture: seen({ words: [words({ id: 'title' }), apart] }) })).toEqual([]);
    expect(rules(checked(scene, { picture: seen({ words: [words({ id: 'title' }), over] }) }))).toEqual([
      'words over words',
    ]);
    const hiding = words({ id: 'title', overModel: 0.4 });
    expect(rules(checked(scene, { picture: seen({ words: [hiding] }) }))).toEqual(['words over the model']);
    expect(checked(scene, { picture: seen({ words: [{ ...hiding, hangs: true }] }) })).toEqual([]);
  });
  it('finds a velocity that is seen from something that turns', () => {
    const [field] = run.fields;
    const turning = { ...run, fields: [{ ...field, role: 'relative velocity' as const }] };
    expect(rules(checked(scene, {}, turning))).toEqual(['wrong frame']);
    const still = { ...run, fields: [{ ...field, role: 'velocity' as const }] };
    expect(checked(scene, {}, still)).toEqual([]);
  });
  it('finds a force that is asked along a direction with hardly anything of it', () => {
    const gauge = {
      id: 'pull',
      name: 'Pull',
      measure: 'force',
      options: { of: 'pressure', field: 'x', along: [0, 0, 1] },
      on: scene.layers[0],
      phase: null,
    } as unknown as Scene['gauges'][number];
    const asking = { ...scene, gauges: [gauge] };
    const reading = (value: number): Partial<KnownOfScene> => ({
      readings: { pull: { value, whole: [-40, 3, value], unit: 'N' } as unknown as Reading },
    });
    expect(rules(checked(asking, reading(1)))).toEqual(['small part']);
    const [{ says, mend }] = checked(asking, reading(1));
    expect(says).toContain('−x');
    expect(mend!.edits.reduce(applyEdit, asking).gauges[0].options.along).toEqual([-1, 0, 0]);
    expect(checked(asking, reading(20))).toEqual([]);
  });
  it('finds lines that are empty, too coarse, or averaged over jumps', () => {
    const { id } = scene.layers[0];
    const empty = { picture: seen({ empty: [id] }) };
    expect(rules(checked(scene, empty))).toEqual(['empty line']);
    const abrupt = { picture: seen({ abrupt: { [id]: 0.3 } }) };
    expect(rules(checked(scene, abrupt))).toEqual(['coarse cells']);
    expect(checked(scene, { picture: seen({ abrupt: { [id]: 0.05 } }) })).toEqual([]);
    const step = { id: 's', op: 'average-to-points', options: {}, off: false };
    const averaged = { ...scene, layers: [{ ...scene.layers[0], chain: [step] }] };
    expect(rules(checked(averaged, abrupt))).toEqual(['averaged jump']);
    expect(mended(averaged, abrupt)).toEqual(['coarse cells']);
  });
  it('finds axes of charts that are cut, and logarithms of zero in them', () => {
    const data = { x: [0, 10, 20], y: [0, 5, 9], along: {}, up: {} } as unknown as CurveData;
    const drawn = (look: object): Scene =>
      ({
        ...scene,
        charts: [
          { ...chart.plain, title: 'Warm-up', ...look, id: 'c', curves: [{ ...curve.plain, id: 'k' }] },
        ],
      }) as unknown as Scene;
    const curves = { curves: { k: data } };
    expect(checked(drawn({}), curves)).toEqual([]);
    expect(rules(checked(drawn({ from: 5 }), curves))).toEqual(['chart cut']);
    expect(checked(drawn({ from: 5 }), curves)[0].says).toContain('1 of 3 values');
    expect(mended(drawn({ from: 5 }), curves)).toEqual([]);
    expect(rules(checked(drawn({ logUp: true }), curves))).toEqual(['chart cut']);
  });
});

const plainPart = (): Scene['parts'][string] =>
  ({
    hidden: false,
    opacity: null,
    colour: null,
    finish: null,
    edges: null,
  }) as unknown as Scene['parts'][string];

describe('the preflight of what is made of scenes', () => {
  const film = (more: Partial<CheckedFilm>): CheckedFilm => ({
    scene,
    run,
    count: 48,
    rate: 24,
    ofReel: false,
    luminances: null,
    ...more,
  });
  const ofFilm = (more: Partial<CheckedFilm>): string[] =>
    rules(preflight({ film: film(more) }, { waived: [] }));

  it('finds too few pictures for the length of a film', () => {
    expect(ofFilm({})).toEqual([]);
    expect(ofFilm({ count: 40, rate: 8 })).toEqual(['few pictures']);
    const reel = { ...scene, reel: { ...scene.reel, seconds: 4, rate: 8 } };
    const [finding] = preflight(
      { film: film({ scene: reel, count: 32, rate: 8, ofReel: true }) },
      { waived: [] },
    ).filter((f) => f.rule === 'few pictures');
    expect(finding.mend!.edits.reduce(applyEdit, reel).reel.rate).toBe(24);
  });
  it('finds ranges that change from picture to picture, and flashes', () => {
    expect(ofFilm({ scene: withScale({ range: { kind: 'this-step' } }) })).toEqual(['flicker']);
    expect(ofFilm({ scene: withScale({ range: { kind: 'all-steps' } }) })).toEqual([]);
    const flashing = Array.from({ length: 48 }, (_, i) => (i % 6 < 3 ? 0.2 : 0.5));
    expect(ofFilm({ luminances: flashing })).toEqual(['flicker']);
    expect(ofFilm({ luminances: flashing.map((l) => 0.2 + (l - 0.2) / 4) })).toEqual([]);
  });
  it('finds figures with different ranges, and those that are out of date', () => {
    const figure = (id: string, high: number, stale = false): CheckedFigure => ({
      id,
      name: `Figure ${id}`,
      scales: [{ name: 'Temperature', quantity: 'T', unit: '°C', low: 20, high }],
      stale,
    });
    const of = (...figures: CheckedFigure[]): Finding[] => preflight({ figures }, { waived: [] });
    expect(of(figure('1', 40), figure('2', 40))).toEqual([]);
    expect(rules(of(figure('1', 40), figure('2', 41)))).toEqual(['different ranges']);
    expect(of(figure('1', 40), figure('2', 41))[0].says).toContain('20 to 41 °C');
    expect(rules(of(figure('1', 40, true)))).toEqual(['stale figure']);
  });
  it('finds files that are too large for mail', () => {
    const of = (bytes: number | null) => rules(preflight({ file: { name: 'a.png', bytes } }, { waived: [] }));
    expect(of(null)).toEqual([]);
    expect(of(10_000_000)).toEqual([]);
    expect(of(10_000_001)).toEqual(['large for mail']);
  });
  it.each([
    ['as /home/maria/runs/oven says', '/home/maria/runs/oven'],
    ['C:\\Users\\maria\\oven.vtu', 'C:\\Users\\maria\\oven.vtu'],
    ['on \\\\store\\ovens', '\\\\store\\ovens'],
    ['ask maria@oven.example', 'maria@oven.example'],
    ['from 192.168.0.12', '192.168.0.12'],
    ['Project NIGHTLOAF, second run', 'NIGHTLOAF'],
  ])('finds what should not leave the house in “%s”', (text, leaked) => {
    const title = { ...scene.annotations[0], text };
    const careful = { ...scene, annotations: [title], checks: { ...scene.checks, inHouse: ['Nightloaf'] } };
    const found = checked(careful, { picture: null });
    expect(rules(found)).toEqual(['leak']);
    expect(found[0].says).toContain(`“${leaked}”`);
  });
  it('leaves usual texts alone', () => {
    const text = 'Air at 1/2 load, 12.5 m/s and/or https://oven.example/a/home; p = 1.0.2, a@b';
    expect(
      checked({ ...scene, annotations: [{ ...scene.annotations[0], text }] }, { picture: null }),
    ).toEqual([]);
  });
});

describe('what is meant to be so', () => {
  it('is known by its rule and what it is of, comes last, and goes with the script of a scene', () => {
    const waived = [{ rule: 'no title', of: 'the picture', reason: 'the slide has "one"' }];
    const checks = { seen: 'paper' as const, inHouse: ['Nightloaf'], waived };
    const quiet = { ...scene, annotations: [], checks };
    const found = checked(quiet, { picture: null });
    expect(found.map((f) => f.waived)).toEqual(['the slide has "one"']);
    expect(openFindings(found)).toEqual([]);
    const bare = { ...quiet, legends: { ...scene.legends, shown: false } };
    expect(rules(checked(bare, { picture: null }))).toEqual(['no legend', 'no title']);
    const script = writeScript(quiet, run);
    expect(script).toContain(
      'Checked on paper, "Nightloaf" stays in the house, "no title" of "the picture" waived',
    );
    expect(readScript(script, run).checks).toEqual(checks);
  });
});
