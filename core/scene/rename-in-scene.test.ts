import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { newStep } from '../ops/chain/step.ts';
import { operationById } from '../ops/registry.ts';
import { sceneMismatches } from './apply-scene.ts';
import { defaultScene } from './default-scene.ts';
import { readScene, type Scene } from './document.ts';
import { lackingIn } from './likely-names.ts';
import { inverseOf, renameInScene } from './rename-in-scene.ts';
import { settingOf } from './setting.ts';
import { partLook } from './things/part-look.ts';

let run: RunDescription;
let scene: Scene;

/** A scene that asks for the temperature and the oven in every way a scene can. */
beforeAll(async () => {
  run = await ovenRun();
  const plain = defaultScene(run);
  const step = (op: string, options: object) => ({
    ...newStep(operationById(op), {
      ...(operationById(op).defaults(settingOf(run, plain)) as object),
      ...options,
    }),
    id: op,
  });
  scene = readScene({
    ...plain,
    layers: [
      {
        ...plain.layers[0],
        parts: ['oven'],
        chain: [
          step('isosurface', { field: 'point:temperature' }),
          step('keep-where', { condition: 'temperature > 30 and x.temperature < 4 and temperatures(2) > 0' }),
        ],
      },
    ],
    sets: [
      {
        name: 'hot',
        rule: { kind: 'range', field: 'point:temperature', component: 0, low: 0, high: 9, when: 1 },
      },
      {
        name: 'both',
        rule: {
          kind: 'union',
          of: [
            { kind: 'parts', parts: ['oven'] },
            { kind: 'cells', cells: { oven: [1, 2] } },
            { kind: 'condition', condition: 'temperature > 20', when: 'each step' },
          ],
        },
      },
    ],
    parts: { oven: { ...partLook.plain, hidden: true } },
  });
});

const renames = { fields: { 'point:temperature': 'cell:Temp' }, parts: { oven: 'chamber' } };

describe('other names for what a scene asks for', () => {
  it('stand in lines, scales, sets and looks, in conditions by the names alone', () => {
    const [layer] = renameInScene(scene, renames).layers;
    const { sets, scales, parts } = renameInScene(scene, renames);
    expect(layer.parts).toEqual(['chamber']);
    expect(layer.colour).toMatchObject({ field: 'cell:Temp' });
    expect(layer.chain[0].options).toMatchObject({ field: 'cell:Temp' });
    expect((layer.chain[1].options as { condition: string }).condition).toBe(
      'Temp > 30 and x.temperature < 4 and temperatures(2) > 0',
    );
    expect(scales.map((s) => s.quantity)).toEqual(['cell:Temp#0']);
    expect(sets[0].rule).toMatchObject({ field: 'cell:Temp' });
    expect(sets[1].rule).toMatchObject({
      of: [{ parts: ['chamber'] }, { cells: { chamber: [1, 2] } }, { condition: 'Temp > 20' }],
    });
    expect(Object.keys(parts)).toEqual(['chamber']);
  });
  it('are taken back by their inverse, and two may change places', () => {
    expect(renameInScene(renameInScene(scene, renames), inverseOf(renames))).toEqual(scene);
    const crossed = { fields: { 'point:a': 'point:b', 'point:b': 'point:a' }, parts: {} };
    const [layer] = scene.layers;
    const chain = [{ ...layer.chain[0], options: { field: 'point:a', other: 'point:b' } }];
    const both = { ...scene, layers: [{ ...layer, chain }], scales: [] };
    expect(renameInScene(both, crossed).layers[0].chain[0].options).toEqual({
      field: 'point:b',
      other: 'point:a',
    });
  });
  it('leave nothing missing in the run they were made for', () => {
    const other: RunDescription = {
      ...run,
      fields: run.fields.map((f) => ({ ...f, key: 'cell:Temp', name: 'Temp', location: 'cell' as const })),
      parts: run.parts.map((p) => ({ ...p, name: 'chamber' })),
    };
    expect(sceneMismatches(scene, other).length).toBeGreaterThan(0);
    expect(sceneMismatches(renameInScene(scene, renames), other)).toEqual([]);
  });
});

describe('what is likely meant in another run', () => {
  const called = (...fields: [string, string][]): RunDescription => ({
    ...run,
    fields: fields.map(([name, role]) => ({
      ...run.fields[0],
      key: `point:${name}`,
      name,
      role: role as RunDescription['fields'][0]['role'],
    })),
  });
  const likely = (other: RunDescription): (string | null)[] =>
    lackingIn([scene], run, other).map((l) => l.likely);
  it('is the same name in other letters, before what means the same', () => {
    expect(likely(called(['T', 'temperature'], ['TEMPERATURE', 'other']))).toEqual(['point:TEMPERATURE']);
    expect(likely(called(['p', 'pressure'], ['T', 'temperature']))).toEqual(['point:T']);
  });
  it('is nothing where nothing is alike, and nothing is asked where nothing is missing', () => {
    expect(likely(called(['p', 'pressure']))).toEqual([null]);
    expect(lackingIn([scene], run, run)).toEqual([]);
  });
  it('offers only fields of as many components', () => {
    const other = called(['T', 'temperature'], ['U', 'velocity']);
    other.fields[1].components = 3;
    expect(lackingIn([scene], run, other)[0].offered.map((o) => o.name)).toEqual(['T']);
  });
  it('asks for parts by the names scenes use', () => {
    const other = { ...run, parts: run.parts.map((p) => ({ ...p, name: 'Oven 1' })) };
    expect(lackingIn([scene], run, other)).toMatchObject([{ kind: 'part', asked: 'oven', likely: 'Oven 1' }]);
  });
});

describe('what is likely meant by a name that is gone', () => {
  const field = (name: string, components: number, role: string, location = 'point') =>
    ({
      ...run.fields[0],
      key: `${location}:${name}`,
      name,
      components,
      role,
      location,
    }) as (typeof run.fields)[0];
  const likely = (
    before: ReturnType<typeof field>[],
    after: ReturnType<typeof field>[],
  ): (string | null)[] => {
    const quantity = (f: (typeof before)[0]) => ({ ...scene.scales[0], quantity: `${f.key}#0` });
    const layers = before.map((f) => ({
      ...scene.layers[0],
      chain: [],
      colour: { kind: 'field' as const, field: f.key, component: 0 as const, scale: scene.scales[0].id },
    }));
    const asking = { ...scene, layers, sets: [], scales: before.map(quantity).slice(0, 1) };
    return lackingIn([asking], { ...run, fields: before }, { ...run, fields: after }).map((l) => l.likely);
  };
  it('is new itself: what kept its name is not meant', () => {
    const mises = field('mises', 1, 'stress');
    const perCell = field('mises_cell', 1, 'stress', 'cell');
    expect(likely([mises, perCell], [field('vonMises', 1, 'stress'), perCell])).toEqual(['point:vonMises']);
  });
  it('is never something else for the job, were it the only one', () => {
    const before = [field('displacement', 3, 'displacement')];
    expect(likely(before, [field('U', 3, 'velocity')])).toEqual([null]);
    expect(likely(before, [field('disp', 3, 'displacement'), field('U', 3, 'velocity')])).toEqual([
      'point:disp',
    ]);
  });
});
