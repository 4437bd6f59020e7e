import { Solver } from 'odex';
import { describe, expect, it } from 'vitest';
import { buildBlocks } from '#core/model/blocks.ts';
import type { MeshField } from '#core/model/field.ts';
import { hexBlockBetween, mixedBlock, tetraBlock } from '../../../tests/made-solids.ts';
import { type Asked, type Flow, HERE, MeshFlow, OUTSIDE } from './flow.ts';
import { type LineEnd, LineTracer, type TraceLimits } from './trace-line.ts';

type Velocity = (x: number, y: number, z: number, t: number) => number[];

/** A flow known by a formula, everywhere or where `inside` says. */
const formulaFlow = (
  velocity: Velocity,
  fastest = 1,
  inside = (_: number[]): boolean => true,
  reach = 0.5,
): Flow => ({
  fastest,
  reach: () => reach,
  at(x, y, z, t, out): Asked {
    if (!inside([x, y, z])) return OUTSIDE;
    out.set(velocity(x, y, z, t));
    return HERE;
  },
});

interface Traced {
  end: LineEnd;
  points: number[][];
  times: number[];
  last: number[];
  length: number;
}

const limits: TraceLimits = { tolerance: 1e-9, length: 100, time: 10, steps: 100_000 };

function follow(
  flow: Flow,
  place: number[],
  change: Partial<TraceLimits> = {},
  sense: 1 | -1 = 1,
  time = 0,
): Traced {
  const points: number[][] = [];
  const times: number[] = [];
  let length = 0;
  const end = new LineTracer(flow, { ...limits, ...change }).trace(
    { place, time, sense },
    (x, y, z, t, l) => {
      points.push([x, y, z]);
      times.push(t);
      length = l;
    },
  );
  return { end, points, times, last: points[points.length - 1], length };
}

const away = (a: number[], b: number[]): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);

const helix: Velocity = (x, y) => [-y, x, 0.25];

describe('lines against closed forms', () => {
  it('solid rotation and helix: after a turn at the same place, a pitch higher', () => {
    for (const sense of [1, -1] as const) {
      const { last, end, length } = follow(formulaFlow(helix), [1, 0, 0], { time: 2 * Math.PI }, sense);
      expect(end).toBe('time');
      expect(away(last, [1, 0, (sense * Math.PI) / 2])).toBeLessThan(1e-7);
      expect(length).toBeCloseTo(2 * Math.PI * Math.hypot(1, 0.25), 2);
    }
  });

  it('error falls with the tolerance', () => {
    const errors = [1e-3, 1e-5, 1e-7, 1e-9].map((tolerance) =>
      away(follow(formulaFlow(helix, 1, undefined, 50), [1, 0, 0], { tolerance, time: 10 }).last, [
        Math.cos(10),
        Math.sin(10),
        2.5,
      ]),
    );
    for (let i = 1; i < errors.length; i++) expect(errors[i]).toBeLessThan(0.1 * errors[i - 1] + 1e-12);
    expect(errors[3]).toBeLessThan(1e-7);
  });

  it('Rankine vortex: circles whose time of a turn is known, in the core and beyond it', () => {
    // Core of radius 1 turning as a solid, outside speed as 1 / r (Saffman, Vortex Dynamics, section 2.4; from memory).
    const rankine: Velocity = (x, y) => {
      const r = Math.hypot(x, y);
      const turn = r < 1 ? 1 : 1 / (r * r);
      return [-y * turn, x * turn, 0];
    };
    for (const r of [0.5, 2]) {
      const time = 2 * Math.PI * (r < 1 ? 1 : r * r);
      const { last, points } = follow(formulaFlow(rankine), [r, 0, 0], { time, length: 1000 });
      expect(away(last, [r, 0, 0])).toBeLessThan(1e-6);
      for (const [x, y] of points) expect(Math.hypot(x, y)).toBeCloseTo(r, 4);
    }
  });

  it('saddle: exponentials, and the product of both coordinates stays', () => {
    const saddle: Velocity = (x, y) => [x, -y, 0];
    const { last, points } = follow(formulaFlow(saddle, 3), [0.1, 2, 0], { time: 3 });
    expect(away(last, [0.1 * Math.exp(3), 2 * Math.exp(-3), 0])).toBeLessThan(1e-6);
    for (const [x, y] of points) expect(x * y).toBeCloseTo(0.2, 5);
  });

  it("Hill's spherical vortex: the stream function stays along a line", () => {
    // Inside a sphere of radius 1, psi = 3/4 s^2 (1 - s^2 - z^2) (Batchelor, An Introduction to Fluid Dynamics, 7.2; from memory):
    // u_s = -(1/s) dpsi/dz, u_z = (1/s) dpsi/ds.
    const hill: Velocity = (x, y, z) => {
      const ss = x * x + y * y;
      return [1.5 * x * z, 1.5 * y * z, 1.5 * (1 - 2 * ss - z * z)];
    };
    const psi = ([x, y, z]: number[]): number => {
      const ss = x * x + y * y;
      return 0.75 * ss * (1 - ss - z * z);
    };
    const start = [0.3, 0.2, -0.1];
    const { points, last } = follow(formulaFlow(hill, 1.5), start, { time: 20 });
    expect(psi(last)).toBeCloseTo(psi(start), 7);
    // What lies between two steps is on a cubic, which is less exact than the steps.
    for (const p of points) expect(psi(p)).toBeCloseTo(psi(start), 4);
  });

  it('ABC flow and the double gyre, which changes with time, as an ODE package has them', () => {
    // Dombre et al., J. Fluid Mech. 167 (1986) 353; Shadden, Lekien, Marsden, Physica D 212 (2005) 271, equation 52 ff.; from
    // memory. Yardstick: the package odex (Hairer's extrapolation method) at a tolerance of 1e-12.
    const [a, b, c] = [Math.sqrt(3), Math.sqrt(2), 1];
    const abc: Velocity = (x, y, z) => [
      a * Math.sin(z) + c * Math.cos(y),
      b * Math.sin(x) + a * Math.cos(z),
      c * Math.sin(y) + b * Math.cos(x),
    ];
    const gyre: Velocity = (x, y, _z, t) => {
      const e = 0.25 * Math.sin((2 * Math.PI * t) / 10);
      const f = e * x * x + (1 - 2 * e) * x;
      const slope = 2 * e * x + 1 - 2 * e;
      const s = 0.1 * Math.PI;
      return [
        -s * Math.sin(Math.PI * f) * Math.cos(Math.PI * y),
        s * Math.cos(Math.PI * f) * Math.sin(Math.PI * y) * slope,
        0,
      ];
    };
    for (const [velocity, start, time] of [
      [abc, [0.3, 0.2, 0.1], 5],
      [gyre, [0.4, 0.3, 0], 15],
    ] as const) {
      const solver = new Solver(3);
      solver.absoluteTolerance = solver.relativeTolerance = 1e-12;
      const { y: reference } = solver.solve((t, [x, y, z]) => velocity(x, y, z, t), 0, [...start], time);
      const { last } = follow(formulaFlow(velocity, 3), [...start], { time, tolerance: 1e-10 });
      expect(away(last, reference)).toBeLessThan(1e-6);
    }
  });
});

describe('why a line ends', () => {
  const along: Velocity = () => [1, 0, 0];
  it('says it for each limit', () => {
    expect(follow(formulaFlow(along), [0, 0, 0], { length: 3 }).end).toBe('length');
    expect(follow(formulaFlow(along), [0, 0, 0], { length: 3 }).last[0]).toBeCloseTo(3, 5);
    expect(follow(formulaFlow(along), [0, 0, 0], { time: 2 }).end).toBe('time');
    expect(follow(formulaFlow(along), [0, 0, 0], { time: Infinity, length: 5 }).end).toBe('length');
    expect(follow(formulaFlow(along), [0, 0, 0], { steps: 4 }).end).toBe('steps');
    expect(
      follow(
        formulaFlow(() => [0, 0, 0]),
        [0, 0, 0],
      ).end,
    ).toBe('still');
  });

  it('slows down towards a place where nothing moves, and ends there', () => {
    const { end, last } = follow(
      formulaFlow((x, y, z) => [-x, -y, -z]),
      [1, 1, 0],
      { time: 1e6 },
    );
    expect(end).toBe('still');
    expect(away(last, [0, 0, 0])).toBeLessThan(1e-5);
  });

  it('at a wall, within a small part of a cell', () => {
    const { end, last } = follow(
      formulaFlow(along, 1, ([x]) => x <= 2),
      [0, 0, 0],
    );
    expect(end).toBe('left');
    expect(last[0]).toBeGreaterThan(1.98);
    expect(last[0]).toBeLessThanOrEqual(2);
    expect(
      follow(
        formulaFlow(along, 1, ([x]) => x > 1),
        [0, 0, 0],
      ),
    ).toMatchObject({ end: 'outside', points: [] });
  });
});

describe('lines on meshes', () => {
  const field = (points: Float32Array, velocity: Velocity): MeshField => {
    const data = new Float32Array(points.length);
    for (let i = 0; i < points.length; i += 3)
      data.set(velocity(points[i], points[i + 1], points[i + 2], 0), i);
    return { location: 'point', components: 3, axial: false, data };
  };

  it.each([
    ['tetrahedra', tetraBlock(6)],
    ['hexahedra', hexBlockBetween(6)],
    ['mixed cells', mixedBlock(6)],
  ])('a helix, which is linear, is exact on %s', (_, mesh) => {
    const flow = new MeshFlow(mesh, buildBlocks(mesh), field(mesh.points, helix));
    const { last, end } = follow(flow, [0.6, 0, -0.9], { time: 2 * Math.PI, tolerance: 1e-8 });
    expect(end).toBe('time');
    expect(away(last, [0.6, 0, -0.9 + Math.PI / 2])).toBeLessThan(1e-5);
  });

  it('ends at the wall within a cell, and where values are missing', () => {
    const mesh = tetraBlock(8);
    const flow = new MeshFlow(
      mesh,
      buildBlocks(mesh),
      field(mesh.points, () => [1, 0.2, 0]),
    );
    const { last, end } = follow(flow, [0, 0, 0]);
    expect(end).toBe('left');
    expect(last[0]).toBeGreaterThan(1 - 0.02 * 0.25);
    const holed = field(mesh.points, (x) => [x > 0.49 && x < 0.51 ? Number.NaN : 1, 0.2, 0]);
    const stopped = follow(new MeshFlow(mesh, buildBlocks(mesh), holed), [0, 0, 0]);
    expect(stopped.end).toBe('no value');
    expect(stopped.last[0]).toBeLessThan(0.51);
  });

  it('takes values on cells too', () => {
    const mesh = hexBlockBetween(5);
    const data = new Float32Array(3 * mesh.types.length);
    for (let c = 0; c < mesh.types.length; c++) data.set([1, 0, 0], 3 * c);
    const flow = new MeshFlow(mesh, buildBlocks(mesh), {
      location: 'cell',
      components: 3,
      axial: false,
      data,
    });
    expect(follow(flow, [-0.9, 0.1, 0.1]).last[0]).toBeGreaterThan(0.98);
  });

  describe('that comes no farther', () => {
    // Towards y = 0 from both sides, as the flow along two walls runs into the edge between them.
    const together =
      (along: number): Velocity =>
      (_x, y) => [along, y > 0 ? -1 : 1, 0];

    it('ends soon, with few points', () => {
      const { end, points, last } = follow(formulaFlow(together(0)), [0.3, 0.2, 0]);
      expect(end).toBe('stuck');
      expect(points.length).toBeLessThan(600);
      expect(last[1]).toBeCloseTo(0, 2);
    });

    it('goes on where it is carried along meanwhile', () => {
      const { end, last } = follow(formulaFlow(together(2)), [0, 0.2, 0], { length: 3, tolerance: 1e-5 });
      expect(end).toBe('length');
      expect(last[0]).toBeGreaterThan(1);
    });

    it('turning in less than can be resolved it ends, in more it goes round and round', () => {
      const round: Velocity = (x, y) => [-y, x, 0];
      expect(follow(formulaFlow(round), [0.05, 0, 0], { time: 1000 }).end).toBe('stuck');
      // Back at its seed time and again, never nowhere.
      expect(follow(formulaFlow(round), [0.2, 0, 0], { length: 400, time: 1e6 }).end).toBe('length');
    });

    it('waits in a flow that changes', () => {
      const flow = { ...formulaFlow(() => [1e-6, 0, 0]), changes: true };
      expect(follow(flow, [0, 0, 0], { time: 1000 }).end).toBe('time');
    });
  });
});
