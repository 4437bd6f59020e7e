import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { cellMeasures } from '#core/fields/cell-measures.ts';
import { meshMeasure } from '#core/fields/mesh-quality.ts';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { apply, type ChainStep, runChain, sourceOf } from '#core/ops/chain/chain.ts';
import { plainContext, type Workpiece } from '#core/ops/chain/workpiece.ts';
import { area, edgeUses, pointValues } from '../mesh-checks.ts';
import { openMesh } from '../open-mesh.ts';

const facts = JSON.parse(readFileSync('tests/fixtures/expected.json', 'utf8')).shelf;
const step = (op: string, options: object): ChainStep => ({ op, options });

async function shelf(): Promise<{ source: Workpiece; mesh: Mesh; field(name: string): ArrayLike<number> }> {
  const opened = await openMesh('tests/fixtures/shelf/shelf.vtu');
  const raw = opened.readMesh();
  const mesh = { ...raw, points: Float32Array.from(raw.points) } as Mesh;
  const field = (name: string) => opened.readField(opened.fields.findIndex((f) => f.name === name));
  const fields = new Map(
    opened.fields.map((f): [string, MeshField] => [
      `${f.location}:${f.name}`,
      { location: f.location, components: f.components, axial: false, data: field(f.name) },
    ]),
  );
  return { source: sourceOf(mesh, { ...plainContext(), fields }), mesh, field };
}

const within = (actual: number, wanted: number, relative: number): void =>
  expect(Math.abs(actual / wanted - 1)).toBeLessThan(relative);

const volume = (piece: Workpiece): number =>
  cellMeasures(piece.mesh).reduce((sum, v, c) => sum + (piece.mesh.types[c] >= 10 ? Math.abs(v) : 0), 0);

it('the shelf: the area of an isosurface of its stress is that of the facts', async () => {
  const { source } = await shelf();
  const piece = runChain(source, [
    step('isosurface', { field: 'point:mises', component: 0, levels: { kind: 'list', values: [2e6] } }),
  ]);
  within(area(piece.mesh), facts.integrals.isosurface_mises_2e6.area, 2e-4);
});

it('the shelf: its regions have the volumes of the facts, kept by the values of a cell field', async () => {
  const { source } = await shelf();
  const whole = volume(source);
  within(whole, facts.integrals.volume, 1e-5);
  for (const [name, wanted] of Object.entries<{ cells: number; volume: number }>(facts.regions)) {
    const region = Number(name[0]);
    const kept = apply(
      source,
      step('keep-where', { field: 'cell:region', component: 0, low: region - 0.5, high: region + 0.5 }),
    );
    within(volume(kept), wanted.volume, 1e-5);
    const tetra = Array.from(kept.mesh.types).filter((t) => t === 10).length;
    expect(tetra).toBe(wanted.cells);
  }
});

it('the shelf: clips by value and by plane add up to the whole, and their caps are the sections of the facts', async () => {
  const { source } = await shelf();
  const whole = facts.integrals.volume;
  for (const options of [
    { shape: 'value', field: 'point:mises', value: 8e5 },
    { shape: 'plane', normal: [1, 0, 0], offset: 0.12 },
  ]) {
    const [one, other] = [false, true].map((invert) =>
      volume(apply(source, step('clip', { ...options, invert }))),
    );
    within(one + other, whole, 1e-5);
  }
  const plane = { shape: 'plane', normal: [1, 0, 0], offset: 0.12 };
  const [closed, open] = [true, false].map((caps) =>
    area(apply(source, step('clip', { ...plane, caps })).outer().mesh),
  );
  within(closed - open, facts.integrals.section_x_0p12.area, 1e-3);
});

it('the shelf: deformed by its displacement, points move by factor times displacement', async () => {
  const { source, mesh, field } = await shelf();
  const u = field('displacement');
  const piece = apply(source, step('deform', { field: 'point:displacement', mode: 'factor', factor: 1000 }));
  for (let i = 0; i < u.length; i += 97)
    expect(piece.mesh.points[i]).toBeCloseTo(mesh.points[i] + 1000 * u[i], 6);
});

it('the shelf: mirrored, stress and displacement are mirrored with it', async () => {
  const { source } = await shelf();
  const image = apply(source, step('mirror', { normal: [0, 1, 0], offset: 0, both: false }));
  const before = source.field({ field: 'point:stress' })!.data;
  const after = image.field({ field: 'point:stress' })!.data;
  // xx yy zz stay, xy and yz change their sign, xz stays.
  const signs = [1, 1, 1, -1, -1, 1];
  for (let p = 0; p < before.length / 6; p += 41)
    for (let k = 0; k < 6; k++)
      within(after[6 * p + k] || 1, signs[k] * Math.fround(before[6 * p + k]) || 1, 1e-5);
});

it('the shelf: every measure of a tetrahedron lies where it must, and the sum of sizes is the volume', async () => {
  const { mesh } = await shelf();
  const tetra = Array.from(mesh.types, (t, c) => [t, c]).flatMap(([t, c]) => (t === 10 ? [c] : []));
  for (const key of ['mesh:mean-ratio', 'mesh:scaled-jacobian']) {
    const values = meshMeasure(mesh, key);
    for (const c of tetra) {
      expect(Math.abs(values[c])).toBeGreaterThan(0);
      expect(Math.abs(values[c])).toBeLessThanOrEqual(1 + 1e-6);
    }
  }
  const sizes = meshMeasure(mesh, 'mesh:size');
  within(Math.abs(tetra.reduce((s, c) => s + Math.abs(sizes[c]), 0)), facts.integrals.volume, 1e-5);
});

it('the cavity revolved by 270 degrees: volume by Pappus, closed, contour lines at their values', async () => {
  const opened = await openMesh('tests/fixtures/cavity/cavity_20.vtu');
  const raw = opened.readMesh();
  const mesh = { ...raw, points: Float32Array.from(raw.points) } as Mesh;
  const T = opened.readField(opened.fields.findIndex((f) => f.name === 'T'));
  const fields = new Map([
    ['point:T', { location: 'point', components: 1, axial: false, data: T } satisfies MeshField],
  ]);
  const source = sourceOf(mesh, { ...plainContext(), fields });
  const turned = apply(source, step('revolve', { axis: [0, 1, 0], sweep: 270, segments: 36 }));
  const d = (2 * Math.PI) / 36;
  // The unit square turned about its left side: 3/4 of pi r² h, as 27 flat pieces.
  within(volume(turned), 0.75 * Math.PI * (Math.sin(d) / d), 1e-4);
  for (const uses of edgeUses(sourceOf(turned.mesh).outer().mesh).values()) expect(uses).toBe(2);
  const lines = runChain(turned, [
    step('contour-lines', {
      field: 'point:T',
      component: 0,
      levels: { kind: 'list', values: [0.25, 0.5, 0.75] },
    }),
  ]);
  for (const v of pointValues(lines, T))
    expect(Math.min(...[0.25, 0.5, 0.75].map((l) => Math.abs(v - l)))).toBeLessThan(1e-5);
});
