import { Solver } from 'odex';
import { describe, expect, it } from 'vitest';
import { buildBlocks } from '#core/model/blocks.ts';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { hexBlockBetween, tetraBlock } from '../../tests/made-solids.ts';
import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { sourceOf } from './chain/chain.ts';
import type { StepsThrough } from './chain/operation.ts';
import { pathLines } from './path-lines.ts';
import { streakLines } from './streak-lines.ts';
import type { ThroughTimeOptions } from './tracing/through-time.ts';

type Velocity = (x: number, y: number, z: number, t: number) => number[];

/** Steps of a flow on a mesh, or on one that is different at each step. */
function stepsOf(
  meshAt: (step: number) => Mesh,
  times: number[],
  velocity: Velocity,
  shown = times.length - 1,
): StepsThrough {
  return {
    times,
    shown,
    at: async (step) => {
      const mesh = meshAt(step);
      const n = mesh.points.length / 3;
      const of = (components: number, value: (p: number[]) => number[]): MeshField => ({
        location: 'point',
        components,
        axial: false,
        data: Float32Array.from(
          Array.from({ length: n }, (_, i) => value([...mesh.points.subarray(3 * i, 3 * i + 3)])).flat(),
        ),
      });
      const blocks = buildBlocks(mesh);
      const fields: Record<string, MeshField> = {
        v: of(3, ([x, y, z]) => velocity(x, y, z, times[step])),
        'point:T': of(1, ([x]) => [100 * times[step] + x]),
      };
      return { mesh, blocks: () => blocks, field: (key) => fields[key] ?? null };
    },
  };
}

const options = (more: Partial<ThroughTimeOptions>) =>
  pathLines.schema.parse({
    field: 'v',
    seeds: 'points',
    shows: { field: 'point:T', component: 0 },
    tolerance: 1e-8,
    ...more,
  });

const block = tetraBlock(4);

describe('path lines', () => {
  it('in a wind that grows evenly: by half the square of the time, with what they met on the way', async () => {
    const steps = stepsOf(
      () => block,
      [0, 0.5, 1],
      (_x, _y, _z, t) => [t, 0, 0],
    );
    const { mesh, made, report } = await pathLines.runThrough!(
      sourceOf(block),
      options({ places: [[-0.5, 0.1, 0.2]] }),
      steps,
    );
    const last = mesh.points.length / 3 - 1;
    expect(mesh.points[3 * last]).toBeCloseTo(0, 5);
    expect(made![ALONG_LINE.time][last]).toBeCloseTo(1, 6);
    expect(made![ALONG_LINE.length][last]).toBeCloseTo(0.5, 5);
    const met = made!['point:T#0'];
    for (let i = 0; i <= last; i++)
      expect(met[i]).toBeCloseTo(100 * made![ALONG_LINE.time][i] + mesh.points[3 * i], 3);
    expect(report!.lines).toEqual({ count: 1, seeds: 1, ends: { time: 1 } });
  });

  it('as an ODE package has them, in a flow that is linear in place and time', async () => {
    // Such a flow is exact on the mesh and between steps. Yardstick: odex (Hairer's extrapolation method) at 1e-12.
    const flow: Velocity = (x, y, z, t) => [-y * (1 + t) + 0.1 * z, x * (1 + t) - 0.2 * y, 0.3 * t - 0.1 * x];
    const times = [0, 0.7, 1.1, 2];
    const start: [number, number, number] = [0.3, 0.2, -0.5];
    const solver = new Solver(3);
    solver.absoluteTolerance = solver.relativeTolerance = 1e-12;
    const { y: reference } = solver.solve((t, [x, y, z]) => flow(x, y, z, t), 0, start, 2);
    for (const mesh of [block, hexBlockBetween(3)]) {
      const result = await pathLines.runThrough!(
        sourceOf(mesh),
        options({ places: [start] }),
        stepsOf(() => mesh, times, flow),
      );
      const last = result.mesh.points.slice(-3);
      for (let k = 0; k < 3; k++) expect(last[k]).toBeCloseTo(reference[k], 4);
    }
  });

  it('on a mesh that is different at each step', async () => {
    const meshes = [tetraBlock(3), hexBlockBetween(5), tetraBlock(6)];
    const steps = stepsOf(
      (i) => meshes[i],
      [0, 1, 2],
      (_x, _y, _z, t) => [0.2 + 0.1 * t, 0, 0.1],
    );
    const { mesh } = await pathLines.runThrough!(
      sourceOf(meshes[2]),
      options({ places: [[-0.6, 0, 0]] }),
      steps,
    );
    const last = mesh.points.slice(-3);
    expect(last[0]).toBeCloseTo(-0.6 + 0.4 + 0.2, 4);
    expect(last[2]).toBeCloseTo(0.2, 4);
  });

  it('end where they leave, and go no farther than the step on show', async () => {
    const wind: Velocity = () => [1, 0, 0];
    const leave = await pathLines.runThrough!(
      sourceOf(block),
      options({ places: [[0, 0, 0]] }),
      stepsOf(() => block, [0, 1, 5], wind),
    );
    expect(leave.report!.lines!.ends).toEqual({ left: 1 });
    expect(leave.mesh.points.slice(-3)[0]).toBeGreaterThan(0.98);
    const early = await pathLines.runThrough!(
      sourceOf(block),
      options({ places: [[-1, 0, 0]] }),
      stepsOf(() => block, [0, 0.5, 5], wind, 1),
    );
    expect(early.mesh.points.slice(-3)[0]).toBeCloseTo(-0.5, 4);
    const later = await pathLines.runThrough!(
      sourceOf(block),
      options({ places: [[-1, 0, 0]], start: 0.25 }),
      stepsOf(() => block, [0, 0.5, 1], wind),
    );
    expect(later.mesh.points.slice(-3)[0]).toBeCloseTo(-0.25, 4);
  });

  it('what is missing is told in words', async () => {
    const one = await pathLines.runThrough!(
      sourceOf(block),
      options({}),
      stepsOf(
        () => block,
        [0],
        () => [1, 0, 0],
      ),
    );
    expect(one.report!.lacking).toContain('second step');
    const modes = await pathLines.runThrough!(
      sourceOf(block),
      options({}),
      stepsOf(
        () => block,
        [3, 2],
        () => [1, 0, 0],
      ),
    );
    expect(modes.report!.lacking).toContain('modes or load cases');
    const none = await pathLines.runThrough!(
      sourceOf(block),
      options({ field: 'w' }),
      stepsOf(
        () => block,
        [0, 1],
        () => [1, 0, 0],
      ),
    );
    expect(none.report!.lines!.ends).toEqual({ left: 1 });
  });
});

describe('streak lines', () => {
  it('in a wind that turns: where what left at each time has got to', async () => {
    // The wind is (1, t): what left at s is at (t - s, (t² - s²) / 2) now. Common textbook case, worked by hand.
    const steps = stepsOf(
      () => block,
      [0, 0.5, 1],
      (_x, _y, _z, t) => [1, t, 0],
    );
    const { mesh, made, report } = await streakLines.runThrough!(
      sourceOf(block),
      streakLines.schema.parse({ ...options({ places: [[-0.8, -0.8, 0]] }), puffs: 11 }),
      steps,
    );
    expect(mesh.points.length / 3).toBe(11);
    for (let i = 0; i < 11; i++) {
      const age = made![ALONG_LINE.time][i];
      expect(age).toBeCloseTo(i / 10, 5);
      expect(mesh.points[3 * i]).toBeCloseTo(-0.8 + age, 4);
      expect(mesh.points[3 * i + 1]).toBeCloseTo(-0.8 + (1 - (1 - age) ** 2) / 2, 4);
    }
    expect(report!.lines!.count).toBe(1);
  });

  it('what has left the body is no part of them', async () => {
    const steps = stepsOf(
      () => block,
      [0, 2],
      () => [1, 0, 0],
    );
    const { mesh } = await streakLines.runThrough!(
      sourceOf(block),
      streakLines.schema.parse({ ...options({ places: [[0.5, 0, 0]] }), puffs: 21 }),
      steps,
    );
    const xs = mesh.points.filter((_, i) => i % 3 === 0);
    expect(Math.max(...xs)).toBeLessThanOrEqual(1.0001);
    expect(xs.length).toBeLessThan(8);
  });
});
