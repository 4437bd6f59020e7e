import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { CompiledScale } from '../colour/compiled-scale.ts';
import { colourMaps } from '../colour/maps/registry.ts';
import { type Spread, spreadOfTriangles } from '../colour/spread.ts';
import { speak } from '../language/sentence.ts';
import { SentenceReader } from '../language/sentence-reader.ts';
import type { RunDescription, RunField } from '../model/run.ts';
import { defaultScene, newScale } from './default-scene.ts';
import type { Scale, Scene } from './document.ts';
import { readScene } from './document.ts';
import { explainSentence } from './explain-sentence.ts';
import { layerSentence } from './layer-sentence.ts';
import { mapForQuantity, roleOfMap } from './map-for-quantity.ts';
import { readLayer } from './read-layer.ts';
import { innerLevels, levelAt, withLevel, withLevelMoved, withoutLevel } from './scale-levels.ts';
import { readScript, writeScript } from './scene-script.ts';
import { settingOf } from './setting.ts';
import { settleScale, unitsOfScale } from './settle-scale.ts';
import { withoutUnusedScales } from './shown-scales.ts';
import { snapWords } from './snap-words.ts';
import { spreadOfScale } from './spread-of-scale.ts';
import { partLook } from './things/part-look.ts';
import { scale as scaleThing } from './things/scale.ts';

let run: RunDescription;
let scene: Scene;
let scale: Scale;
beforeAll(async () => {
  // Temperatures from 20 to 46 °C over three steps.
  run = await ovenRun();
  scene = defaultScene(run);
  scale = { ...scene.scales[0], range: { kind: 'all-steps' } };
});

/** A square on which the value rises straight from one number to another. */
const rising = (from: number, to: number): Spread =>
  spreadOfTriangles([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0], [0, 1, 2, 0, 2, 3], [from, to, to, from]);
const settled = (more: Partial<Scale>, spread: Spread | null = null): CompiledScale =>
  settleScale({ ...scale, ...more }, run, 1, spread);
const ends = (made: CompiledScale): number[] => [made.low, made.high];

describe('the range of a scale', () => {
  it('is that of what is shown, and of the step until that is known', () => {
    const step = ends(settled({ range: { kind: 'this-step' } }));
    expect(ends(settled({ range: { kind: 'shown' } }))).toEqual(step);
    expect(ends(settled({ range: { kind: 'shown' } }, rising(25, 31)))).toEqual([25, 31]);
  });
  it('is made symmetric about a value, and round', () => {
    const fixed = { range: { kind: 'fixed', low: -3, high: 11 } } as const;
    expect(ends(settled({ ...fixed, symmetric: 0 }))).toEqual([-11, 11]);
    expect(ends(settled({ ...fixed, symmetric: 10 }))).toEqual([-3, 23]);
    expect(ends(settled({ range: { kind: 'fixed', low: 30.006, high: 182.57 }, tidy: true }))).toEqual([
      20, 200,
    ]);
    const log = { spacing: { kind: 'log' } } as const;
    expect(ends(settled({ ...log, range: { kind: 'fixed', low: 0.03, high: 47 }, tidy: true }))).toEqual([
      0.01, 100,
    ]);
  });
  it('is round in the unit it is shown in', () => {
    const kelvin = { unit: 'K', tidy: true, range: { kind: 'fixed', low: 21, high: 118 } } as const;
    const made = settled(kelvin);
    expect([made.low, made.high].map((v) => made.shownNumber(v))).toEqual([290, 400]);
    expect(unitsOfScale({ ...scale, unit: 'K' }, run)).toEqual({ stored: '°C', shown: 'K' });
    expect(unitsOfScale({ ...scale, unit: 'Pa' }, run).shown).toBe('°C');
  });
  it('of a logarithm begins above zero, and is even where nothing lies there', () => {
    const log = { spacing: { kind: 'log' } } as const;
    expect(ends(settled({ ...log, range: { kind: 'fixed', low: -2, high: 50 } }))).toEqual([0.005, 50]);
    expect(ends(settled({ ...log, range: { kind: 'fixed', low: 0, high: 50 } }, rising(2, 50)))).toEqual([
      2, 50,
    ]);
    expect(settled({ ...log, range: { kind: 'fixed', low: -9, high: -1 } }).spacing.kind).toBe('linear');
  });
  it('hides from its own ends on where that is asked', () => {
    const made = settled({ range: { kind: 'fixed', low: 22, high: 40 }, shownFrom: 'range', shownTo: 45 });
    expect([21, 22, 45, 46].map((v) => made.hides(v))).toEqual([true, false, false, true]);
  });
});

describe('a scale in the sentence of a line', () => {
  const read = (text: string, more: Partial<Scene> = {}) =>
    readLayer(text, { ...scene, ...more }, run, null, 'new');
  const scaleIn = (text: string, more: Partial<Scene> = {}): Scale => {
    const found = read(text, more);
    if (!('layer' in found))
      throw new Error(`not read: ${text} at ${found.at}: ${found.expected.slice(0, 5)}`);
    const id = found.layer.colour.kind === 'field' ? found.layer.colour.scale : '';
    return found.scale ?? scene.scales.find((s) => s.id === id)!;
  };
  const begin = 'Section at z = 0.5 m, coloured by temperature';
  it.each([
    [
      `${begin} from 20 to 200 °C in 18 bands on Heat, reversed, hidden above 180 °C`,
      {
        range: { kind: 'fixed', low: 20, high: 200 },
        bands: { kind: 'count', count: 18 },
        map: 'heat',
        reversed: true,
        shownTo: 180,
      },
    ],
    [
      `${begin} from 300 to 400 K`,
      { range: { kind: 'fixed', low: expect.closeTo(26.85, 9), high: expect.closeTo(126.85, 9) } },
    ],
    [`${begin} on Viridis over this step`, { map: 'viridis', range: { kind: 'this-step' } }],
    [`${begin} over what is shown, to round numbers`, { range: { kind: 'shown' }, tidy: true }],
    [
      `${begin} over the middle 90 %, symmetric about 30 °C`,
      { range: { kind: 'middle', share: 0.9 }, symmetric: 30 },
    ],
    [`${begin} by logarithm`, { spacing: { kind: 'log' } }],
    [`${begin} by logarithm through zero from 0.5 °C`, { spacing: { kind: 'symlog', linear: 0.5 } }],
    [
      `${begin} in bands every 20 °C with lines at levels`,
      { bands: { kind: 'every', step: 20 }, lines: { shown: true } },
    ],
    [`${begin} in bands at 25, 30 and 35 °C`, { bands: { kind: 'list', values: [25, 30, 35] } }],
    [`${begin} in 5 bands of equal shares`, { bands: { kind: 'share', count: 5 } }],
    [
      `${begin}, below in #112233, above in #445566, missing hidden`,
      { below: '#112233', above: '#445566', missing: 'hidden' },
    ],
    [`${begin}, hidden below its range, hidden above 40 °C`, { shownFrom: 'range', shownTo: 40 }],
    [`${begin}, shown in K, with 2 decimals`, { unit: 'K', numbers: { kind: 'decimals', count: 2 } }],
    [`${begin} on Dial, turned by 25 %`, { map: 'dial', rotate: 0.25 }],
    [`${begin} using 10 % to 90 % of its colours`, { crop: [0.1, 0.9] }],
    [
      `${begin} naming 20 "cold" 40 "hot" in #aa2211`,
      {
        categories: [
          { value: 20, name: 'cold', colour: null },
          { value: 40, name: 'hot', colour: '#aa2211' },
        ],
      },
    ],
  ])('is read: %s', (text, expected) => {
    expect(scaleIn(text)).toMatchObject(expected);
  });
  it('goes with everything else that is said of the line, in any order', () => {
    const found = read(`${begin} in 6 bands, at 50 % opacity, reversed, with edges, hidden above 40 °C`);
    expect(found).toMatchObject({
      layer: { opacity: 0.5, edges: { shown: true } },
      scale: { bands: { count: 6 }, reversed: true, shownTo: 40 },
    });
    expect(read(`${begin}, hidden`)).toMatchObject({ layer: { visible: false } });
  });
  it('is shared where there is one as it says, and new where there is none', () => {
    expect(read(begin)).toMatchObject({ layer: { colour: { scale: scene.scales[0].id } }, scale: null });
    const banded = {
      ...scene.scales[0],
      id: 'banded',
      bands: { kind: 'count', count: 6, low: null, high: null },
    } as Scale;
    const two = { scales: [...scene.scales, banded] };
    expect(read(`${begin} in 6 bands`, two)).toMatchObject({
      layer: { colour: { scale: 'banded' } },
      scale: null,
    });
    expect(read(`${begin} in 7 bands`, two)).toMatchObject({ scale: { bands: { count: 7 } } });
  });
  it('keeps what is not said when a line is edited', () => {
    const own = { ...scene.scales[0], reversed: true };
    const before = { ...scene, scales: [own] };
    const found = readLayer(`${begin} in 4 bands`, before, run, scene.layers[0], 'x');
    expect(found).toMatchObject({ scale: { reversed: true, bands: { count: 4 } } });
  });
  it('takes “in” for inches only where it is a unit', () => {
    const bare = { ...run, fields: run.fields.map((f) => ({ ...f, unit: null })) };
    for (const at of [bare, { ...run, fields: run.fields.map((f) => ({ ...f, unit: 'm' })) }])
      expect(readLayer(`${begin} from 0 to 2 in 18 bands`, scene, at, null, 'n')).toMatchObject({
        scale: { range: { low: 0, high: 2 }, bands: { count: 18 } },
      });
    const metres = { ...run, fields: run.fields.map((f) => ({ ...f, unit: 'm' })) };
    expect(readLayer(`${begin} from 0 in to 2 in`, scene, metres, null, 'n')).toMatchObject({
      scale: { range: { low: 0, high: 0.0508 } },
    });
  });
  it('is told in full where a line stands alone, and read back so', () => {
    const { understood, ...told } = explainSentence(
      `${begin} from 20 to 40 in 6 bands on Steam, hidden above 35`,
      scene,
      run,
    );
    expect(understood).toBe(true);
    const { sentence } = told as { sentence: string };
    expect(sentence).toMatch(/on Steam, from 20 to 40 °C, in 6 bands, hidden above 35 °C$/);
    expect(scaleIn(sentence)).toMatchObject({ map: 'steam', bands: { count: 6 }, shownTo: 35 });
    // A script says its scales on lines of their own.
    const [layer] = scene.layers;
    const fixed: Scene = { ...scene, scales: [{ ...scale, range: { kind: 'fixed', low: 1, high: 9 } }] };
    expect(speak(layerSentence(layer, fixed, run, 'exact'))).not.toContain('from 1');
    expect(speak(layerSentence(layer, fixed, run, 'typed'))).toContain('from 1 to 9 °C');
    expect(speak(layerSentence(layer, fixed, run))).not.toContain('from 1');
  });
  it('says where it is not understood', () => {
    const found = read(`${begin} from 20 to lunch`);
    expect('at' in found && found.expected.join()).toMatch(/number/);
  });
});

describe('edges that borrow a scale', () => {
  it('are said, read and kept', () => {
    const [layer] = scene.layers;
    const by = { field: 'point:temperature', component: 0, scale: scene.scales[0].id };
    const edged = {
      ...layer,
      colour: { kind: 'plain', colour: '#d8d2c8' },
      edges: { ...layer.edges, shown: true, by },
    } as typeof layer;
    const text = speak(layerSentence(edged, scene, run, 'exact'));
    expect(text).toContain('with edges by temperature on scale 1');
    expect(readLayer(text, scene, run, null, layer.id)).toMatchObject({
      layer: { edges: { shown: true, by } },
    });
    expect(withoutUnusedScales({ ...scene, layers: [edged] }).scales).toHaveLength(1);
    expect(withoutUnusedScales({ ...scene, layers: [{ ...edged, edges: layer.edges }] }).scales).toHaveLength(
      0,
    );
  });
});

describe('a scale in full', () => {
  const number = fc.double({ min: -1e4, max: 1e4, noNaN: true }).map((v) => Number(v.toPrecision(6)));
  const hex = fc.integer({ min: 0, max: 0xffffff }).map((v) => `#${v.toString(16).padStart(6, '0')}`);
  const share = fc.integer({ min: 0, max: 100 }).map((v) => v / 100);
  const states: fc.Arbitrary<Partial<Scale>> = fc.record(
    {
      map: fc.oneof(
        fc.constantFrom(...colourMaps.map((m) => m.id)),
        fc.record({
          name: fc.constantFrom('Rye', 'Oat, own'),
          space: fc.constantFrom('oklab' as const, 'lab' as const, 'screen' as const, 'none' as const),
          stops: fc.array(fc.record({ at: share, colour: hex }), { minLength: 1, maxLength: 4 }),
        }),
      ),
      reversed: fc.boolean(),
      crop: fc.tuple(share, share),
      rotate: share,
      spacing: fc.oneof(
        fc.constant({ kind: 'log' as const }),
        fc.integer({ min: 1, max: 99 }).map((linear) => ({ kind: 'symlog' as const, linear })),
      ),
      bands: fc.oneof(
        fc
          .integer({ min: 1, max: 256 })
          .map((count) => ({ kind: 'count' as const, count, low: null, high: null })),
        fc.integer({ min: 1, max: 90 }).map((step) => ({ kind: 'every' as const, step })),
        fc.array(number, { minLength: 1, maxLength: 4 }).map((values) => ({ kind: 'list' as const, values })),
      ),
      range: fc.oneof(
        fc.constant({ kind: 'shown' as const }),
        fc
          .tuple(number, number)
          .map(([a, b]) => ({ kind: 'fixed' as const, low: Math.min(a, b), high: Math.max(a, b) })),
      ),
      symmetric: number,
      tidy: fc.boolean(),
      below: hex,
      above: hex,
      shownFrom: fc.oneof(number, fc.constant('range' as const)),
      shownTo: fc.oneof(number, fc.constant('range' as const)),
      missing: fc.oneof(hex, fc.constant('hidden')),
      lines: fc.record({ shown: fc.boolean(), colour: hex, width: fc.constantFrom(0.5, 1, 3) }),
      opacity: fc.array(fc.tuple(share, share), { minLength: 1, maxLength: 3 }),
      categories: fc.array(
        fc.record({ value: number, name: fc.constantFrom('tin', 'crust 2', ''), colour: fc.option(hex) }),
        {
          minLength: 1,
          maxLength: 3,
        },
      ),
      unit: fc.constantFrom('K', '°F', 'N m'),
      numbers: fc.record({
        kind: fc.constantFrom('decimals' as const, 'digits' as const, 'powers' as const),
        count: fc.integer({ min: 0, max: 12 }),
      }),
    },
    { requiredKeys: [] },
  );
  it('is said and read back, whatever it is', () => {
    const setting = { ...settingOf(run, scene), exact: true };
    fc.assert(
      fc.property(states, (change) => {
        const made: Scale = { ...scaleThing.plain, quantity: scale.quantity, name: 'Warmth', ...change };
        expect(scaleThing.schema.safeParse(made).success).toBe(true);
        const text = speak(scaleThing.phrase.say(made, setting)!);
        const reader = new SentenceReader(text);
        const found: Partial<Scale> = {};
        expect(scaleThing.phrase.read(reader, found, setting) && reader.done, text).toBe(true);
        expect({ ...scaleThing.plain, ...found }, text).toEqual(made);
      }),
      { numRuns: 300 },
    );
  });
  it('comes back from a script and from a document of an earlier form', () => {
    const changed: Scene = {
      ...scene,
      scales: [{ ...scale, bands: { kind: 'every', step: 5 }, shownTo: 40, unit: 'K' }],
    };
    expect(readScript(writeScript(changed, run), run).scales[0]).toMatchObject({ shownTo: 40, unit: 'K' });
    const { id, name, quantity, map, reversed, bands, range } = scale;
    const { visible, title, upright, x, y } = scale.legend;
    const old = {
      id,
      name,
      quantity,
      map,
      reversed,
      bands,
      range,
      legend: { visible, title, upright, x, y },
    };
    const { forms: _, ...earlier } = scene;
    const edges = { shown: false, colour: '#26241f', opacity: 0.45 };
    const layers = scene.layers.map((l) => ({ ...l, edges }));
    expect(readScene({ ...earlier, scales: [old], layers }).scales[0]).toEqual(scale);
  });
});

describe('levels by hand', () => {
  const banded = CompiledScale.of({
    map: 'heat',
    reversed: false,
    bands: { kind: 'count', count: 4, low: null, high: null },
    low: 0,
    high: 100,
  });
  const smooth = CompiledScale.of({ map: 'heat', reversed: false, bands: null, low: 0, high: 100 });
  it('are added, moved and removed', () => {
    expect(innerLevels(banded)).toEqual([25, 50, 75]);
    expect(innerLevels(smooth)).toEqual([]);
    expect(withLevel(smooth, 40)).toEqual({ kind: 'list', values: [40] });
    expect(withLevel(banded, 60)).toEqual({ kind: 'list', values: [25, 50, 60, 75] });
    expect(withLevelMoved(banded, 1, 55)).toEqual({ kind: 'list', values: [25, 55, 75] });
    expect(withoutLevel(banded, 0)).toEqual({ kind: 'list', values: [50, 75] });
    const one = CompiledScale.of({ ...banded.colours, bands: { kind: 'list', values: [40] } });
    expect(withoutLevel(one, 0)).toBeNull();
  });
  it('are numbers one would type', () => {
    expect(levelAt(smooth, 0.36789)).toBe(36.8);
    const kelvin = CompiledScale.of({ ...smooth.colours, unit: { factor: 1, shift: 273.15 } });
    expect(kelvin.shownNumber(levelAt(kelvin, 0.36789))).toBe(309.9);
  });
});

describe('maps for quantities', () => {
  const stats = (min: number, max: number) => ({
    components: [{ min, max, sum: 0, count: 2 }],
    magnitude: null,
  });
  const field = (name: string, role: RunField['role'], min = 0, max = 1) =>
    ({
      key: `point:${name}`,
      name,
      role,
      components: 1,
      overall: stats(min, max),
      perStep: [],
    }) as unknown as RunField;
  it.each([
    ['temperature', 'temperature', -5, 200, 'temperature', 'heat'],
    ['salinity', 'other', 0, 35, 'salt', 'brine'],
    ['p', 'pressure', 1e5, 2e5, 'pressure', 'viridis'],
    ['Ez', 'other', -3, 3.1, 'signed', 'frost-fire'],
    ['heading', 'other', 0, 360, 'phase', 'dial'],
    ['material', 'identifier', 1, 4, 'id', 'told-apart'],
    ['node id', 'identifier', 1, 4000, 'id', 'viridis'],
    ['loss', 'other', 0, 9, null, 'viridis'],
  ] as const)('%s (%s) from %d to %d suits %s: %s', (name, role, min, max, suits, map) => {
    expect(roleOfMap(field(name, role, min, max), 0)).toBe(suits);
    expect(mapForQuantity(field(name, role, min, max), 0)).toBe(map);
  });
  it('give numbers that stand for something names, where they are few', () => {
    const made = newScale(field('material', 'identifier', 1, 3), 0, 's', 'material');
    expect(made.categories?.map((c) => c.name)).toEqual(['1', '2', '3']);
    expect(newScale(field('x', 'identifier', 0.5, 3), 0, 's', 'x').categories).toBeNull();
  });
});

it('what uses a scale is told together; parts with colours of their own do not count', () => {
  const [layer] = scene.layers;
  const shown = [
    { layer: layer.id, part: 'a', spread: rising(0, 10) },
    { layer: layer.id, part: 'b', spread: rising(5, 20) },
    { layer: 'gone', part: 'a', spread: rising(-99, 99) },
  ];
  expect(spreadOfScale(scale, scene, shown)).toMatchObject({ low: 0, high: 20 });
  const own = {
    ...scene,
    parts: { b: { ...partLook.plain, colour: '#112233' } },
  };
  expect(spreadOfScale(scale, own, shown)).toMatchObject({ low: 0, high: 10 });
});

describe('what is dragged on a picture', () => {
  const picture = { width: 800, height: 600 };
  const box = { x: 100, y: 100, width: 60, height: 150 };
  it('snaps to the nearest line of the picture and of others', () => {
    expect(snapWords({ ...box, x: 14 }, [], picture, 12, 6)).toMatchObject({ dx: -2, across: 12 });
    expect(snapWords({ ...box, x: 372 }, [], picture, 12, 6)).toMatchObject({ dx: -2, across: 400 });
    const other = { x: 500, y: 103, width: 50, height: 90 };
    expect(snapWords(box, [other], picture, 12, 6)).toMatchObject({ dy: 3, down: 103, dx: 0, across: null });
    expect(snapWords(box, [other], picture, 12, 2)).toEqual({ dx: 0, dy: 0, across: null, down: null });
  });
});

describe('everyday words for a scale', () => {
  const begin = 'section at z = 0.5, coloured by temperature';
  it.each([
    [
      `${begin} between 20 and 40 with 8 levels`,
      { range: { kind: 'fixed', low: 20, high: 40 }, bands: { count: 8 } },
    ],
    [`${begin} on a log scale`, { spacing: { kind: 'log' } }],
    [`${begin} using the viridis colour map, flipped`, { map: 'viridis', reversed: true }],
    [`${begin}, hide values above 40`, { shownTo: 40 }],
    [`${begin} without the outliers`, { range: { kind: 'middle', share: 0.98 } }],
  ])('is understood: %s', (text, expected) => {
    const found = readLayer(text, scene, run, null, 'new');
    expect(found).toMatchObject({ scale: expected });
  });
});
