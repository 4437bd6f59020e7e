import { AirPressure } from './air-pressure.ts';
import {
  AIR,
  CELL,
  cellIndex,
  fan,
  filling,
  LOAF,
  NX,
  NY,
  NZ,
  rackLayers,
  SLOT_SPEED,
  SLOT_TEMPERATURE,
  START_TEMPERATURE,
  slot,
} from './chamber.ts';

const CELLS = NX * NY * NZ;
const GRAVITY = 9.81;
/** Thermal expansion of warm air, 1/K; density of air at chamber temperature, kg/m3. */
const EXPANSION = 2.6e-3;
export const DENSITY = 0.85;
/** Slowing by the bars of a rack, 1/m. */
const RACK_DRAG = 6;
/** Exchange between air and what is solid, and conduction within tin and within loaf: rates between neighbours, 1/s. */
const EXCHANGE = 0.05;
const TIN_CONDUCTION = 0.3;
const LOAF_CONDUCTION = 0.03;
const WALL_EXCHANGE = 0.006;
/** How often each step neighbours share what they have; so many give an eddy viscosity of about 1e-4 m2/s. */
const MIXING_SWEEPS = 3;

/**
 * Air and tins of the demo oven in time. Incompressible flow on staggered faces with the Boussinesq approximation:
 * semi-Lagrangian advection (Stam 1999), buoyancy and drag, then projection (see `AirPressure`). Temperature travels with
 * the air and soaks into tins and loaves.
 *
 * u, v, w live on the faces across x, y, z; T and p in the cells.
 */
export class OvenFlow {
  /** What fills each cell; air is zero. */
  readonly solid = filling();
  private readonly air = new AirPressure([NX, NY, NZ], (at) => this.solid[at] === AIR);
  u: Float32Array = new Float32Array((NX + 1) * NY * NZ);
  v: Float32Array = new Float32Array(NX * (NY + 1) * NZ);
  w: Float32Array = new Float32Array(NX * NY * (NZ + 1));
  temperature: Float32Array = new Float32Array(CELLS).fill(START_TEMPERATURE);
  readonly pressure = new Float64Array(CELLS);
  /** Of the cells of air alone: pressure, and what flows out of each. */
  private readonly airPressure = new Float64Array(this.air.cells.length);
  private readonly shared = new Float32Array(this.air.cells.length);
  private readonly outflow = new Float64Array(this.air.cells.length);
  time = 0;

  private readonly outlet: number;
  /** Way of each cell in the last step, in cells along each axis. */
  private readonly from = new Float32Array(3 * CELLS);

  constructor() {
    const area = (o: { y: readonly [number, number]; z: readonly [number, number] }): number =>
      (o.y[1] - o.y[0]) * (o.z[1] - o.z[0]);
    this.outlet = (SLOT_SPEED * area(slot)) / area(fan);
    this.setBoundaries();
  }

  /** Moves on by `dt` seconds. */
  advance(dt: number): void {
    this.advect(dt);
    this.mix();
    this.applyForces(dt);
    this.setBoundaries();
    this.project(dt);
    this.soak(dt);
    this.time += dt;
  }

  /** Largest net flow out of any cell of air, in 1/s; near zero after a projection. */
  largestDivergence(): number {
    let worst = 0;
    for (let k = 0; k < NZ; k++) {
      for (let j = 0; j < NY; j++) {
        for (let i = 0; i < NX; i++) {
          if (!this.solid[cellIndex(i, j, k)]) worst = Math.max(worst, Math.abs(this.divergence(i, j, k)));
        }
      }
    }
    return worst;
  }

  private divergence(i: number, j: number, k: number): number {
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

  /** Everything comes from where the flow has brought it from: each place is traced back along it. */
  private advect(dt: number): void {
    const { u, v, w, from } = this;
    this.traceBack(dt);
    const nu = new Float32Array(u.length);
    const nv = new Float32Array(v.length);
    const nw = new Float32Array(w.length);
    const nt = new Float32Array(CELLS);
    /** Mean way of two cells, as their face between them has come it. */
    const way = (a: number, b: number, d: number): number => (from[3 * a + d] + from[3 * b + d]) / 2;
    for (let k = 0; k < NZ; k++)
      for (let j = 0; j < NY; j++)
        for (let i = 0; i < NX; i++) {
          const at = cellIndex(i, j, k);
          if (i > 0) {
            const [x, y, z] = [i - way(at, at - 1, 0), j - way(at, at - 1, 1), k - way(at, at - 1, 2)];
            nu[ui(i, j, k)] = sample(u, NX + 1, NY, NZ, x, y, z);
          }
          if (j > 0) {
            const to = at - NX;
            const [x, y, z] = [i - way(at, to, 0), j - way(at, to, 1), k - way(at, to, 2)];
            nv[vi(i, j, k)] = sample(v, NX, NY + 1, NZ, x, y, z);
          }
          if (k > 0) {
            const to = at - NX * NY;
            const [x, y, z] = [i - way(at, to, 0), j - way(at, to, 1), k - way(at, to, 2)];
            nw[wi(i, j, k)] = sample(w, NX, NY, NZ + 1, x, y, z);
          }
          const x = i - from[3 * at];
          nt[at] =
            this.solid[at] !== AIR
              ? this.temperature[at]
              : x < -0.5
                ? SLOT_TEMPERATURE
                : this.sampleAir(x, j - from[3 * at + 1], k - from[3 * at + 2]);
        }
    this.u = nu;
    this.v = nv;
    this.w = nw;
    this.temperature = nt;
  }

  /** The way of each cell over a time, in cells, in strides of at most four; it ends where it leaves through the slot. */
  private traceBack(dt: number): void {
    const { u, v, w, from, solid } = this;
    const inSlot = (y: number, z: number): boolean =>
      y > slot.y[0] - 1 && y < slot.y[1] && z > slot.z[0] - 1 && z < slot.z[1];
    for (let k = 0; k < NZ; k++)
      for (let j = 0; j < NY; j++)
        for (let i = 0; i < NX; i++) {
          const at = cellIndex(i, j, k);
          let [x, y, z] = [i, j, k];
          for (let left = solid[at] === AIR ? dt / CELL : 0; left > 1e-9; ) {
            const a = sample(u, NX + 1, NY, NZ, x + 0.5, y, z);
            const b = sample(v, NX, NY + 1, NZ, x, y + 0.5, z);
            const c = sample(w, NX, NY, NZ + 1, x, y, z + 0.5);
            const stride = Math.min(left, 4 / (Math.abs(a) + Math.abs(b) + Math.abs(c) + 1e-9));
            const before = x;
            x -= stride * a;
            y = clamp(y - stride * b, NY);
            z = clamp(z - stride * c, NZ);
            left -= stride;
            if (x < -0.5 && inSlot(y, z)) break;
            x = clamp(x, NX);
            const inside = solid[cellIndex(Math.round(x), Math.round(y), Math.round(z))] !== AIR;
            if (inside) {
              // Nothing comes out of what is solid.
              x = before;
              break;
            }
          }
          from[3 * at] = i - x;
          from[3 * at + 1] = j - y;
          from[3 * at + 2] = k - z;
        }
  }

  /** What eddies too small for the grid even out: neighbours share heat and motion. */
  private mix(): void {
    const { air, temperature: t, shared } = this;
    const { cells } = air;
    for (let sweep = 0; sweep < MIXING_SWEEPS; sweep++) {
      for (let n = 0; n < cells.length; n++) shared[n] = air.meanAround(n, t);
      for (let n = 0; n < cells.length; n++) t[cells[n]] = shared[n];
      this.u = evened(this.u, NX + 1, NY, NZ);
      this.v = evened(this.v, NX, NY + 1, NZ);
      this.w = evened(this.w, NX, NY, NZ + 1);
    }
  }

  /** Temperature of the air around a place; tins do not take part. */
  private sampleAir(x: number, y: number, z: number): number {
    const x0 = clamp(x, NX);
    const y0 = clamp(y, NY);
    const z0 = clamp(z, NZ);
    const i = Math.min(x0 | 0, NX - 2);
    const j = Math.min(y0 | 0, NY - 2);
    const k = Math.min(z0 | 0, NZ - 2);
    const a = x0 - i;
    const b = y0 - j;
    const c = z0 - k;
    let sum = 0;
    let weight = 0;
    for (let corner = 0; corner < 8; corner++) {
      const di = corner & 1;
      const dj = (corner >> 1) & 1;
      const dk = corner >> 2;
      const at = ((k + dk) * NY + j + dj) * NX + i + di;
      if (this.solid[at]) continue;
      const f = (di ? a : 1 - a) * (dj ? b : 1 - b) * (dk ? c : 1 - c);
      sum += f * this.temperature[at];
      weight += f;
    }
    return weight > 1e-6
      ? sum / weight
      : this.temperature[cellIndex(Math.round(x0), Math.round(y0), Math.round(z0))];
  }

  private applyForces(dt: number): void {
    const { w, temperature } = this;
    for (let k = 1; k < NZ; k++) {
      for (let j = 0; j < NY; j++) {
        for (let i = 0; i < NX; i++) {
          const mean = (temperature[cellIndex(i, j, k)] + temperature[cellIndex(i, j, k - 1)]) / 2;
          w[wi(i, j, k)] += dt * GRAVITY * EXPANSION * (mean - 120);
        }
      }
    }
    for (const k of rackLayers) {
      for (let j = 0; j < NY; j++) {
        for (let i = 0; i < NX; i++) w[wi(i, j, k)] /= 1 + dt * RACK_DRAG * Math.abs(w[wi(i, j, k)]);
      }
    }
  }

  private setBoundaries(): void {
    const { u, v, w, solid } = this;
    for (let k = 0; k < NZ; k++) {
      for (let j = 0; j < NY; j++) {
        const blows = j >= slot.y[0] && j < slot.y[1] && k >= slot.z[0] && k < slot.z[1];
        const leaves = j >= fan.y[0] && j < fan.y[1] && k >= fan.z[0] && k < fan.z[1];
        u[ui(0, j, k)] = blows ? SLOT_SPEED : leaves ? -this.outlet : 0;
        u[ui(NX, j, k)] = 0;
      }
    }
    for (let k = 0; k < NZ; k++) for (let i = 0; i < NX; i++) v[vi(i, 0, k)] = v[vi(i, NY, k)] = 0;
    for (let j = 0; j < NY; j++) for (let i = 0; i < NX; i++) w[wi(i, j, 0)] = w[wi(i, j, NZ)] = 0;
    for (let k = 0; k < NZ; k++) {
      for (let j = 0; j < NY; j++) {
        for (let i = 0; i < NX; i++) {
          if (!solid[cellIndex(i, j, k)]) continue;
          u[ui(i, j, k)] = u[ui(i + 1, j, k)] = 0;
          v[vi(i, j, k)] = v[vi(i, j + 1, k)] = 0;
          w[wi(i, j, k)] = w[wi(i, j, k + 1)] = 0;
        }
      }
    }
  }

  /** Makes the flow free of divergence: solves the discrete Poisson equation for the pressure and corrects. */
  private project(dt: number): void {
    const { pressure, air, airPressure, outflow } = this;
    const { cells } = air;
    const scale = CELL ** 2 / dt;
    for (let n = 0; n < cells.length; n++) {
      const at = cells[n];
      outflow[n] = -scale * this.divergence(at % NX, Math.floor(at / NX) % NY, Math.floor(at / (NX * NY)));
    }
    air.solve(airPressure, outflow);
    for (let n = 0; n < cells.length; n++) pressure[cells[n]] = airPressure[n];
    this.correct(dt);
  }

  private correct(dt: number): void {
    const { u, v, w, solid, pressure: p } = this;
    const f = dt / CELL;
    for (let k = 0; k < NZ; k++) {
      for (let j = 0; j < NY; j++) {
        for (let i = 0; i < NX; i++) {
          const at = cellIndex(i, j, k);
          if (solid[at]) continue;
          if (i > 0 && !solid[at - 1]) u[ui(i, j, k)] -= f * (p[at] - p[at - 1]);
          if (j > 0 && !solid[at - NX]) v[vi(i, j, k)] -= f * (p[at] - p[at - NX]);
          if (k > 0 && !solid[at - NX * NY]) w[wi(i, j, k)] -= f * (p[at] - p[at - NX * NY]);
        }
      }
    }
  }

  /** Exchange of heat between neighbouring cells where at least one is tin, and with the walls. */
  private soak(dt: number): void {
    const t = this.temperature;
    const change = new Float32Array(CELLS);
    const pair = (a: number, b: number): void => {
      const [first, second] = [this.solid[a], this.solid[b]];
      if (first === AIR && second === AIR) return;
      const rate =
        first === AIR || second === AIR
          ? EXCHANGE
          : first === LOAF || second === LOAF
            ? LOAF_CONDUCTION
            : TIN_CONDUCTION;
      const flow = dt * rate * (t[b] - t[a]);
      change[a] += flow;
      change[b] -= flow;
    };
    for (let k = 0; k < NZ; k++) {
      for (let j = 0; j < NY; j++) {
        for (let i = 0; i < NX; i++) {
          const at = cellIndex(i, j, k);
          if (i + 1 < NX) pair(at, at + 1);
          if (j + 1 < NY) pair(at, at + NX);
          if (k + 1 < NZ) pair(at, at + NX * NY);
          const wall = i === 0 || i === NX - 1 || j === 0 || j === NY - 1 || k === 0 || k === NZ - 1;
          if (wall) change[at] += dt * WALL_EXCHANGE * (START_TEMPERATURE + 60 - t[at]);
        }
      }
    }
    for (let c = 0; c < CELLS; c++) t[c] += change[c];
  }
}

export const ui = (i: number, j: number, k: number): number => (k * NY + j) * (NX + 1) + i;
export const vi = (i: number, j: number, k: number): number => (k * (NY + 1) + j) * NX + i;
export const wi = (i: number, j: number, k: number): number => (k * NY + j) * NX + i;

/** Each number halfway to the mean of its six neighbours; those at the rim stay. */
function evened(f: Float32Array, nx: number, ny: number, nz: number): Float32Array {
  const out = f.slice();
  const up = nx * ny;
  for (let k = 1; k < nz - 1; k++)
    for (let j = 1; j < ny - 1; j++)
      for (let at = (k * ny + j) * nx + 1, end = at + nx - 2; at < end; at++)
        out[at] =
          0.5 * f[at] + (f[at - 1] + f[at + 1] + f[at - nx] + f[at + nx] + f[at - up] + f[at + up]) / 12;
  return out;
}

const clamp = (x: number, n: number): number => Math.max(0, Math.min(x, n - 1));

function sample(
  f: Float32Array,
  nx: number,
  ny: number,
  nz: number,
  x: number,
  y: number,
  z: number,
): number {
  const x0 = clamp(x, nx);
  const y0 = clamp(y, ny);
  const z0 = clamp(z, nz);
  const i = Math.min(x0 | 0, nx - 2);
  const j = Math.min(y0 | 0, ny - 2);
  const k = Math.min(z0 | 0, nz - 2);
  const a = x0 - i;
  const b = y0 - j;
  const c = z0 - k;
  const at = (k * ny + j) * nx + i;
  const up = nx * ny;
  const low = (1 - b) * ((1 - a) * f[at] + a * f[at + 1]) + b * ((1 - a) * f[at + nx] + a * f[at + nx + 1]);
  const high =
    (1 - b) * ((1 - a) * f[at + up] + a * f[at + up + 1]) +
    b * ((1 - a) * f[at + up + nx] + a * f[at + up + nx + 1]);
  return (1 - c) * low + c * high;
}
