import { type CollectionRow, writePvd, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { type DemoRun, SI } from '../demo-run.ts';
import { AirPressure } from '../oven/air-pressure.ts';
import { hexGrid, type Place } from '../shared/grid-mesh.ts';

/** Cells of the chamber along its length, depth and height, and their side in metres. */
export const SIZE: readonly [number, number, number] = [32, 18, 26];
export const CELL = 0.02;
const [NX, NY, NZ] = SIZE;
const CELLS = NX * NY * NZ;

/** Where air comes in, above and below, and where it leaves: first and one past the last index along depth and height. */
const upper = { y: [3, 15], z: [20, 23] } as const;
const lower = { y: [3, 15], z: [3, 6] } as const;
const outlet = { y: [5, 13], z: [10, 16] } as const;
type Opening = { y: readonly [number, number]; z: readonly [number, number] };

/** Shelves of tins: their corners along each axis. */
const tins = [5, 11, 17].flatMap((z) =>
  [2, 10].flatMap((y) =>
    [4, 13, 22].map((x) => ({ x: [x, x + 6] as const, y: [y, y + 6] as const, z: [z, z + 2] as const })),
  ),
);

const HOT = 235;
const ROOM = 25;
/** Capacity of air by volume, J/(m3 K). */
const HEAT = 850;
/** What eddies spread, in m2/s: a little always, and more in faster air. */
const EDDIES = 4e-4;
const EDDY_LENGTH = 0.012;
/** Through walls, and between air and tin, in W/(m2 K); within tins in W/(m K). */
const LOSS = 6;
const EXCHANGE = 28;
const TIN = 1.2;
/** What boils off a tin, in W/m3 for each degree that it is warmer than the room. */
const BOILING = 260;
/** Air that the fan moves at 1000 rpm, in m3/s, and what it takes to turn it then, in W. */
const MOVED = 0.055;
const POWER = 58;

export interface FanAndVent {
  /** In revolutions per minute. */
  fan: number;
  /** In degrees: flat lets air in below, steep above. */
  vent: number;
}

export const at = (i: number, j: number, k: number): number => (k * NY + j) * NX + i;

const within = (o: Opening, j: number, k: number): boolean =>
  j >= o.y[0] && j < o.y[1] && k >= o.z[0] && k < o.z[1];

export const isTin = (i: number, j: number, k: number): boolean =>
  tins.some(({ x, y, z }) => i >= x[0] && i < x[1] && j >= y[0] && j < y[1] && k >= z[0] && k < z[1]);

/**
 * Air and tins of a chamber at rest after a long time: the air moves without turning (potential flow), and heat goes with it,
 * is spread by eddies, soaks into tins, boils off them and is lost through the walls. Finite volumes, upwind, swept over
 * until it stays (Gauss and Seidel; Patankar 1980, from memory).
 */
export class SteadyOven {
  readonly solid = new Uint8Array(CELLS);
  /** Speeds on the faces across each axis, m/s; the face i lies before the cell i. */
  readonly u = new Float64Array((NX + 1) * NY * NZ);
  readonly v = new Float64Array(NX * (NY + 1) * NZ);
  readonly w = new Float64Array(NX * NY * (NZ + 1));
  readonly temperature = new Float64Array(CELLS).fill((HOT + ROOM) / 2);
  /** m3/s. */
  readonly moved: number;

  constructor({ fan, vent }: FanAndVent) {
    for (let k = 0; k < NZ; k++)
      for (let j = 0; j < NY; j++)
        for (let i = 0; i < NX; i++) this.solid[at(i, j, k)] = Number(isTin(i, j, k));
    this.moved = (MOVED * fan) / 1000;
    const above = Math.sin((vent * Math.PI) / 180) ** 2;
    this.blow(above);
    this.warm();
  }

  /** What goes in with the air, in W, over the room. */
  get heatIn(): number {
    return HEAT * this.moved * (HOT - ROOM);
  }

  /** What leaves with the air, through the walls, and by boiling, in W, over the room. */
  get heatOut(): { air: number; walls: number; boiling: number } {
    const { temperature: t, solid } = this;
    const out = { air: 0, walls: 0, boiling: 0 };
    for (let k = 0; k < NZ; k++)
      for (let j = 0; j < NY; j++)
        for (let i = 0; i < NX; i++) {
          const over = t[at(i, j, k)] - ROOM;
          if (solid[at(i, j, k)]) out.boiling += BOILING * CELL ** 3 * over;
          out.walls += this.wallsOf(i, j, k) * LOSS * CELL ** 2 * over;
          if (i === NX - 1) out.air += HEAT * CELL ** 2 * this.u[ui(NX, j, k)] * over;
        }
    return out;
  }

  /** Mean and largest difference over the tins, °C. */
  get tins(): { mean: number; spread: number } {
    const all = [...this.temperature].filter((_, c) => this.solid[c]);
    return { mean: all.reduce((a, b) => a + b, 0) / all.length, spread: Math.max(...all) - Math.min(...all) };
  }

  /** In m/s, three numbers for each cell: the mean of its faces. */
  velocity(): Float32Array {
    const { u, v, w } = this;
    const out = new Float32Array(3 * CELLS);
    for (let k = 0; k < NZ; k++)
      for (let j = 0; j < NY; j++)
        for (let i = 0; i < NX; i++)
          out.set(
            [
              (u[ui(i, j, k)] + u[ui(i + 1, j, k)]) / 2,
              (v[vi(i, j, k)] + v[vi(i, j + 1, k)]) / 2,
              (w[wi(i, j, k)] + w[wi(i, j, k + 1)]) / 2,
            ],
            3 * at(i, j, k),
          );
    return out;
  }

  /** Walls of a cell: sides at the rim that are no opening. */
  private wallsOf(i: number, j: number, k: number): number {
    const ends = (n: number, size: number): number => Number(n === 0) + Number(n === size - 1);
    const open =
      (i === 0 && (within(upper, j, k) || within(lower, j, k))) || (i === NX - 1 && within(outlet, j, k));
    return ends(i, NX) + ends(j, NY) + ends(k, NZ) - Number(open);
  }

  private blow(above: number): void {
    const { u, v, w, solid } = this;
    const area = ({ y, z }: Opening): number => (y[1] - y[0]) * (z[1] - z[0]) * CELL ** 2;
    for (let k = 0; k < NZ; k++)
      for (let j = 0; j < NY; j++) {
        if (within(upper, j, k)) u[ui(0, j, k)] = (above * this.moved) / area(upper);
        if (within(lower, j, k)) u[ui(0, j, k)] = ((1 - above) * this.moved) / area(lower);
        if (within(outlet, j, k)) u[ui(NX, j, k)] = this.moved / area(outlet);
      }
    const air = new AirPressure([...SIZE], (c) => solid[c] === 0);
    const potential = new Float64Array(CELLS);
    const found = new Float64Array(air.cells.length);
    // Each solution begins with the one before: what is left of the outflow gets smaller until it is none.
    for (let round = 0; round < 4; round++) {
      const outflow = Float64Array.from(air.cells, (c) => {
        const [i, j, k] = [c % NX, Math.floor(c / NX) % NY, Math.floor(c / (NX * NY))];
        return -CELL * this.divergence(i, j, k) * CELL;
      });
      found.fill(0);
      air.solve(found, outflow);
      for (const [n, c] of air.cells.entries()) potential[c] = found[n];
      for (const c of air.cells) {
        const [i, j, k] = [c % NX, Math.floor(c / NX) % NY, Math.floor(c / (NX * NY))];
        if (i > 0 && !solid[c - 1]) u[ui(i, j, k)] -= (potential[c] - potential[c - 1]) / CELL;
        if (j > 0 && !solid[c - NX]) v[vi(i, j, k)] -= (potential[c] - potential[c - NX]) / CELL;
        if (k > 0 && !solid[c - NX * NY]) w[wi(i, j, k)] -= (potential[c] - potential[c - NX * NY]) / CELL;
      }
    }
  }

  /** What flows out of a cell, in 1/s. */
  divergence(i: number, j: number, k: number): number {
    const { u, v, w } = this;
    return (
      (u[ui(i + 1, j, k)] -
        u[ui(i, j, k)] +
        v[vi(i, j + 1, k)] -
        v[vi(i, j, k)] +
        w[wi(i, j, k + 1)] -
        w[wi(i, j, k)]) /
      CELL
    );
  }

  private warm(): void {
    const { temperature: t } = this;
    const equations = this.equations();
    for (let sweep = 0; sweep < 600; sweep++) {
      let moved = 0;
      for (let n = 0; n < CELLS; n++) {
        // There and back, so that heat is carried along with the air whichever way that goes.
        const c = sweep % 2 === 0 ? n : CELLS - 1 - n;
        const { neighbours, weights, diagonal, source } = equations;
        let sum = source[c];
        for (let s = 6 * c; s < 6 * c + 6; s++) sum += weights[s] * t[neighbours[s]];
        const now = sum / diagonal[c];
        moved = Math.max(moved, Math.abs(now - t[c]));
        t[c] = now;
      }
      if (moved < 1e-4) break;
    }
  }

  /** Of each cell: what it gets from each of its six neighbours and from outside, in W and W/K. */
  private equations() {
    const neighbours = new Uint32Array(6 * CELLS);
    const weights = new Float64Array(6 * CELLS);
    const diagonal = new Float64Array(CELLS);
    const source = new Float64Array(CELLS);
    const face = CELL ** 2;
    for (let k = 0; k < NZ; k++)
      for (let j = 0; j < NY; j++)
        for (let i = 0; i < NX; i++) {
          const c = at(i, j, k);
          /** Speed into the cell through each side. */
          const sides: [there: boolean, other: number, speed: number][] = [
            [i > 0, c - 1, this.u[ui(i, j, k)]],
            [i < NX - 1, c + 1, -this.u[ui(i + 1, j, k)]],
            [j > 0, c - NX, this.v[vi(i, j, k)]],
            [j < NY - 1, c + NX, -this.v[vi(i, j + 1, k)]],
            [k > 0, c - NX * NY, this.w[wi(i, j, k)]],
            [k < NZ - 1, c + NX * NY, -this.w[wi(i, j, k + 1)]],
          ];
          for (const [s, [there, other, speed]] of sides.entries()) {
            neighbours[6 * c + s] = there ? other : c;
            const carried = HEAT * face * Math.max(0, speed);
            diagonal[c] += HEAT * face * Math.max(0, -speed);
            if (!there) {
              source[c] += carried * HOT;
              continue;
            }
            const weight = carried + this.conducted(c, other, speed) * face;
            weights[6 * c + s] = weight;
            diagonal[c] += this.conducted(c, other, speed) * face;
          }
          const lost = this.wallsOf(i, j, k) * LOSS * face + (this.solid[c] ? BOILING * CELL ** 3 : 0);
          diagonal[c] += lost;
          source[c] += lost * ROOM;
        }
    return { neighbours, weights, diagonal, source };
  }

  /** Between two neighbours, in W/(m2 K). */
  private conducted(a: number, b: number, speed: number): number {
    const [first, second] = [this.solid[a], this.solid[b]];
    if (first !== second) return EXCHANGE;
    return first ? TIN / CELL : (HEAT * (EDDIES + EDDY_LENGTH * Math.abs(speed))) / CELL;
  }
}

export const ui = (i: number, j: number, k: number): number => (k * NY + j) * (NX + 1) + i;
const vi = (i: number, j: number, k: number): number => (k * (NY + 1) + j) * NX + i;
const wi = (i: number, j: number, k: number): number => (k * NY + j) * NX + i;

const place = (i: number, j: number, k: number): Place => [i * CELL, j * CELL, k * CELL];

/** One part of the chamber as a file: air, or tins. */
function part(oven: SteadyOven, solid: boolean): Uint8Array {
  const wanted = (i: number, j: number, k: number): boolean => isTin(i, j, k) === solid;
  const cells: number[] = [];
  for (let k = 0; k < NZ; k++)
    for (let j = 0; j < NY; j++) for (let i = 0; i < NX; i++) if (wanted(i, j, k)) cells.push(at(i, j, k));
  const velocity = oven.velocity();
  const temperature = Float32Array.from(cells, (c) => oven.temperature[c]);
  return writeVtu(
    hexGrid(...SIZE, place, wanted),
    [
      { name: 'temperature', location: 'cell', components: 1, unit: '°C', data: temperature },
      ...(solid
        ? []
        : [
            {
              name: 'velocity',
              location: 'cell' as const,
              components: 3 as const,
              unit: 'm/s',
              data: Float32Array.from(cells.flatMap((c) => [...velocity.subarray(3 * c, 3 * c + 3)])),
            },
          ]),
    ],
    null,
    SI,
  );
}

const FANS = [600, 1200, 1800, 2400];
const VENTS = [15, 45, 75];

/** Four speeds of the fan by three positions of the vent, with what came of each: a set of runs. */
export const fanAndVent: DemoRun = {
  id: 'fan-and-vent',
  name: 'Fan and vent of the small oven',
  file: 'fan-and-vent.csv',
  asSet: true,
  compute(write, progress) {
    const rows: string[] = [];
    const designs = FANS.flatMap((fan) => VENTS.map((vent) => ({ fan, vent })));
    for (const [n, design] of designs.entries()) {
      const oven = new SteadyOven(design);
      const name = `oven-${design.fan}-${design.vent}`;
      const parts: CollectionRow[] = ['chamber air', 'tins'].map((part, p) => ({
        time: 0,
        part: p,
        name: part,
        file: `${name}-${part.replace(' ', '-')}.vtu`,
      }));
      for (const [p, { file }] of parts.entries()) write(file, part(oven, p === 1));
      write(`${name}.pvd`, writePvd(parts));
      const { mean, spread } = oven.tins;
      const power = POWER * (design.fan / 1000) ** 3;
      rows.push(
        [`${name}.pvd`, design.fan, design.vent, ...[mean, spread, power].map((v) => v.toFixed(2))].join(','),
      );
      progress((n + 1) / designs.length);
    }
    const head = 'file,fan [rpm],vent [deg],tins [°C],spread of tins [°C],fan power [W]';
    write(this.file, `${[head, ...rows].join('\n')}\n`);
  },
};
