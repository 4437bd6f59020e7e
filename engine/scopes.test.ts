import { afterEach, describe, expect, it } from 'vitest';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { pointCount } from '#core/model/mesh.ts';
import { identityGather } from '#core/model/recipe.ts';
import { z } from '#core/model/schema.ts';
import type { Operation, OperationInput } from '#core/ops/chain/operation.ts';
import { withStepIds } from '#core/ops/chain/step.ts';
import { type AnyOperation, operations } from '#core/ops/registry.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import { freshLayer } from '#core/scene/read-layer.ts';
import { partLook } from '#core/scene/things/part-look.ts';
import { valuesOf } from '../tests/marks.ts';
import { importSteps, temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { SceneSource } from './scene-source.ts';

/** An operation that only notes what it was given. */
function noting(more: Partial<Operation<object>>) {
  const seen: OperationInput[] = [];
  const operation: Operation<object> = {
    id: 'note',
    name: 'Note',
    purpose: 'for this test',
    opening: 'Note of ',
    joining: ', noted',
    schema: z.object({}),
    defaults: () => ({}),
    phrase: { say: () => [], read: () => true },
    controls: [],
    scope: 'part',
    reads: 'step',
    gives: (dimension) => dimension,
    run(input) {
      seen.push(input);
      const n = pointCount(input.mesh);
      return {
        mesh: input.mesh,
        recipe: { points: identityGather(n), cells: identityGather(input.mesh.types.length) },
      };
    },
    ...more,
  };
  (operations as AnyOperation[]).push(operation);
  return seen;
}
afterEach(() => {
  const at = operations.findIndex((o) => o.id === 'note');
  if (at >= 0) (operations as AnyOperation[]).splice(at, 1);
});

/** Two bodies side by side: the left one warm, the right one without a temperature, over three steps. */
async function setUp() {
  const left = hexBlock(2);
  const right = { ...left, points: left.points.map((v, i) => (i % 3 === 0 ? v + 1 : v)) };
  const steps = [0, 1, 2].map((n) => ({
    time: n,
    parts: {
      left: writeVtu(left, [temperature(left, (x) => 100 * n + x)], n, {}),
      right: writeVtu(right, [], n, {}),
    },
  }));
  const { run: stored, store } = await importSteps(steps);
  const run = withOfferedQuantities(stored);
  const maker = new GeometryMaker(new ArraySource(store.load));
  const source = new SceneSource(run, (request) => maker.make(request));
  const scene = { ...defaultScene(run), layers: [] as Layer[] };
  const colour = { kind: 'field' as const, field: 'point:temperature', component: 0 as const, scale: 's' };
  const layer = (more: Partial<Layer> = {}): Layer => ({
    ...freshLayer(run, 'a'),
    colour,
    chain: withStepIds([{ op: 'note', options: {}, off: false }]),
    ...more,
  });
  const show = (given: Layer, more: Partial<Scene> = {}, step = 1) =>
    source.frame({ ...scene, ...more, layers: [given] }, step, 'view');
  return { run, layer, show };
}

describe('an operation that looks at one part', () => {
  it('is given each by itself', async () => {
    const seen = noting({});
    const { layer, show } = await setUp();
    const frame = await show(layer());
    expect(seen.map((i) => [i.part, i.mesh.types.length]).sort()).toEqual([
      ['left', 8],
      ['right', 8],
    ]);
    expect(frame.parts.map((p) => p.part)).toEqual(['left', 'right']);
  });
});

describe('an operation that looks at all parts of its layer', () => {
  it('is given them as one mesh, with no values where a part has none', async () => {
    const seen = noting({ scope: 'layer', needs: () => [{ field: 'point:temperature' }] });
    const { layer, show } = await setUp();
    const frame = await show(layer());
    expect(seen).toHaveLength(1);
    const [input] = seen;
    expect(input.mesh.types).toHaveLength(16);
    const values = Array.from(input.field({ field: 'point:temperature' })!.data);
    expect(values.slice(0, 27).every((v) => v >= 100 && v <= 101)).toBe(true);
    expect(values.slice(27).every(Number.isNaN)).toBe(true);
    expect(frame.parts.map((p) => p.part)).toEqual(['left and right']);
    const shown = Array.from(valuesOf(frame.parts[0])!);
    expect(shown.some(Number.isNaN)).toBe(true);
    expect(Math.max(...shown.filter((v) => !Number.isNaN(v)))).toBeCloseTo(101, 4);
  });
  it('is not given those that are hidden, nor what a part set leaves out', async () => {
    const seen = noting({ scope: 'layer' });
    const { layer, show } = await setUp();
    const hidden = { ...partLook.plain, hidden: true };
    await show(layer(), { parts: { right: hidden } });
    expect(seen[0].mesh.types).toHaveLength(8);
    const sets = [{ name: 'right', rule: { kind: 'parts' as const, parts: ['right'] } }];
    const frame = await show(layer({ set: 'right' }), { sets });
    expect(seen[1].mesh.types).toHaveLength(8);
    expect(Math.min(...seen[1].mesh.points.filter((_, i) => i % 3 === 0))).toBeGreaterThanOrEqual(0.5);
    expect(frame.news.a.report).toMatchObject({ kept: 8, of: 16 });
  });
  it('runs again when a part is hidden or shown, and not when only the step changes', async () => {
    const seen = noting({ scope: 'layer' });
    const { layer, show } = await setUp();
    await show(layer(), {}, 0);
    const later = await show(layer(), {}, 2);
    expect(seen).toHaveLength(1);
    expect(Math.max(...Array.from(valuesOf(later.parts[0])!).filter((v) => !Number.isNaN(v)))).toBeCloseTo(
      201,
      4,
    );
    await show(layer(), {
      parts: { left: { ...partLook.plain, hidden: true } },
    });
    expect(seen).toHaveLength(2);
  });
  it('with nothing left to look at shows nothing', async () => {
    noting({ scope: 'layer' });
    const { layer, show } = await setUp();
    const frame = await show(layer({ parts: [] }));
    expect(frame.parts).toEqual([]);
    expect(frame.news.a).toMatchObject({ empty: true, trouble: null });
  });
});

describe('an operation that looks at all steps', () => {
  it('is brought them one by one, and runs anew for each step on show', async () => {
    const lowest: number[][] = [];
    const seen = noting({
      reads: 'all steps',
      scope: 'layer',
      needs: () => [{ field: 'point:temperature' }],
      async runThrough(input, _options, steps) {
        const each = await Promise.all(steps.times.map((_, i) => steps.at(i)));
        lowest.push([
          steps.shown,
          ...each.map((s) => Math.min(...Array.from(s!.field('point:temperature')!.data).slice(0, 27))),
        ]);
        expect(each.map((s) => s!.mesh.types.length)).toEqual([16, 16, 16]);
        return { mesh: input.mesh, recipe: null };
      },
    });
    const { layer, show } = await setUp();
    await show(layer());
    await show(layer());
    await show(layer(), {}, 2);
    expect(lowest).toEqual([
      [1, 0, 100, 200],
      [2, 0, 100, 200],
    ]);
    expect(seen).toHaveLength(0);
  });
});
