import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import type { InspectReport } from '#core/measure/inspect-report.ts';
import type { Mesh } from '#core/model/mesh.ts';
import type { RunDescription, RunField } from '#core/model/run.ts';
import { fieldStatistics, meanOf, type Statistics } from '#core/model/statistics.ts';
import { runChain, sourceOf } from '#core/ops/chain/chain.ts';
import { plainContext } from '#core/ops/chain/workpiece.ts';
import { inspect } from '../../cli/inspect.ts';
import { pointValues } from '../mesh-checks.ts';
import { type ReadRuns, readRuns } from '../read-run.ts';

/** Facts computed from the same files by an independent script. */
const facts = JSON.parse(readFileSync('tests/fixtures/expected.json', 'utf8'));
const sample = (name: string): string => `tests/fixtures/samples/${name}`;

const near = (actual: number | null | undefined, wanted: number, what = '', relative = 1e-6): void => {
  expect(Math.abs(actual! - wanted), `${what}: ${actual} for ${wanted}`).toBeLessThanOrEqual(
    relative * Math.max(Math.abs(wanted), 1e-6),
  );
};

interface Fact {
  min: number;
  max: number;
  mean: number;
}

const same = (s: Statistics, fact: Fact, what: string): void => {
  near(s.min, fact.min, `${what} min`);
  near(s.max, fact.max, `${what} max`);
  near(meanOf(s), fact.mean, `${what} mean`);
};

/** One component of a field of a run at a step, from its stored numbers. */
function column(read: ReadRuns, run: RunDescription, name: string, step: number, component = 0): Statistics {
  const field = run.fields.find((f) => f.name === name)!;
  const part = run.parts.find((p) => p.steps[step]?.fields[field.key])!;
  const data = read.array(part.steps[step]!.fields[field.key]);
  return fieldStatistics(data, field.components).components[component];
}

describe('duct-parts: partitions with ghost cells, zipped', () => {
  const { joined, times } = facts['duct-parts'];
  let read: ReadRuns;
  beforeAll(async () => {
    read = await readRuns([sample('duct-parts.zip')]);
  });

  it('is one part at all times, its points merged and its ghosts dropped', () => {
    expect(read.problems).toEqual([]);
    expect(read.runs).toHaveLength(1);
    const [run] = read.runs;
    expect(run.steps.map((s) => s.time)).toEqual(times);
    expect(run.parts).toHaveLength(1);
    expect(run.parts[0].meshes).toHaveLength(1);
    const [mesh] = run.parts[0].meshes;
    expect([mesh.pointCount, mesh.cellsByType]).toEqual([joined.points, joined.cells]);
    for (const [k, v] of joined.bounds.flat().entries()) near(mesh.bounds[k], v);
    expect(run.warnings.join()).toContain(`${joined.interface_points} doubled points`);
    expect(run.warnings.join()).toContain(`${facts['duct-parts'].raw_sum.ghost_cells} ghost`);
  });

  it('has the ranges and means of the joined fields in the first and last step', () => {
    const [run] = read.runs;
    for (const [name, fact] of Object.entries<
      Record<string, Fact & { components?: Fact[]; magnitude?: Fact }>
    >(joined.fields)) {
      const field = run.fields.find((f) => f.name === name) as RunField;
      for (const [when, step] of [
        ['first', 0],
        ['last', 5],
      ] as const) {
        const stats = field.perStep[step]!;
        same(stats.magnitude ?? stats.components[0], fact[when].magnitude ?? fact[when], `${name} ${when}`);
        fact[when].components?.forEach((c, k) => void same(stats.components[k], c, `${name}[${k}] ${when}`));
      }
    }
  });

  it('its sections have the areas and mean temperatures of the facts', () => {
    const [run] = read.runs;
    const [stored] = run.parts[0].meshes;
    const mesh = {
      points: read.array(stored.points),
      types: read.array(stored.types),
      offsets: read.array(stored.offsets),
      connectivity: read.array(stored.connectivity),
    } as Mesh;
    const source = sourceOf(mesh, plainContext(run.origin));
    for (const [name, cut] of Object.entries<{
      origin: number[];
      normal: number[];
      area: number;
      T_mean: number;
    }>(joined.sections_last_step)) {
      const normal = cut.normal as [number, number, number];
      const offset = normal.reduce((n, v, k) => n + v * cut.origin[k], 0);
      const piece = runChain(source, [{ op: 'section', options: { normal, offset, locked: false } }]);
      const { mesh: out } = piece;
      const T = pointValues(piece, read.array(run.parts[0].steps[5]!.fields['point:T']), 1, 0);
      let area = 0;
      let sum = 0;
      for (let c = 0; c < out.types.length; c++) {
        const at = (k: number) => out.connectivity[out.offsets[c] + k];
        for (let k = 1; k + 1 < out.offsets[c + 1] - out.offsets[c]; k++) {
          const [a, b, d] = [at(0), at(k), at(k + 1)];
          const u = [0, 1, 2].map((i) => out.points[3 * b + i] - out.points[3 * a + i]);
          const v = [0, 1, 2].map((i) => out.points[3 * d + i] - out.points[3 * a + i]);
          const size =
            Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2;
          area += size;
          sum += (size * (T[a] + T[b] + T[d])) / 3;
        }
      }
      near(area, cut.area, `${name} area`, 1e-5);
      near(sum / area, cut.T_mean, `${name} mean`, 1e-4);
    }
  });
});

describe('shelf: legacy VTK, gzipped', () => {
  it('holds what the VTU of the same run holds', async () => {
    const read = await readRuns([sample('shelf.vtk.gz')]);
    expect(read.problems).toEqual([]);
    const [run] = read.runs;
    const [mesh] = run.parts[0].meshes;
    expect([mesh.pointCount, mesh.cellsByType]).toEqual([facts.shelf.points, facts.shelf.cells]);
    for (const [name, fact] of Object.entries<{ first: Fact & { components?: Fact[]; magnitude?: Fact } }>(
      facts.shelf.fields,
    )) {
      const field = run.fields.find((f) => f.name === name)!;
      if (fact.first.magnitude) same(field.overall.magnitude!, fact.first.magnitude, name);
      if (fact.first.components)
        fact.first.components.forEach((c, k) => void same(field.overall.components[k], c, name));
      else same(field.overall.components[0], fact.first, name);
    }
    expect(run.warnings.join()).toContain('colour table');
  });
});

describe('wire: atoms of a dump and of an extended XYZ file', () => {
  const { wire } = facts;
  const columns: [string, string, number][] = [
    ['id', 'id', 0],
    ['type', 'type', 0],
    ['x', 'position', 0],
    ['y', 'position', 1],
    ['z', 'position', 2],
    ['vx', 'velocity', 0],
    ['vy', 'velocity', 1],
    ['vz', 'velocity', 2],
    ['c_csp', 'c_csp', 0],
  ];
  let read: ReadRuns;
  beforeAll(async () => {
    read = await readRuns([sample('wire.dump.gz')]);
  });

  it('has its frames, atoms, box and every column', () => {
    const [run] = read.runs;
    expect(run.steps.map((s) => s.time)).toEqual(wire.steps);
    const atoms = run.parts.find((p) => p.name === 'atoms')!;
    const box = run.parts.find((p) => p.name === 'box')!;
    expect(atoms.kind).toBe('atoms');
    for (const [when, step] of [
      ['first', 0],
      ['last', 12],
    ] as const) {
      const fact = wire[when];
      expect(atoms.meshes[atoms.steps[step]!.mesh].pointCount).toBe(fact.atoms);
      for (const [k, v] of fact.box.flat().entries()) near(box.meshes[0].bounds[k], v, `box ${k}`);
      for (const [name, field, component] of columns)
        same(column(read, run, field, step, component), fact.columns[name], `${name} ${when}`);
    }
  });

  it('counts the marked atoms of every frame', () => {
    const [run] = read.runs;
    const atoms = run.parts[0];
    for (const [n, fact] of wire.defect_curve.entries()) {
      const csp = read.array(atoms.steps[n]!.fields['point:c_csp']);
      const x = read.array(atoms.steps[n]!.fields['point:position']);
      let count = 0;
      let sum = 0;
      for (let i = 0; i < csp.length; i++) {
        if (csp[i] < 4 || csp[i] > 9) continue;
        count++;
        sum += x[3 * i];
      }
      expect(count).toBe(fact.n_csp_4_to_9);
      near(sum / count, fact.mean_x_csp_4_to_9, `frame ${n}`);
    }
  });

  it('the XYZ file is the last frame', async () => {
    const xyz = await readRuns([sample('wire_last.xyz.gz')]);
    const [run] = xyz.runs;
    expect(run.steps[0].time).toBe(wire.last.time_ps);
    expect(run.timeUnit).toBe('ps');
    const own = (r: ReadRuns, field: string, step: number) =>
      r.array(r.runs[0].parts[0].steps[step]!.fields[`point:${field}`]);
    expect(Array.from(own(xyz, 'position', 0))).toEqual(Array.from(own(read, 'position', 12)));
    expect(Array.from(own(xyz, 'csp', 0))).toEqual(Array.from(own(read, 'c_csp', 12)));
  });
});

describe('nozzle: tables of droplets and surfaces', () => {
  const { nozzle } = facts;
  const names: [string, string, number][] = [
    ['x', 'x', 0],
    ['y', 'y', 0],
    ['z', 'z', 0],
    ['u', 'velocity', 0],
    ['v', 'velocity', 1],
    ['w', 'velocity', 2],
    ['diameter', 'diameter', 0],
    ['temperature', 'temperature', 0],
    ['mass', 'mass', 0],
    ['time', 'time', 0],
  ];
  const check = async (file: string, rows: number, of: Record<string, Fact>, key: (n: string) => string) => {
    const { runs, problems } = await inspect([sample(file)]).then((r: InspectReport) => ({
      runs: r.runs,
      problems: r.errors,
    }));
    expect(problems).toEqual([]);
    expect(runs[0].parts[0]).toMatchObject({ kind: 'particles', points: rows });
    for (const [name, field, k] of names) {
      const found = runs[0].fields.find((f) => f.name === field)!.componentRanges[k];
      const fact = of[key(name)];
      near(found.min, fact.min, `${name} min`);
      near(found.max, fact.max, `${name} max`);
      near(found.mean, fact.mean, `${name} mean`);
    }
    return runs[0];
  };

  it('a white-space table with comment lines', () =>
    check('landings.dat.gz', nozzle.rows, nozzle.column_facts, (n) => n));

  it('semicolons, decimal commas and units in the names', async () => {
    const unit: Record<string, string> = {
      u: 'm/s',
      v: 'm/s',
      w: 'm/s',
      temperature: 'K',
      mass: 'kg',
      time: 's',
    };
    const first = nozzle.first2000_csv;
    const run = await check(
      'landings_first2000.csv',
      first.rows,
      first.column_facts,
      (n) => `${n} [${unit[n] ?? 'm'}]`,
    );
    expect(run.lengthUnit).toBe('m');
    expect(run.fields.find((f) => f.name === 'velocity')!.unit).toBe('m/s');
  });

  it('total and part masses', async () => {
    const mass = async (file: string): Promise<number> => {
      const read = await readRuns([sample(file)]);
      const values = read.array(read.runs[0].parts[0].steps[0]!.fields['point:mass']);
      return (values as Float64Array).reduce((a, b) => a + b, 0);
    };
    near(await mass('landings.dat.gz'), nozzle.total_mass);
    near(await mass('landings_tin.csv.gz'), nozzle.tin_csv.mass);
  });

  it('STL and OBJ surfaces: counts, areas and enclosed volumes', async () => {
    const measure = (read: ReadRuns, part: string) => {
      const [m] = read.runs[0].parts.find((p) => p.name === part)!.meshes;
      const p = read.array(m.points);
      const c = read.array(m.connectivity);
      let area = 0;
      let volume = 0;
      for (let t = 0; t < c.length; t += 3) {
        const [a, b, d] = [0, 1, 2].map((k) => [0, 1, 2].map((i) => p[3 * c[t + k] + i]));
        const u = b.map((v, i) => v - a[i]);
        const w = d.map((v, i) => v - a[i]);
        const n = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
        area += Math.hypot(...n) / 2;
        volume += (a[0] * n[0] + a[1] * n[1] + a[2] * n[2]) / 6;
      }
      return { triangles: c.length / 3, area, volume };
    };
    const stl = measure(await readRuns([sample('chamber.stl')]), 'chamber');
    expect(stl.triangles).toBe(nozzle.stl.triangles);
    near(stl.area, nozzle.stl.area, 'stl area', 1e-5);
    near(stl.volume, nozzle.stl.signed_volume, 'stl volume', 1e-5);
    const obj = await readRuns([sample('chamber.obj')]);
    for (const [name, fact] of Object.entries<{ triangles: number; area: number; signed_volume: number }>(
      nozzle.obj.groups,
    )) {
      const found = measure(obj, name);
      expect(found.triangles).toBe(fact.triangles);
      near(found.area, fact.area, `${name} area`, 1e-5);
      near(found.volume, fact.signed_volume, `${name} volume`, 1e-5);
    }
  });
});

describe('history: curves over time', () => {
  it('has every column with its first and last value, range, mean and unit', async () => {
    const { history } = facts;
    const report = await inspect([sample('door_history.csv.gz'), sample('door_forces.csv.gz')]);
    expect(report.errors).toEqual([]);
    const table = report.runs.flatMap((r) => r.tables).find((t) => t.name === 'door_history')!;
    expect(table).toMatchObject({ rows: history.rows, time: 'time [s]' });
    expect(table.columns.map((c) => c.name)).toEqual(history.columns);
    for (const column of table.columns) {
      const fact = history.column_facts[column.name];
      for (const key of ['first', 'last', 'min', 'max', 'mean'] as const)
        near(column[key], fact[key], `${column.name} ${key}`);
      expect(`${column.name.replace(/ \[.*/, '')} [${column.unit}]`).toBe(column.name);
    }
    const forces = report.runs.flatMap((r) => r.tables).find((t) => t.name === 'door_forces')!;
    expect(forces.rows).toBe(history.force_rows);
    expect(forces.columns.map((c) => c.name)).toEqual(history.force_columns);
  });
});

describe('family: a table of runs in an archive with its files', () => {
  it('makes each row a run with its parameters, matched to its facts', async () => {
    const { family } = facts;
    const { runs, errors } = await inspect([sample('family.zip')]);
    expect(errors).toEqual([]);
    expect(runs).toHaveLength(family.cases);
    for (const fact of family.case) {
      const run = runs.find((r) => `${r.name}.vtu` === fact.file)!;
      expect(run.parameters).toMatchObject({
        fan_rpm: fact.fan_rpm,
        vent_deg: fact.vent_deg,
        mean_T: fact.mean_T,
        power_W: fact.power_W,
      });
      expect(run.parts[0]).toMatchObject({ points: family.points, cellsByType: family.cells });
      for (const [name, f] of Object.entries<{ first: Fact & { magnitude?: Fact } }>(fact.fields)) {
        const found = run.fields.find((r) => r.name === name)!;
        const wanted = f.first.magnitude ?? f.first;
        for (const key of ['min', 'max', 'mean'] as const)
          near(found[key], wanted[key], `${fact.file} ${name} ${key}`);
      }
    }
  });
});
