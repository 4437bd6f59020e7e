import { describe, expect, it } from 'vitest';
import { withFields } from '../../tests/mesh-checks.ts';
import { VERTEX } from '../model/cell-types.ts';
import type { Bounds, Mesh } from '../model/mesh.ts';
import type { Quantity } from '../model/quantity.ts';
import { type ChainStep, runChain } from './chain/chain.ts';
import { marksOf } from './chain/marks.ts';
import type { OperationSetting } from './chain/operation.ts';
import { type SpheresOptions, spheres, usualRadius } from './spheres.ts';

const step = (op: string, options: object): ChainStep => ({ op, options });
const cloud = (n: number): Mesh => ({
  points: Float32Array.from({ length: 3 * n }, (_, i) => Math.sin(12.9898 * i)),
  types: new Uint8Array(n).fill(VERTEX),
  offsets: Uint32Array.from({ length: n + 1 }, (_, i) => i),
  connectivity: Uint32Array.from({ length: n }, (_, i) => i),
});
const usualSpheres: SpheresOptions = {
  radius: 0.1,
  measured: 'model',
  share: 0.004,
  field: '',
  component: 0,
  scale: 'largest',
  factor: 1,
};
const box: Bounds = [0, 1, 0, 1, 0, 1];

describe('spheres', () => {
  it('stand at every point with the value it has, also after what follows them', () => {
    const mesh = cloud(40);
    const data = Float32Array.from({ length: 40 }, (_, i) => i);
    const source = withFields(mesh, { 'point:f': { data } });
    const alone = runChain(source, [step('spheres', { radius: 0.1 })]);
    const [{ mark }] = marksOf(alone, false, false);
    expect(mark).toMatchObject({ kind: 'sphere', radius: 0.1 });
    expect(mark.kind === 'sphere' && mark.spheres.length).toBe(40);
    const mirrored = runChain(source, [
      step('spheres', { radius: 0.1 }),
      step('mirror', { normal: [1, 0, 0], offset: 2 }),
    ]);
    const both = marksOf(mirrored, false, false)[0].mark;
    expect(both.kind === 'sphere' && both.spheres.length).toBe(80);
  });
  it('are as large as a diameter says: the largest of the whole run has the radius', () => {
    const mesh = cloud(5);
    const data = Float32Array.of(0.2, 0.4, Number.NaN, 0, 0.1);
    const source = withFields(mesh, { 'point:d': { data } });
    const options = { ...usualSpheres, field: 'point:d', radius: 0.05 };
    const q = { field: 'point:d', component: 0, high: 0.8 } as Quantity;
    const settled = spheres.settle!(options, { quantities: [q] } as unknown as OperationSetting);
    // Somewhere in the run there is one of 0.8 across.
    expect(settled).toMatchObject({ scale: 'factor', factor: 0.125 });
    const [{ mark }] = marksOf(runChain(source, [step('spheres', settled)]), false, false);
    if (mark.kind !== 'sphere') throw new Error(mark.kind);
    expect(mark.radius).toBeCloseTo(0.025, 7);
    for (const [i, wanted] of [0.0125, 0.025, 0, 0, 0.00625].entries())
      expect(mark.radii![i]).toBeCloseTo(wanted, 7);
    const mirrored = runChain(source, [
      step('spheres', settled),
      step('mirror', { normal: [1, 0, 0], offset: 2 }),
    ]);
    const both = marksOf(mirrored, false, false)[0].mark;
    if (both.kind !== 'sphere') throw new Error(both.kind);
    expect(both.radii).toHaveLength(10);
    expect(both.radii![6]).toBeCloseTo(0.025, 7);
    // On the picture it is so large there, wherever it is.
    const onPicture = spheres.settle!({ ...options, measured: 'picture', share: 0.01 }, {
      quantities: [q],
    } as unknown as OperationSetting);
    const [there] = marksOf(runChain(source, [step('spheres', onPicture)]), false, false);
    expect(there.mark).toMatchObject({ kind: 'sphere', onPicture: true });
    expect(there.mark.kind === 'sphere' && there.mark.radii![0]).toBeCloseTo(0.0025, 7);
    // As large as it says, or some times as large.
    expect(spheres.settle!({ ...options, scale: 'factor', factor: 3 }, {} as OperationSetting).factor).toBe(
      3,
    );
  });
  it('say which field they lack', () => {
    const alone = runChain(withFields(cloud(3), {}), [
      step('spheres', { ...usualSpheres, field: 'point:d', scale: 'factor' }),
    ]);
    expect(alone.mesh.types).toHaveLength(0);
    expect(alone.report()).toEqual({ lacking: 'd' });
  });
  it('have a usual radius with which atoms of a crystal nearly touch', () => {
    // A thousand points in a unit cube are a tenth apart (simple cubic); touching spheres have half of that.
    const radius = usualRadius({ bounds: box, points: { count: 1000, packed: true } });
    expect(radius).toBeGreaterThan(0.03);
    expect(radius).toBeLessThan(0.05);
  });
  it('are grains where particles stand free in something larger', () => {
    const grain = usualRadius({ bounds: box, points: { count: 1000, packed: false } });
    expect(grain).toBeLessThan(0.3 * usualRadius({ bounds: box, points: { count: 1000, packed: true } }));
  });
  it('are neither specks nor boulders when there are very many or few', () => {
    const diagonal = Math.sqrt(3);
    expect(usualRadius({ bounds: box, points: { count: 1e9, packed: true } })).toBeCloseTo(
      0.003 * diagonal,
      9,
    );
    expect(usualRadius({ bounds: box, points: { count: 1, packed: true } })).toBeCloseTo(0.02 * diagonal, 9);
    expect(usualRadius({ bounds: [0, 1, 0, 1, 0, 0], points: { count: 1e4, packed: true } })).toBeGreaterThan(
      0,
    );
    expect(usualRadius({ bounds: [1, 1, 1, 1, 1, 1], points: { count: 1, packed: false } })).toBeGreaterThan(
      0,
    );
  });
});
