import type { DemoRun } from '../demo-run.ts';
import { XdmfSeries } from '../shared/xdmf-series.ts';
import { AIR, CELL, cellIndex, LOAF, NX, NY, NZ, START_TEMPERATURE, TIN } from './chamber.ts';
import { DENSITY, OvenFlow, ui, vi, wi } from './oven-flow.ts';
import { ovenParts } from './oven-parts.ts';

const STEPS = 40;
const SECONDS_A_STEP = 2;
const ROUNDS_A_STEP = 3;

const NODES = (NX + 1) * (NY + 1) * (NZ + 1);

/** Averages cell values to the nodes of the grid, using only the cells that hold `what`; not a number where there are none. */
function onNodes(cells: Float32Array, solid: Uint8Array, what: number): Float32Array {
  const out = new Float32Array(NODES);
  const count = new Uint8Array(NODES);
  for (let k = 0; k < NZ; k++)
    for (let j = 0; j < NY; j++)
      for (let i = 0; i < NX; i++) {
        const at = cellIndex(i, j, k);
        if (solid[at] !== what) continue;
        const first = (k * (NY + 1) + j) * (NX + 1) + i;
        for (let c = 0; c < 8; c++) {
          const node = first + (c & 1) + ((c >> 1) & 1) * (NX + 1) + (c >> 2) * (NX + 1) * (NY + 1);
          count[node]++;
          out[node] += cells[at];
        }
      }
  for (let p = 0; p < NODES; p++) out[p] /= count[p];
  return out;
}

/** Where a point of a part lies among the nodes of the grid: the nearest one. */
function nearestNodes(points: ArrayLike<number>): Uint32Array {
  return Uint32Array.from({ length: points.length / 3 }, (_, p) => {
    const [i, j, k] = [NX, NY, NZ].map((n, d) =>
      Math.min(n, Math.max(0, Math.round(points[3 * p + d] / CELL))),
    );
    return (k * (NY + 1) + j) * (NX + 1) + i;
  });
}

/** Makes the files of the oven, moment by moment. */
export class OvenFiles {
  readonly parts: ReturnType<typeof ovenParts>;
  private readonly nodes: Record<string, Uint32Array>;

  constructor(private readonly flow: OvenFlow) {
    this.parts = ovenParts(flow.solid);
    this.nodes = Object.fromEntries(
      Object.entries(this.parts).map(([name, mesh]) => [name, nearestNodes(mesh.points)]),
    );
  }

  /** The fields of each part, of the present moment. */
  fields(): Parameters<XdmfSeries['step']>[1] {
    const { flow, nodes } = this;
    const { solid, temperature } = flow;
    const air = onNodes(temperature, solid, AIR);
    const own: Record<string, Float32Array> = {
      loaves: onNodes(temperature, solid, LOAF),
      tins: onNodes(temperature, solid, TIN),
    };
    const fields: Parameters<XdmfSeries['step']>[1] = {};
    for (const part of Object.keys(this.parts)) {
      const data = picked(own[part] ?? air, nodes[part], air);
      fields[part] = [{ name: 'temperature', components: 1, data }];
    }
    const still = air.map(() => 0);
    const along = this.velocity().map((v) => picked(onNodes(v, solid, AIR), nodes['chamber air'], still));
    const velocity = new Float32Array(3 * along[0].length);
    for (let p = 0; p < along[0].length; p++) for (let d = 0; d < 3; d++) velocity[3 * p + d] = along[d][p];
    const pressure = onNodes(Float32Array.from(flow.pressure), solid, AIR);
    for (let p = 0; p < NODES; p++) pressure[p] *= DENSITY;
    fields['chamber air'].push({ name: 'velocity', components: 3, data: velocity });
    fields['chamber air'].push({
      name: 'pressure',
      components: 1,
      data: picked(pressure, nodes['chamber air'], still),
    });
    return fields;
  }

  /** In the middle of each cell, along each axis. */
  private velocity(): Float32Array[] {
    const { u, v, w, solid } = this.flow;
    const out = [0, 1, 2].map(() => new Float32Array(solid.length));
    for (let k = 0; k < NZ; k++)
      for (let j = 0; j < NY; j++)
        for (let i = 0; i < NX; i++) {
          const at = cellIndex(i, j, k);
          out[0][at] = (u[ui(i, j, k)] + u[ui(i + 1, j, k)]) / 2;
          out[1][at] = (v[vi(i, j, k)] + v[vi(i, j + 1, k)]) / 2;
          out[2][at] = (w[wi(i, j, k)] + w[wi(i, j, k + 1)]) / 2;
        }
    return out;
  }
}

/** Values at nodes; where there are none, those of something else around it, or of the beginning. */
function picked(from: Float32Array, nodes: Uint32Array, instead: Float32Array): Float32Array {
  const out = new Float32Array(nodes.length);
  for (let p = 0; p < nodes.length; p++) {
    const value = from[nodes[p]];
    out[p] = Number.isNaN(value) ? instead[nodes[p]] : value;
    if (Number.isNaN(out[p])) out[p] = START_TEMPERATURE;
  }
  return out;
}

/** The oven warms up: hot air from a slot, tins with loaves on two racks, a fan that draws the air out. */
export const oven: DemoRun = {
  id: 'oven-warm-up',
  name: 'Oven warm-up',
  file: 'oven-warm-up.xdmf',
  choices: {
    lengthUnit: 'm',
    timeUnit: 's',
    units: { 'point:temperature': '°C', 'point:velocity': 'm/s', 'point:pressure': 'Pa' },
  },
  compute(write, progress) {
    computeOven(write, progress, STEPS);
  },
};

/** Writes so many steps of the oven. */
export function computeOven(
  write: Parameters<DemoRun['compute']>[0],
  progress: (done: number) => void,
  steps: number,
): void {
  const flow = new OvenFlow();
  const files = new OvenFiles(flow);
  const series = new XdmfSeries(write, files.parts);
  for (let step = 1; step <= steps; step++) {
    for (let round = 0; round < ROUNDS_A_STEP; round++) flow.advance(SECONDS_A_STEP / ROUNDS_A_STEP);
    series.step(Number(flow.time.toFixed(6)), files.fields());
    progress(step / steps);
  }
  write(oven.file, series.file());
}
