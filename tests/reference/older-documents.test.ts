import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { speak } from '#core/language/sentence.ts';
import { evenBands, type Levels, levelValues } from '#core/model/levels.ts';
import type { RunDescription } from '#core/model/run.ts';
import { migratedRun, RUN_VERSION, runMigrations } from '#core/model/run-migrations.ts';
import { operations } from '#core/ops/registry.ts';
import { CURRENT_VERSION, readScene, sceneMigrations, sceneSchema } from '#core/scene/document.ts';
import { layerSentence } from '#core/scene/layer-sentence.ts';
import { floor } from '#core/scene/things/floor.ts';
import { partLook } from '#core/scene/things/part-look.ts';
import { ovenRun } from '../sample-run.ts';

/**
 * Documents that older versions of this program really wrote, each by its own code of then: a block of an oven with a
 * section at 0.4 m, edges, a fixed range in five bands and softer contact shadows.
 */
const folder = 'tests/fixtures/documents';
const read = (name: string): Record<string, unknown> => JSON.parse(readFileSync(`${folder}/${name}`, 'utf8'));
const forms = (kind: string): number[] =>
  readdirSync(folder).flatMap((name) => {
    const form = new RegExp(`^${kind}-(\\d+)\\.json$`).exec(name)?.[1];
    return form ? [Number(form)] : [];
  });

describe('scenes of older versions', () => {
  for (const form of forms('scene')) {
    it(`of version ${form} open as they were`, async () => {
      const written = read(`scene-${form}.json`);
      expect(written.version).toBe(form);
      const scene = readScene(written);
      expect(sceneSchema.parse(scene)).toEqual(scene);
      expect(scene.version).toBe(CURRENT_VERSION);
      expect(scene.name).toMatch(/^Oven/);
      const [first, cut] = scene.layers;
      expect(first.edges.shown).toBe(true);
      expect(cut).toMatchObject({ name: 'Cut', opacity: 0.5, from: null, set: null, time: { kind: 'now' } });
      expect(cut.chain[0]).toMatchObject({ op: 'section', options: { normal: [1, 0, 0], offset: 0.4 } });
      expect(scene.scales[0]).toMatchObject({
        bands: evenBands(5),
        range: { kind: 'fixed', low: 20, high: 40 },
      });
      expect(scene.light.contact).toBe(0.3);
      expect(scene.floor).toEqual({ ...floor.plain, kind: 'shadow' });
      expect(scene.stamp.unit).toBe('min');
      expect(scene.parts).toEqual(form === 1 ? {} : { oven: { ...partLook.plain, colour: '#aa3300' } });
      const said = speak(layerSentence(cut, scene, await ovenRun()));
      expect(said).toMatch(
        form === 3 ? /Section of .* at x = 0.4 m \(off\)/ : /Section of .* at x = 0.4 m, coloured/,
      );
    });
  }
  it('leave what was given alone, and refuse newer ones', () => {
    const written = read('scene-1.json');
    const before = structuredClone(written);
    readScene(written);
    expect(written).toEqual(before);
    expect(() => readScene({ ...written, version: CURRENT_VERSION + 1 })).toThrow(/newer/i);
  });
});

describe('levels as they were written by version 3', () => {
  const scene = () => readScene(read('levels-3.json'));
  it('lie where they lay', () => {
    const levels = scene().layers.map((l) => (l.chain[0].options as { levels: Levels }).levels);
    const range = { low: 20, high: 46, shares: null, scale: [25, 30] };
    expect(levels.map((l) => levelValues(l, range).map((v) => Number(v.toPrecision(12))))).toEqual([
      [25, 30],
      [22, 26, 30, 34],
      // Four between 20 and 30, without these.
      [22, 24, 26, 28],
      [21, 23],
      [25, 30],
    ]);
    expect(scene().layers[2].chain[0].options).toMatchObject({ labels: true });
  });
  it('and what has become a setting of its own is set as it was', () => {
    expect(scene()).toMatchObject({
      backdrop: { kind: 'ink' },
      lookInside: { front: 'removed' },
      light: { rig: 'even' },
    });
    expect(scene().layers.map((l) => l.chain[0].id)).toEqual(Array(5).fill('step-1'));
  });
});

describe('planes as they were written before their lengths were true ones', () => {
  it('lie where they lay', () => {
    const [section, clip, mirror] = readScene(read('planes-4.json')).layers.map((l) => l.chain[0]);
    // n . x = 0.6 and 0.8 across (1, 1, 0) is 0.6 and 0.8 over the root of two along it.
    expect(section.options).toMatchObject({ normal: [1, 1, 0], count: 2 });
    const { offset, spacing } = section.options as { offset: number; spacing: number };
    expect(offset).toBeCloseTo(0.6 / Math.SQRT2, 12);
    expect(spacing).toBeCloseTo(0.2 / Math.SQRT2, 12);
    // The thickness of a slab was a length before.
    expect(clip.options).toMatchObject({ normal: [0, 3, 4], offset: 0.4, thickness: 0.3 });
    expect(mirror.options).toMatchObject({ normal: [0, 0, 2], offset: 0.5 });
    for (const { version } of [section, clip, mirror]) expect(version).toBe(2);
  });
});

describe('runs of older versions', () => {
  for (const form of forms('run')) {
    it(`of form ${form} have what has been added since`, async () => {
      const run = migratedRun(read(`run-${form}.json`));
      const now = await ovenRun();
      expect(run.version).toBe(RUN_VERSION);
      // What this version would write of the same files, but for what only reading them can tell.
      const { notes: _, source: __, ...known } = now;
      const shape = (value: unknown): unknown =>
        Array.isArray(value)
          ? value.slice(0, 1).map(shape)
          : value && typeof value === 'object'
            ? Object.fromEntries(Object.entries(value).map(([k, v]) => [k, shape(v)]))
            : typeof value;
      const { notes, source, ...rest } = run;
      expect(Array.isArray(notes)).toBe(true);
      expect(source?.plan.name ?? null).toBe(form === 1 ? null : 'oven');
      expect(shape(rest)).toEqual(shape(known));
      expect(run.fields[0].overall).toEqual(now.fields[0].overall);
      expect(migratedRun(run)).toBe(run);
    });
  }
  it('that are newer are refused', async () => {
    const run = { ...(await ovenRun()), version: RUN_VERSION + 1 } as RunDescription;
    expect(() => migratedRun(run)).toThrow(/newer version/);
  });
});

it('every migration there is has a document that needs it', () => {
  expect(Object.keys(sceneMigrations).map(Number)).toEqual(
    Array.from({ length: CURRENT_VERSION - 1 }, (_, i) => i + 1),
  );
  expect(forms('scene')).toEqual(expect.arrayContaining(Object.keys(sceneMigrations).map(Number)));
  expect(Object.keys(runMigrations).map(Number)).toEqual(
    Array.from({ length: RUN_VERSION - 1 }, (_, i) => i + 1),
  );
  expect(forms('run')).toEqual(expect.arrayContaining(Object.keys(runMigrations).map(Number)));
  const scenes = readdirSync(folder).filter((name) => !name.startsWith('run-'));
  const written = scenes.flatMap((name) => {
    const { layers } = read(name) as { layers: { chain: { op: string; version?: number }[] }[] };
    return layers.flatMap((l) => l.chain.map(({ op, version = 1 }) => `${op} ${version}`));
  });
  for (const { id, migrations = {}, version = 1 } of operations) {
    expect(Object.keys(migrations).map(Number), id).toEqual(
      Array.from({ length: version - 1 }, (_, i) => i + 1),
    );
    for (const from of Object.keys(migrations)) expect(written).toContain(`${id} ${from}`);
  }
});
