import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { withOfferedQuantities } from '../fields/quantity-sources.ts';
import { speak } from '../language/sentence.ts';
import type { Levels } from '../model/levels.ts';
import { newStep, withStepIds } from '../ops/chain/step.ts';
import { operations } from '../ops/registry.ts';
import { defaultScene, newScale } from './default-scene.ts';
import type { Layer, Scene } from './document.ts';
import { layerSentence } from './layer-sentence.ts';
import { freshLayer, readLayer } from './read-layer.ts';
import { settingOf } from './setting.ts';

const setUp = async () => {
  const run = withOfferedQuantities(await ovenRun());
  const scene = defaultScene(run);
  const read = (text: string, before: Layer | null = null) => readLayer(text, scene, run, before, 'new');
  return { run, scene, read };
};

const exact = (layer: Layer, scene: Scene, run: Parameters<typeof layerSentence>[2]): string =>
  speak(layerSentence(layer, scene, run, 'exact'));

describe('typed sentences', () => {
  it('may leave out what an operation says where another follows', async () => {
    const { run, scene, read } = await setUp();
    for (const [text, full] of [
      ['section of oven, its edges', 'Section of oven at x = 0.5 m, its edges'],
      ['clip of oven, its crease lines', 'Clip of oven to x > 0.5 m, its crease lines beyond 35°'],
    ]) {
      const found = read(text);
      expect('layer' in found ? exact(found.layer, scene, run) : found).toMatch(new RegExp(`^${full}`));
    }
  });
  it('are understood with and without source, colour and unit', async () => {
    const { read } = await setUp();
    for (const [text, chain] of [
      [
        'Section of oven at z = 0.4 m, coloured by temperature on Heat',
        [{ op: 'section', options: { offset: 0.4 } }],
      ],
      ['section at x = 40 cm', [{ op: 'section', options: { offset: 0.4, normal: [1, 0, 0] } }]],
      [
        'isosurface of temperature at 25 °C',
        [{ op: 'isosurface', options: { levels: { kind: 'list', values: [25] } } }],
      ],
      [
        'Isosurface of oven where temperature = 20, 22 and 24 °C, in copper',
        [{ op: 'isosurface', options: { levels: { kind: 'list', values: [20, 22, 24] } } }],
      ],
      [
        'Clip of everything to x > 0.5 m, its contour lines of temperature at 4 levels from 20 °C to 30 °C, at 40 % opacity',
        [
          { op: 'clip' },
          { op: 'contour-lines', options: { levels: { kind: 'count', count: 4, low: 22, high: 28 } } },
        ],
      ],
      ['Surface of oven', []],
    ] as const) {
      const found = read(text);
      expect('layer' in found ? null : { text, ...found }).toBeNull();
      if ('layer' in found) expect(found.layer.chain).toMatchObject(chain);
    }
  });

  it('say where they are not understood, and what would be', async () => {
    const { read } = await setUp();
    for (const [text, at, wanted] of [
      ['Melting of oven', 0, 'Section of'],
      ['Section of kitchen at z = 1', 11, 'oven'],
      ['Section of oven at w = 1', 19, 'x'],
      ['Isosurface of oven where pressure = 1', 25, 'temperature'],
      ['Surface of oven, coloured by temperature on Ultraviolet', 44, 'Heat'],
    ] as const) {
      const found = read(text);
      expect('at' in found && found.at).toBe(at);
      expect('at' in found && found.expected).toContain(wanted);
    }
  });

  it('say when a set by values is looked at', async () => {
    const { run, scene } = await setUp();
    const rule = { kind: 'range', field: 'point:temperature', component: 0, low: 20, high: 30 } as const;
    const says = (when: 'each step' | number) => {
      const sets = [{ name: 'hot', rule: { kind: 'complement' as const, of: [{ ...rule, when }] } }];
      return speak(layerSentence({ ...freshLayer(run, 'a'), set: 'hot' }, { ...scene, sets }, run));
    };
    expect(says(2)).toBe('Surface of the set hot (as at step 3), in stone');
    expect(says('each step')).toBe('Surface of the set hot (anew at each step), in stone');
  });

  it('edited in place keep what they do not mention', async () => {
    const { run, scene, read } = await setUp();
    const layer: Layer = {
      ...scene.layers[0],
      chain: [
        {
          id: 'cut',
          op: 'section',
          options: { ...operations.find((o) => o.id === 'section')!.defaults(settingOf(run)), radius: 0.123 },
          off: false,
        },
      ],
    };
    const found = read(exact(layer, scene, run).replace(/at \w = [\d.]+ m/, 'at y = 0.25 m'), layer);
    expect('layer' in found && found.layer).toMatchObject({
      id: layer.id,
      chain: [{ options: { normal: [0, 1, 0], offset: 0.25, radius: 0.123 } }],
    });
  });

  it('read back to the same layer, for every operation and random options', async () => {
    const { run, scene } = await setUp();
    const second = { ...newScale(run.fields[0], 0, 'scale-b', 'b'), map: 'viridis' };
    const both: Scene = {
      ...scene,
      scales: [...scene.scales, second],
      layers: [...scene.layers, { ...freshLayer(run, 'other'), name: 'Cut' }],
      sets: [{ name: 'hot zone', rule: { kind: 'parts', parts: ['oven'] } }],
    };
    const setting = settingOf(run);
    const number = fc.double({ min: -1e3, max: 1e3, noNaN: true }).map((v) => Number(v.toPrecision(6)) + 0);
    const count = fc.integer({ min: 1, max: 200 });
    const levels: fc.Arbitrary<Levels> = fc.oneof(
      fc.record({
        kind: fc.constant('list' as const),
        values: fc.array(number, { minLength: 1, maxLength: 4 }),
      }),
      fc.record({
        kind: fc.constantFrom('count' as const, 'log' as const),
        count,
        low: number,
        high: number,
      }),
      fc.record({
        kind: fc.constantFrom('count' as const, 'log' as const),
        count,
        low: fc.constant(null),
        high: fc.constant(null),
      }),
      fc.record({ kind: fc.constant('share' as const), count }),
      fc.constant({ kind: 'scale' as const }),
    );
    const steps = fc
      .constantFrom(...operations)
      .chain((operation) =>
        fc.tuple(
          fc.constant(operation),
          fc.record(
            Object.fromEntries(
              Object.entries(operation.defaults(setting) as Record<string, unknown>).map(([key, value]) => [
                key,
                typeof value === 'boolean' ? fc.boolean() : key === 'levels' ? levels : fc.constant(value),
              ]),
            ),
          ),
          number,
          fc.boolean(),
        ),
      );
    const kept = (operation: (typeof operations)[number], options: Record<string, unknown>, v: number) => {
      const out: Record<string, unknown> = { ...options };
      // Only what the sentence mentions can be read back.
      if ('shape' in out && 'value' in out && v > 0) Object.assign(out, { shape: 'value', value: v });
      else if ('seeds' in out)
        Object.assign(out, v > 0 ? { seeds: 'grid', offset: v } : { seeds: 'line', lift: v });
      else for (const key of ['offset', 'distance']) if (key in out) out[key] = v;
      if ('sweep' in out) Object.assign(out, v > 0 ? { sweep: v / 2 } : { sweep: null, back: false });
      return operation.schema.safeParse(out).success ? out : options;
    };
    fc.assert(
      fc.property(
        fc.array(steps, { minLength: 0, maxLength: 3 }),
        fc.record({
          opacity: fc.constantFrom(1, 0.4, 0.05),
          sides: fc.constantFrom('both' as const, 'inside' as const),
          visible: fc.boolean(),
          name: fc.constantFrom(null, 'Hot side'),
          time: fc.constantFrom(
            { kind: 'now' as const },
            { kind: 'fixed' as const, step: 2 },
            { kind: 'later' as const, by: -1 },
          ),
          source: fc.constantFrom(
            { parts: null, set: null, from: null },
            { parts: ['oven'] as string[], set: null, from: null },
            { parts: null, set: 'hot zone', from: null },
            { parts: null, set: null, from: 'other' },
          ),
          colour: fc.constantFrom(
            { kind: 'plain' as const, colour: '#b4733f' },
            { kind: 'plain' as const, colour: '#123456' },
            {
              kind: 'field' as const,
              field: run.fields[0].key,
              component: 0 as const,
              scale: both.scales[0].id,
            },
            { kind: 'field' as const, field: run.fields[0].key, component: 0 as const, scale: 'scale-b' },
          ),
          shown: fc.boolean(),
        }),
        (chain, { source, shown, ...look }) => {
          const layer: Layer = {
            ...freshLayer(run, 'new'),
            ...look,
            ...source,
            edges: { shown, colour: '#26241f', opacity: 0.45, by: null },
            chain: withStepIds(
              chain.map(([operation, options, v, off]) => ({
                ...newStep(operation, kept(operation, options, v)),
                off,
              })),
            ),
          };
          if (layer.chain.length === 1 && layer.chain[0].op === 'surface') return;
          const text = exact(layer, both, run);
          const found = readLayer(text, both, run, null, 'new');
          expect('layer' in found ? found.layer : { text, ...found }).toEqual(layer);
        },
      ),
      { seed: 11, numRuns: 300 },
    );
  });
});
