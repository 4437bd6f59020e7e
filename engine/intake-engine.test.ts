import { describe, expect, it } from 'vitest';
import { openFile } from '#core/formats/registry.ts';
import { type FieldToWrite, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { complexPairs, guessRole, unitInName } from '#core/model/roles.ts';
import { absoluteVelocity, fitTurning, type RotatingFrame } from '#core/model/rotating-frame.ts';
import type { ImportChoices, RunDescription } from '#core/model/run.ts';
import { emptyPlan, type RunPlan } from '#core/model/run-plan.ts';
import { subsetCells } from '#core/ops/kernels/subset-cells.ts';
import { importSteps, MemoryStore, ovenSteps, temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { addFields, addSteps } from './extend-run.ts';
import { chosenSteps, importRun, localHost } from './import-run.ts';

/** Imports files given by name, all of one step unless a plan says otherwise. */
async function importFiles(files: Record<string, Uint8Array>, plan: RunPlan, choices: ImportChoices = {}) {
  const store = new MemoryStore();
  const host = localHost({ open: (p) => openFile(files[p], p), sink: store });
  return { store, ...(await importRun(plan, choices, host)) };
}

const stepsOf = (...names: string[]): RunPlan => ({
  ...emptyPlan('oven'),
  steps: names.map((path) => ({ time: null, files: [{ path, part: null, piece: null, step: 0 }] })),
});

describe('files of other units', () => {
  const mesh = hexBlock(2);
  const block = (length: string | null) => writeVtu(mesh, [], 0, length ? { length } : {});
  const planned = (units: Record<string, string | undefined>): RunPlan => ({
    ...emptyPlan('oven'),
    steps: [
      {
        time: 0,
        files: Object.entries(units).map(([part, lengthUnit]) => ({
          path: `${part}.vtu`,
          part,
          piece: null,
          step: 0,
          ...(lengthUnit ? { lengthUnit } : {}),
        })),
      },
    ],
  });
  const widths = ({ parts }: RunDescription): Record<string, number> =>
    Object.fromEntries(
      parts.map((p) => [p.name, Number((p.meshes[0].bounds[1] - p.meshes[0].bounds[0]).toPrecision(6))]),
    );

  it('lie together in that of the first, what they state or what is said of them', async () => {
    const files = { 'air.vtu': block('m'), 'tin.vtu': block('mm'), 'rack.vtu': block(null) };
    const { run } = await importFiles(files, planned({ air: undefined, tin: undefined, rack: 'cm' }));
    expect(run.lengthUnit).toBe('m');
    expect(widths(run)).toEqual({ air: 1, tin: 0.001, rack: 0.01 });
    expect(run.warnings.join()).not.toContain('no unit of length');
  });
  it('of which one states none are told of', async () => {
    const files = { 'air.vtu': block('mm'), 'rack.vtu': block(null) };
    const { run } = await importFiles(files, planned({ air: undefined, rack: undefined }));
    expect(widths(run)).toEqual({ air: 1, rack: 1 });
    expect(run.warnings.join()).toMatch(/rack: states no unit of length; taken to be in mm/);
  });
});

describe('choices before an import', () => {
  it('keep the chosen fields, and name the others as left out', async () => {
    const mesh = hexBlock(2);
    const load: FieldToWrite = { name: 'load', location: 'cell', components: 1, data: new Float32Array(8) };
    const files = { 'a.vtu': writeVtu(mesh, [temperature(mesh, () => 1), load]) };
    const { run } = await importFiles(files, stepsOf('a.vtu'), { fields: ['cell:load'] });
    expect(run.fields.map((f) => f.key)).toEqual(['cell:load']);
    expect(run.source!.leftOut.map((f) => f.name)).toEqual(['temperature']);
    const more = await importFiles(files, stepsOf('a.vtu'), { fields: ['point:temperature'] });
    const grown = addFields(run, more.run);
    expect(grown.fields.map((f) => f.key)).toEqual(['cell:load', 'point:temperature']);
    expect(Object.keys(grown.parts[0].steps[0]!.fields).sort()).toEqual(['cell:load', 'point:temperature']);
    // What was missing is missing no longer.
    expect(run.notes).not.toEqual(grown.notes);
  });
  it('take a range of steps, every n-th', () => {
    const plan = stepsOf(...Array.from({ length: 10 }, (_, i) => `${i}.vtu`));
    const paths = chosenSteps(plan, { steps: { from: 1, to: 8, every: 3 } }).map((s) => s.files[0].path);
    expect(paths).toEqual(['1.vtu', '4.vtu', '7.vtu']);
  });
});

describe('runs that grow', () => {
  it('get steps behind their own: meshes are shared, ranges follow', async () => {
    const all = ovenSteps();
    const first = await importSteps(all.slice(0, 2));
    const rest = await importSteps(all.slice(2), first.store);
    const run = addSteps(first.run, rest.run);
    expect(run.steps.map((s) => s.time)).toEqual([0, 5, 10]);
    expect(run.parts[0].meshes).toHaveLength(1);
    expect(run.fields[0].perStep.map((s) => s!.components[0].min)).toEqual([20, 30, 40]);
    expect(run.fields[0].overall.components[0]).toMatchObject({ min: 20, max: 46 });
  });
  it('follow parts and fields that come and go', async () => {
    const mesh = hexBlock(1);
    const one = await importFiles(
      { a: writeVtu(mesh, []) },
      {
        ...emptyPlan('o'),
        steps: [{ time: 0, files: [{ path: 'a', part: 'tin', piece: null, step: 0 }] }],
      },
    );
    const two = await importFiles(
      { b: writeVtu(mesh, [temperature(mesh, () => 5)]) },
      {
        ...emptyPlan('o'),
        steps: [{ time: 1, files: [{ path: 'b', part: 'rack', piece: null, step: 0 }] }],
      },
    );
    const run: RunDescription = addSteps(one.run, two.run);
    expect(run.parts.map((p) => [p.name, p.steps.map((s) => s !== null)])).toEqual([
      ['tin', [true, false]],
      ['rack', [false, true]],
    ]);
    expect(run.fields[0].perStep.map((s) => s !== null)).toEqual([false, true]);
  });
});

describe('partitions of one part', () => {
  const mesh = hexBlock(2);
  const right = { ...mesh, points: Float32Array.from(mesh.points, (v, i) => (i % 3 === 0 ? v + 1 : v)) };
  const flags = (ghosts: number[]): FieldToWrite => ({
    name: 'vtkGhostType',
    location: 'cell',
    components: 1,
    data: Uint8Array.from({ length: 8 }, (_, c) => (ghosts.includes(c) ? 1 : 0)),
  });
  const plan: RunPlan = {
    ...emptyPlan('duct'),
    steps: [
      {
        time: null,
        files: ['l.vtu', 'r.vtu'].map((path, piece) => ({ path, part: 'duct', piece, step: 0 })),
      },
    ],
  };
  it('share the points of their border and drop their ghosts', async () => {
    const field = (m: typeof mesh, ghosts: number[]) => [
      temperature(m, (x, y, z) => x + y + z),
      flags(ghosts),
    ];
    const files = {
      'l.vtu': writeVtu(mesh, field(mesh, [])),
      'r.vtu': writeVtu(right, field(right, [0, 2])),
    };
    const { run, store } = await importFiles(files, plan);
    const [stored] = run.parts[0].meshes;
    expect(stored).toMatchObject({ cellCount: 14, bounds: [0, 2, 0, 1, 0, 1] });
    // 45 points make a block of 4 x 2 x 2 cells; what only the ghosts used is gone.
    const points = store.arrays.get(stored.points.hash)!;
    const values = store.arrays.get(run.parts[0].steps[0]!.fields['point:temperature'].hash)!;
    for (let p = 0; p < values.length; p++)
      expect(values[p]).toBeCloseTo(points[3 * p] + points[3 * p + 1] + points[3 * p + 2], 5);
    expect(run.fields.map((f) => f.name)).toEqual(['temperature']);
    expect(
      new Set(Array.from({ length: points.length / 3 }, (_, p) => points.slice(3 * p, 3 * p + 3).join()))
        .size,
    ).toBe(points.length / 3);
  });
  it('that lack a field have no value there', async () => {
    const files = { 'l.vtu': writeVtu(mesh, [temperature(mesh, () => 7)]), 'r.vtu': writeVtu(right, []) };
    const { run } = await importFiles(files, plan);
    expect(run.fields[0].overall.components[0]).toMatchObject({ min: 7, max: 7, nanCount: 18 });
    expect(run.warnings.join()).toMatch(/temperature is in 1 of 2 partitions/);
  });
});

describe('rotating frames', () => {
  const frame: RotatingFrame = { point: [1, 0, 0], axis: [0, 0, 2], rate: 3 };
  it('a fluid at rest, seen from the rotor, is at rest again', () => {
    const points = Float32Array.of(2, 0, 0, 1, 4, 9, 0, -1, 0.5);
    // w = -rate x r, with r from the axis.
    const seen = Float32Array.from({ length: 9 }, (_, i) => {
      const p = 3 * Math.floor(i / 3);
      const [x, y] = [points[p] - 1, points[p + 1]];
      return [3 * y, -3 * x, 0][i % 3];
    });
    for (const v of absoluteVelocity(seen, points, frame)) expect(v).toBeCloseTo(0, 5);
  });
  it('turning as one body is recognised with its rate', () => {
    const { points } = hexBlock(6);
    const turning = Float32Array.from({ length: points.length }, (_, i) => {
      const p = i - (i % 3);
      return [-2 * points[p + 1] + 5, 2 * points[p] - 1, 0.5][i % 3];
    });
    const fit = fitTurning(turning, points);
    expect(fit.share).toBeCloseTo(1, 6);
    for (const [k, v] of [0, 0, 2].entries()) expect(fit.rate[k]).toBeCloseTo(v, 5);
    expect(
      fitTurning(
        Float32Array.from(points, (_, i) => (i % 3 === 0 ? points[i + 1] ** 2 : 0)),
        points,
      ).share,
    ).toBeLessThan(0.6);
  });
  it('stated at the import, both velocities are fields', async () => {
    const mesh = hexBlock(2);
    const velocity: FieldToWrite = {
      name: 'velocity',
      location: 'point',
      components: 3,
      data: Float32Array.from(mesh.points, (_, i) => [mesh.points[i + 1], -mesh.points[i - 1], 0][i % 3]),
    };
    const files = { 'a.vtu': writeVtu(mesh, [velocity]) };
    const turn: RotatingFrame = { point: [0, 0, 0], axis: [0, 0, 1], rate: 1 };
    const { run } = await importFiles(files, stepsOf('a.vtu'), { frames: { oven: turn } });
    expect(run.fields.map((f) => f.name)).toEqual(['velocity', 'velocity (absolute)']);
    expect(run.fields[1].overall.magnitude!.max).toBeCloseTo(0, 6);
    expect(run.parts[0].frame).toEqual(turn);
    const untold = await importFiles(files, stepsOf('a.vtu'));
    expect(untold.run.warnings.join()).toMatch(/turns as one body .*state the axis and speed/);
  });
});

describe('what names tell', () => {
  it.each([
    ['T', 1, 'temperature'],
    ['U', 3, 'velocity'],
    ['Urel', 3, 'relative velocity'],
    ['disp', 3, 'displacement'],
    ['von_Mises_stress', 1, 'stress'],
    ['strain', 6, 'strain'],
    ['alpha.water', 1, 'fraction'],
    ['signed_distance', 1, 'distance'],
    ['GlobalNodeId', 1, 'identifier'],
    ['region', 1, 'identifier'],
    ['p', 1, 'pressure'],
    ['humidity', 1, 'other'],
  ] as const)('%s of %i looks like %s', (name, components, role) => {
    expect(guessRole(name, components)).toBe(role);
  });
  it('complex halves find each other', () => {
    const field = (name: string, components = 3) => ({ key: `point:${name}`, name, components });
    const pairs = complexPairs([
      field('E_re'),
      field('E_im'),
      field('H_amplitude'),
      field('H_phase'),
      field('lone_re'),
      field('E_im', 1),
    ]);
    expect(pairs.get('point:E_re')).toEqual({ half: 'real', of: 'E', other: 'point:E_im' });
    expect(pairs.get('point:H_phase')).toEqual({ half: 'phase', of: 'H', other: 'point:H_amplitude' });
    expect(pairs.has('point:lone_re')).toBe(false);
  });
  it('units stand in brackets', () => {
    expect(['speed [m/s]', 'time (s)', 'T (°C)', 'a (b)', 'x'].map(unitInName)).toEqual([
      'm/s',
      's',
      '°C',
      null,
      null,
    ]);
  });
});

it('some cells of a mesh keep their shape and lead back to it', () => {
  const mesh = hexBlock(2) as Mesh;
  const { mesh: few, recipe } = subsetCells(mesh, Uint32Array.of(7, 0));
  expect(few.types).toHaveLength(2);
  expect(few.points).toHaveLength(3 * 15);
  for (const [i, p] of recipe!.points.index.entries())
    expect(Array.from(few.points.slice(3 * i, 3 * i + 3))).toEqual(
      Array.from(mesh.points.slice(3 * p, 3 * p + 3)),
    );
  expect(Array.from(recipe!.cells.index)).toEqual([7, 0]);
});
