import { writePvd, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { DemoRun } from '../demo-run.ts';
import { BandedMatrix } from '../shared/banded-cholesky.ts';
import { type Place, quadGrid } from '../shared/grid-mesh.ts';

const ALONG = 110;
const ACROSS = 26;
/** Of air, kg/m3; turning speed, radians a second (2,800 turns a minute). */
const DENSITY = 1.2;
const TURNING = (2 * Math.PI * 2800) / 60;
/** Share of the speed of the wheel that the air takes on at its rim. */
const SLIP = 0.82;
/** Between these shares of the way stand the blades. */
const BLADES = [0.3, 0.82];
const FLOWS = Array.from({ length: 10 }, (_, i) => 0.1 + 0.05 * i);

/** A curve through four control points (Bézier). */
const curve = (p: [number, number][], t: number): [number, number] => {
  const w = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t ** 3];
  return [0, 1].map((k) => p.reduce((sum, q, i) => sum + w[i] * q[k], 0)) as [number, number];
};
const HUB: [number, number][] = [
  [0, 0.035],
  [0.1, 0.035],
  [0.13, 0.06],
  [0.13, 0.19],
];
const SHROUD: [number, number][] = [
  [0, 0.1],
  [0.055, 0.1],
  [0.085, 0.11],
  [0.09, 0.19],
];

/** A place in the passage: axial and radial, from the inlet (s = 0) to the rim and from hub (t = 0) to shroud. */
function place(s: number, t: number): Place {
  const [h, c] = [curve(HUB, s), curve(SHROUD, s)];
  return [h[0] + t * (c[0] - h[0]), h[1] + t * (c[1] - h[1]), 0];
}

/**
 * Stream function of flow without eddies through a ring-shaped passage, by bilinear finite elements: 0 at the hub, 1 at
 * the shroud, the flow straight through inlet and outlet. Divided by r and differentiated it gives velocities (Stokes;
 * Batchelor, An Introduction to Fluid Dynamics, from memory).
 */
export function streamFunction(
  nx: number,
  ny: number,
  at: (s: number, t: number) => Place,
): { psi: Float64Array; velocity: Float64Array } {
  const node = (i: number, j: number): number => i * (ny + 1) + j;
  const n = (nx + 1) * (ny + 1);
  const matrix = new BandedMatrix(n, ny + 3);
  const places = Array.from({ length: n }, (_, p) => at(Math.floor(p / (ny + 1)) / nx, (p % (ny + 1)) / ny));
  const right = new Float64Array(n);
  const corners = [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ];
  const slopesAt = (cell: number[], x: number, y: number) => {
    const local = corners.map(([a, b]) => [(a * (1 + b * y)) / 4, (b * (1 + a * x)) / 4]);
    const shape = corners.map(([a, b]) => ((1 + a * x) * (1 + b * y)) / 4);
    const j = [0, 1].map((k) =>
      [0, 1].map((l) => cell.reduce((s, p, m) => s + local[m][k] * places[p][l], 0)),
    );
    const area = j[0][0] * j[1][1] - j[0][1] * j[1][0];
    const slopes = local.map(([u, v]) => [
      (j[1][1] * u - j[0][1] * v) / area,
      (-j[1][0] * u + j[0][0] * v) / area,
    ]);
    const radius = cell.reduce((s, p, m) => s + shape[m] * places[p][1], 0);
    return { slopes, area: Math.abs(area), radius };
  };
  const cells: number[][] = [];
  for (let i = 0; i < nx; i++)
    for (let j = 0; j < ny; j++) cells.push([node(i, j), node(i + 1, j), node(i + 1, j + 1), node(i, j + 1)]);
  const gauss = Math.sqrt(1 / 3);
  for (const cell of cells)
    for (const [a, b] of corners) {
      const { slopes, area, radius } = slopesAt(cell, a * gauss, b * gauss);
      for (let m = 0; m < 4; m++)
        for (let o = 0; o < 4; o++)
          matrix.add(
            cell[m],
            cell[o],
            (area / radius) * (slopes[m][0] * slopes[o][0] + slopes[m][1] * slopes[o][1]),
          );
    }
  const stiff = 1e9 / (at(0, 0.5)[1] || 1);
  for (let i = 0; i <= nx; i++)
    for (const [j, value] of [
      [0, 0],
      [ny, 1],
    ]) {
      matrix.add(node(i, j), node(i, j), stiff);
      right[node(i, j)] += stiff * value;
    }
  const psi = matrix.factor().solve(right);
  const velocity = new Float64Array(2 * n);
  const around = new Uint8Array(n);
  for (const cell of cells)
    for (const [m, [a, b]] of corners.entries()) {
      const { slopes, radius } = slopesAt(cell, a, b);
      const p = cell[m];
      velocity[2 * p] += cell.reduce((s, q, o) => s + psi[q] * slopes[o][1], 0) / radius;
      velocity[2 * p + 1] -= cell.reduce((s, q, o) => s + psi[q] * slopes[o][0], 0) / radius;
      around[p]++;
    }
  return { psi, velocity: velocity.map((v, i) => v / around[i >> 1]) };
}

/** How far the air has taken on the turning of the wheel, 0 before the blades and 1 behind them. */
const turned = (s: number): number => {
  const t = Math.min(1, Math.max(0, (s - BLADES[0]) / (BLADES[1] - BLADES[0])));
  return t * t * (3 - 2 * t);
};

/** Air through the wheel of a fan, seen from the wheel, for ten flows; to be revolved about its axis. */
export const fanRotor: DemoRun = {
  id: 'fan-rotor',
  name: 'Fan rotor, seen as it turns',
  file: 'fan-rotor.pvd',
  choices: {
    lengthUnit: 'm',
    timeUnit: 'm³/s',
    stepKind: 'load case',
    frames: { rotor: { point: [0, 0, 0], axis: [1, 0, 0], rate: TURNING } },
  },
  compute(write, progress) {
    const { velocity } = streamFunction(ALONG, ACROSS, place);
    const mesh = quadGrid(ALONG, ACROSS, (i, j) => place(i / ALONG, j / ACROSS));
    const n = (ALONG + 1) * (ACROSS + 1);
    const rows = [];
    for (const [step, flow] of FLOWS.entries()) {
      const relative = new Float32Array(3 * n);
      const pressure = new Float32Array(n);
      for (let j = 0; j <= ACROSS; j++)
        for (let i = 0; i <= ALONG; i++) {
          const p = j * (ALONG + 1) + i;
          const from = 2 * (i * (ACROSS + 1) + j);
          const radius = place(i / ALONG, j / ACROSS)[1];
          const [axial, radial] = [0, 1].map((k) => (velocity[from + k] * flow) / (2 * Math.PI));
          const swirl = SLIP * TURNING * radius * turned(i / ALONG);
          relative.set([axial, radial, swirl - TURNING * radius], 3 * p);
          // What the blades give the air is Ω r times its swirl (Euler 1754); what is left of it is pressure (Bernoulli).
          pressure[p] = DENSITY * (TURNING * radius * swirl - (axial ** 2 + radial ** 2 + swirl ** 2) / 2);
        }
      const file = `fan-rotor-${String(step + 1).padStart(2, '0')}.vtu`;
      const time = Number(flow.toFixed(2));
      write(
        file,
        writeVtu(
          mesh,
          [
            { name: 'pressure', location: 'point', components: 1, unit: 'Pa', data: pressure },
            { name: 'relative velocity', location: 'point', components: 3, unit: 'm/s', data: relative },
          ],
          time,
          { length: 'm' },
        ),
      );
      rows.push({ time, part: 0, name: 'rotor', file });
      progress((step + 1) / FLOWS.length);
    }
    write(this.file, writePvd(rows));
  },
};
