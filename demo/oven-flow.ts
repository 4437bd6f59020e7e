import {
  CELL,
  cellIndex,
  exhaust,
  NX,
  NY,
  NZ,
  rackLayers,
  SLOT_SPEED,
  SLOT_TEMPERATURE,
  START_TEMPERATURE,
  slot,
  solidCells,
} from './chamber.ts';

const CELLS = NX * NY * NZ;
const GRAVITY = 9.81;
/** Thermal expansion of warm air, 1/K; density of air at chamber temperature, kg/m3. */
const EXPANSION = 2.6e-3;
export const DENSITY = 0.85;
/** Slowing by the bars of a rack, 1/m. */
const RACK_DRAG = 6;
/** Exchange between air and tin, and conduction inside the tin, both as rates between neighbouring cells, 1/s. */
const TIN_EXCHANGE = 0.035;
const TIN_CONDUCTION = 0.06;
const WALL_EXCHANGE = 0.004;

/**
 * Air and tins of the demo oven in time. Incompressible flow on staggered faces with the Boussinesq approximation:
 * semi-Lagrangian advection (Stam 1999), buoyancy and drag, then projection by conjugate gradients (Hestenes and
 * Stiefel 1952). Temperature travels with the air and soaks into the tins.
 *
 * u, v, w live on the faces across x, y, z; T and p in the cells.
 */
export class OvenFlow {
  readonly solid = solidCells();
  private readonly air = new AirCells(this.solid);
  u = new Float32Array((NX + 1) * NY * NZ);
  v = new Float32Array(NX * (NY + 1) * NZ);
  w = new Float32Array(NX * NY * (NZ + 1));
  temperature = new Float32Array(CELLS).fill(START_TEMPERATURE);
  readonly pressure = new Float64Array(CELLS);
  time = 0;

  private readonly outlet: number;

  constructor() {
    const area = (o: { y: readonly [number, number]; z: readonly [number, number] }): number =>
      (o.y[1] - o.y[0]) * (o.z[1] - o.z[0]);
    this.outlet = (SLOT_SPEED * area(slot)) / area(exhaust);
    this.setBoundaries();
  }

  /** Moves on by `dt` seconds. */
  advance(dt: number): void {
    this.advect(dt);
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

  private advect(dt: number): void {
    const { u, v, w } = this;
    const s = dt / CELL;
    const nu = new Float32Array(u.length);
    const nv = new Float32Array(v.length);
    const nw = new Float32Array(w.length);
    const nt = new Float32Array(CELLS);
    for (let k = 0; k < NZ; k++) {
      for (let j = 0; j < NY; j++) {
        for (let i = 1; i < NX; i++) {
          const a = u[ui(i, j, k)];
          const b = (v[vi(i - 1, j, k)] + v[vi(i, j, k)] + v[vi(i - 1, j + 1, k)] + v[vi(i, j + 1, k)]) / 4;
          const c = (w[wi(i - 1, j, k)] + w[wi(i, j, k)] + w[wi(i - 1, j, k + 1)] + w[wi(i, j, k + 1)]) / 4;
          nu[ui(i, j, k)] = sample(u, NX + 1, NY, NZ, i - s * a, j - s * b, k - s * c);
        }
      }
    }
    for (let k = 0; k < NZ; k++) {
      for (let j = 1; j < NY; j++) {
        for (let i = 0; i < NX; i++) {
          const a = (u[ui(i, j - 1, k)] + u[ui(i + 1, j - 1, k)] + u[ui(i, j, k)] + u[ui(i + 1, j, k)]) / 4;
          const b = v[vi(i, j, k)];
          const c = (w[wi(i, j - 1, k)] + w[wi(i, j, k)] + w[wi(i, j - 1, k + 1)] + w[wi(i, j, k + 1)]) / 4;
          nv[vi(i, j, k)] = sample(v, NX, NY + 1, NZ, i - s * a, j - s * b, k - s * c);
        }
      }
    }
    for (let k = 1; k < NZ; k++) {
      for (let j = 0; j < NY; j++) {
        for (let i = 0; i < NX; i++) {
          const a = (u[ui(i, j, k - 1)] + u[ui(i + 1, j, k - 1)] + u[ui(i, j, k)] + u[ui(i + 1, j, k)]) / 4;
          const b = (v[vi(i, j, k - 1)] + v[vi(i, j + 1, k - 1)] + v[vi(i, j, k)] + v[vi(i, j + 1, k)]) / 4;
          const c = w[wi(i, j, k)];
          nw[wi(i, j, k)] = sample(w, NX, NY, NZ + 1, i - s * a, j - s * b, k - s * c);
        }
      }
    }
    for (let k = 0; k < NZ; k++) {
      for (let j = 0; j < NY; j++) {
        for (let i = 0; i < NX; i++) {
          const at = cellIndex(i, j, k);
          if (this.solid[at]) {
            nt[at] = this.temperature[at];
            continue;
          }
          const a = (u[ui(i, j, k)] + u[ui(i + 1, j, k)]) / 2;
          const b = (v[vi(i, j, k)] + v[vi(i, j + 1, k)]) / 2;
          const c = (w[wi(i, j, k)] + w[wi(i, j, k + 1)]) / 2;
          const x = i - s * a;
          const fromSlot = x < -0.5 && j >= slot.y[0] && j < slot.y[1] && k >= slot.z[0] && k < slot.z[1];
          nt[at] = fromSlot ? SLOT_TEMPERATURE : this.sampleAir(x, j - s * b, k - s * c);
        }
      }
    }
    this.u = nu;
    this.v = nv;
    this.w = nw;
    this.temperature = nt;
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
        const leaves = j >= exhaust.y[0] && j < exhaust.y[1] && k >= exhaust.z[0] && k < exhaust.z[1];
        u[ui(0, j, k)] = blows ? SLOT_SPEED : 0;
        u[ui(NX, j, k)] = leaves ? this.outlet : 0;
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
    const { solid, pressure } = this;
    const right = new Float64Array(CELLS);
    const scale = CELL ** 2 / dt;
    for (let k = 0; k < NZ; k++) {
      for (let j = 0; j < NY; j++) {
        for (let i = 0; i < NX; i++) {
          const at = cellIndex(i, j, k);
          if (!solid[at]) right[at] = -this.divergence(i, j, k) * scale;
        }
      }
    }
    const { cells } = this.air;
    const x = Float64Array.from(cells, (at) => pressure[at]);
    conjugateGradients(
      this.air,
      x,
      Float64Array.from(cells, (at) => right[at]),
    );
    for (let n = 0; n < cells.length; n++) pressure[cells[n]] = x[n];
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
      const solids = this.solid[a] + this.solid[b];
      if (solids === 0) return;
      const flow = dt * (solids === 2 ? TIN_CONDUCTION : TIN_EXCHANGE) * (t[b] - t[a]);
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

/**
 * The six neighbours of every air cell, compact; a closed side points back at the cell itself and so adds nothing to
 * the Laplacian.
 */
class AirCells {
  readonly cells: Uint32Array;
  readonly neighbours: Uint32Array;

  constructor(solid: Uint8Array) {
    const cells: number[] = [];
    const number = new Int32Array(CELLS).fill(-1);
    for (let at = 0; at < CELLS; at++) {
      if (solid[at]) continue;
      number[at] = cells.length;
      cells.push(at);
    }
    this.cells = Uint32Array.from(cells);
    this.neighbours = new Uint32Array(cells.length * 6);
    for (const [n, at] of cells.entries()) {
      const i = at % NX;
      const j = Math.floor(at / NX) % NY;
      const k = Math.floor(at / (NX * NY));
      const sides = [
        i > 0 ? at - 1 : at,
        i + 1 < NX ? at + 1 : at,
        j > 0 ? at - NX : at,
        j + 1 < NY ? at + NX : at,
        k > 0 ? at - NX * NY : at,
        k + 1 < NZ ? at + NX * NY : at,
      ];
      for (const [s, side] of sides.entries())
        this.neighbours[6 * n + s] = number[side] < 0 ? n : number[side];
    }
  }

  laplacian(x: Float64Array, out: Float64Array): void {
    const nb = this.neighbours;
    for (let n = 0, s = 0; n < x.length; n++, s += 6) {
      out[n] = 6 * x[n] - x[nb[s]] - x[nb[s + 1]] - x[nb[s + 2]] - x[nb[s + 3]] - x[nb[s + 4]] - x[nb[s + 5]];
    }
  }
}

const TOLERANCE = 5e-3;
const MOST_ROUNDS = 60;

function conjugateGradients(air: AirCells, x: Float64Array, right: Float64Array): void {
  const n = x.length;
  const residual = new Float64Array(n);
  const image = new Float64Array(n);
  air.laplacian(x, image);
  let size = 0;
  let goal = 0;
  for (let c = 0; c < n; c++) {
    residual[c] = right[c] - image[c];
    size += residual[c] ** 2;
    goal += right[c] ** 2;
  }
  goal *= TOLERANCE ** 2;
  const direction = residual.slice();
  for (let round = 0; round < MOST_ROUNDS && size > goal; round++) {
    air.laplacian(direction, image);
    let along = 0;
    for (let c = 0; c < n; c++) along += direction[c] * image[c];
    const step = size / along;
    let next = 0;
    for (let c = 0; c < n; c++) {
      x[c] += step * direction[c];
      residual[c] -= step * image[c];
      next += residual[c] ** 2;
    }
    const turn = next / size;
    for (let c = 0; c < n; c++) direction[c] = residual[c] + turn * direction[c];
    size = next;
  }
}
