import { readdirSync, readFileSync } from 'node:fs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { RunDescription } from '#core/model/run.ts';
import { meanOf, type Statistics } from '#core/model/statistics.ts';
import { importFiles, Site, upload } from './site.ts';

const site = new Site();
beforeAll(() => site.start());
afterAll(() => site.stop());

const folder = 'tests/fixtures/cavity';
const { cavity: facts } = JSON.parse(readFileSync('tests/fixtures/expected.json', 'utf8'));

interface Fact {
  min: number;
  max: number;
  mean: number;
}

const near = (actual: Statistics, wanted: Fact): void => {
  for (const [a, b] of [
    [actual.min, wanted.min],
    [actual.max, wanted.max],
    [meanOf(actual), wanted.mean],
  ]) {
    expect(Math.abs(a - b)).toBeLessThanOrEqual(1e-6 * Math.max(Math.abs(b), 1e-6));
  }
};

it('the cavity, imported through the interface, holds the numbers of its facts and opens flat, face on, in parallel', async () => {
  const page = await site.page();
  await importFiles(
    page,
    readdirSync(folder).map((name) => upload(name, readFileSync(`${folder}/${name}`))),
  );
  const id = page.url().split('/').pop();
  const scene = await site.get<{
    run: string;
    document: { camera: { projection: string; position: number[]; target: number[] } };
  }>(`/api/scenes/${id}`);
  const { description: run } = await site.get<{ description: RunDescription }>(`/api/runs/${scene.run}`);
  expect(run.dimension).toBe(2);
  expect(run.steps.map((s) => s.time)).toEqual(facts.times);
  expect(run.timeUnit).toBeNull();
  const [mesh, ...others] = run.parts[0].meshes;
  expect(others).toEqual([]);
  expect(mesh).toMatchObject({
    pointCount: facts.points,
    cellsByType: facts.cells,
    bounds: facts.bounds.flat(),
  });
  for (const [name, fact] of Object.entries<Record<string, never>>(facts.fields)) {
    const field = run.fields.find((f) => f.name === name)!;
    expect(field).toMatchObject({ location: fact.location, components: fact.components });
    for (const [step, when] of [
      [0, 'first'],
      [20, 'last'],
    ] as const) {
      const wanted = fact[when] as Fact & { components?: Fact[]; magnitude?: Fact };
      const stats = field.perStep[step]!;
      near(stats.magnitude ?? stats.components[0], wanted.magnitude ?? wanted);
      wanted.components?.forEach((c, k) => void near(stats.components[k], c));
    }
  }
  const { camera } = scene.document;
  expect(camera.projection).toBe('parallel');
  expect(camera.position.slice(0, 2)).toEqual(camera.target.slice(0, 2));
});
