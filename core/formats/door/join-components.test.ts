import { describe, expect, it } from 'vitest';
import { firstMesh } from '../../../tests/open-mesh.ts';
import { importSteps } from '../../../tests/sample-run.ts';
import { buildVtu, hexBlock } from '../../../tests/vtu-builder.ts';
import { inspectRun } from '../../measure/inspect-report.ts';
import { openFile } from '../registry.ts';
import { componentNames } from './component-names.ts';
import { joinComponents } from './join-components.ts';

const groups = (...names: string[]): string[] =>
  componentNames(names).map(({ name, columns }) => `${name}: ${columns.map((c) => names[c]).join(' ')}`);

describe('names of components', () => {
  it('make vectors of letters behind a quantity, in any case and order', () => {
    expect(groups('vx', 'vy', 'vz')).toEqual(['velocity: vx vy vz']);
    expect(groups('fz', 'q', 'fy', 'fx')).toEqual(['force: fx fy fz', 'q: q']);
    expect(groups('ux', 'uy', 'uz', 'T')).toEqual(['u: ux uy uz', 'T: T']);
    expect(groups('MomentumX', 'MomentumY', 'MomentumZ')).toEqual([
      'Momentum: MomentumX MomentumY MomentumZ',
    ]);
    expect(groups('omegax', 'omegay', 'omegaz')).toEqual(['angular velocity: omegax omegay omegaz']);
  });
  it('make vectors of an axis before a tail, for coordinates', () => {
    expect(groups('xu', 'yu', 'zu')).toEqual(['unwrapped position: xu yu zu']);
    expect(groups('xs', 'ys', 'zs')).toEqual(['scaled position: xs ys zs']);
    expect(groups('xa', 'ya', 'za')).toEqual(['xa: xa', 'ya: ya', 'za: za']);
  });
  it('make vectors of numbers behind a quantity that has a direction, and of numbers in brackets', () => {
    expect(groups('velocity_0', 'velocity_1', 'velocity_2')).toEqual([
      'velocity: velocity_0 velocity_1 velocity_2',
    ]);
    expect(groups('displacement.1', 'displacement.2', 'displacement.3')).toEqual([
      'displacement: displacement.1 displacement.2 displacement.3',
    ]);
    expect(groups('c_s[1]', 'c_s[2]', 'c_s[3]', 'c_s[4]')).toEqual(['c_s: c_s[1] c_s[2] c_s[3] c_s[4]']);
    // Shares of three species are no direction, and four velocities no vector.
    expect(groups('species_0', 'species_1', 'species_2')).toHaveLength(3);
    expect(groups('velocity_0', 'velocity_1', 'velocity_2', 'velocity_3')).toHaveLength(4);
    expect(groups('velocity_1', 'velocity_2')).toHaveLength(2);
  });
  it('leave what only looks alike alone', () => {
    expect(groups('x', 'y', 'z')).toHaveLength(3);
    expect(groups('flux', 'fluz')).toHaveLength(2);
    expect(groups('vx', 'vz')).toHaveLength(2);
  });
});

describe('scalars of one quantity, in every format', () => {
  const values = [
    [1, 2, 3],
    [4, 5, 6],
    [7, 8, 9],
  ];
  const rows = [0, 1, 2].map((p) => [p, p * p, 0, ...values.map((v) => v[p])].join(' '));
  const files: Record<string, string> = {
    'a.dump': `ITEM: TIMESTEP\n0\nITEM: NUMBER OF ATOMS\n3\nITEM: BOX BOUNDS pp pp pp\n0 9\n0 9\n0 9\nITEM: ATOMS x y z vx vy vz\n${rows.join('\n')}\n`,
    'a.xyz': `3\nProperties=species:S:1:pos:R:3:vx:R:1:vy:R:1:vz:R:1\n${rows.map((r) => `H ${r}`).join('\n')}\n`,
    'a.ply': `ply\nformat ascii 1.0\nelement vertex 3\n${['x', 'y', 'z', 'vx', 'vy', 'vz'].map((n) => `property float ${n}\n`).join('')}end_header\n${rows.join('\n')}\n`,
    'a.vtk': `# vtk DataFile Version 3.0\nt\nASCII\nDATASET POLYDATA\nPOINTS 3 float\n0 0 0\n1 1 0\n2 4 0\nPOINT_DATA 3\n${['vx', 'vy', 'vz'].map((n, k) => `SCALARS ${n} float 1\nLOOKUP_TABLE default\n${values[k].join(' ')}\n`).join('')}`,
  };
  for (const [name, text] of Object.entries(files))
    it(name, async () => {
      const opened = firstMesh(await openFile(new TextEncoder().encode(text), name));
      const joined = joinComponents(opened);
      const at = joined.fields.findIndex((f) => f.name === 'velocity');
      expect(joined.fields[at]).toMatchObject({
        location: 'point',
        components: 3,
        joinedFrom: ['vx', 'vy', 'vz'],
      });
      expect(Array.from(joined.readField(at))).toEqual([1, 4, 7, 2, 5, 8, 3, 6, 9]);
      const apart = joinComponents(opened, ['velocity']);
      expect(apart.fields.map((f) => f.name)).toEqual(expect.arrayContaining(['vx', 'vy', 'vz']));
      expect(Array.from(apart.readField(apart.fields.findIndex((f) => f.name === 'vy')))).toEqual([4, 5, 6]);
    });

  const scalar = (name: string, location: 'point' | 'cell', add: number) => ({
    name,
    location,
    components: 1,
    type: 'Float64' as const,
    data: Array.from({ length: location === 'point' ? 8 : 1 }, (_, i) => i + add),
  });
  const vtu = (...fields: ReturnType<typeof scalar>[]): Uint8Array =>
    new Uint8Array(buildVtu(hexBlock(1), fields, { format: 'ascii', header: 4, big: false, zlib: false }));

  it('are joined when a run is imported, with a range of their length, and told by inspect', async () => {
    const bytes = vtu(
      ...['x', 'y', 'z'].map((a, k) => scalar(`v${a}`, 'cell', 2 * k + 1)),
      scalar('T', 'point', 0),
    );
    const { run } = await importSteps([{ time: 0, parts: { oven: bytes } }]);
    const velocity = run.fields.find((f) => f.name === 'velocity')!;
    expect(velocity).toMatchObject({ key: 'cell:velocity', components: 3, role: 'velocity' });
    // (1, 3, 5) is as long as the root of 35.
    expect(velocity.overall.magnitude!.max).toBeCloseTo(Math.sqrt(35), 12);
    const told = inspectRun(run).fields.map((f) => [f.name, f.joinedFrom]);
    expect(told).toContainEqual(['velocity', ['vx', 'vy', 'vz']]);
    expect(told).toContainEqual(['T', []]);
  });
  it('stay scalars where a field has the name of the vector, or they lie on different places', async () => {
    const named = [0, 1, 2].map((k) => scalar(`v${'xyz'[k]}`, 'point', k));
    const taken = await importSteps([
      { time: 0, parts: { a: vtu(...named, scalar('velocity', 'point', 9)) } },
    ]);
    expect(taken.run.fields.map((f) => f.name)).toEqual(['vx', 'vy', 'vz', 'velocity']);
    const mixed = await importSteps([
      { time: 0, parts: { a: vtu(named[0], named[1], scalar('vz', 'cell', 1)) } },
    ]);
    expect(mixed.run.fields.map((f) => [f.name, f.components])).toEqual([
      ['velocity', 2],
      ['vz', 1],
    ]);
  });
});
