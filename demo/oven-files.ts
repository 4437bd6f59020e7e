import type { RawMesh } from '#core/formats/format.ts';
import { type FieldToWrite, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { HEXAHEDRON, QUAD } from '#core/model/cell-types.ts';
import { CELL, cellIndex, exhaust, NX, NY, NZ, rackLayers, slot } from './chamber.ts';
import { DENSITY, type OvenFlow, ui, vi, wi } from './oven-flow.ts';

const nodeIndex = (i: number, j: number, k: number): number => (k * (NY + 1) + j) * (NX + 1) + i;
const NODES = (NX + 1) * (NY + 1) * (NZ + 1);

/** A mesh on grid nodes with, for each of its points, the grid node it sits on. */
interface GridMesh {
  mesh: RawMesh;
  nodes: Uint32Array;
}

function gridMesh(cells: number[][], type: number): GridMesh {
  const number = new Map<number, number>();
  const connectivity = new Uint32Array(cells.length * cells[0].length);
  let at = 0;
  for (const cell of cells) {
    for (const node of cell) {
      let local = number.get(node);
      if (local === undefined) number.set(node, (local = number.size));
      connectivity[at++] = local;
    }
  }
  const nodes = Uint32Array.from(number.keys());
  const points = new Float32Array(nodes.length * 3);
  for (const [n, node] of nodes.entries()) {
    points[3 * n] = (node % (NX + 1)) * CELL;
    points[3 * n + 1] = (Math.floor(node / (NX + 1)) % (NY + 1)) * CELL;
    points[3 * n + 2] = Math.floor(node / ((NX + 1) * (NY + 1))) * CELL;
  }
  const size = cells[0].length;
  const offsets = Uint32Array.from({ length: cells.length + 1 }, (_, c) => c * size);
  return { mesh: { points, types: new Uint8Array(cells.length).fill(type), offsets, connectivity }, nodes };
}

function hexahedra(wanted: (at: number) => boolean): GridMesh {
  const cells: number[][] = [];
  for (let k = 0; k < NZ; k++) {
    for (let j = 0; j < NY; j++) {
      for (let i = 0; i < NX; i++) {
        if (!wanted(cellIndex(i, j, k))) continue;
        const low = [
          nodeIndex(i, j, k),
          nodeIndex(i + 1, j, k),
          nodeIndex(i + 1, j + 1, k),
          nodeIndex(i, j + 1, k),
        ];
        cells.push([...low, ...low.map((n) => n + (NX + 1) * (NY + 1))]);
      }
    }
  }
  return gridMesh(cells, HEXAHEDRON);
}

/** The six walls with their openings left open; fronts turned outward. */
function walls(): GridMesh {
  const cells: number[][] = [];
  const within = (o: typeof slot | typeof exhaust, j: number, k: number): boolean =>
    j >= o.y[0] && j < o.y[1] && k >= o.z[0] && k < o.z[1];
  const quad = (a: number, b: number, c: number, d: number, turned: boolean): void => {
    cells.push(turned ? [d, c, b, a] : [a, b, c, d]);
  };
  for (let k = 0; k < NZ; k++) {
    for (let j = 0; j < NY; j++) {
      for (const i of [0, NX]) {
        if (within(i === 0 ? slot : exhaust, j, k)) continue;
        quad(
          nodeIndex(i, j, k),
          nodeIndex(i, j + 1, k),
          nodeIndex(i, j + 1, k + 1),
          nodeIndex(i, j, k + 1),
          i === 0,
        );
      }
    }
    for (let i = 0; i < NX; i++) {
      for (const j of [0, NY]) {
        quad(
          nodeIndex(i, j, k),
          nodeIndex(i + 1, j, k),
          nodeIndex(i + 1, j, k + 1),
          nodeIndex(i, j, k + 1),
          j === NY,
        );
      }
    }
  }
  for (let j = 0; j < NY; j++) {
    for (let i = 0; i < NX; i++) {
      for (const k of [0, NZ]) {
        quad(
          nodeIndex(i, j, k),
          nodeIndex(i + 1, j, k),
          nodeIndex(i + 1, j + 1, k),
          nodeIndex(i, j + 1, k),
          k === 0,
        );
      }
    }
  }
  return gridMesh(cells, QUAD);
}

/** Bars of the racks as slender boxes; each of their points takes its temperature from the nearest grid node. */
function racks(): GridMesh {
  const points: number[] = [];
  const connectivity: number[] = [];
  const nodes: number[] = [];
  const bar = 0.004;
  const box = (lo: number[], hi: number[]): void => {
    const first = points.length / 3;
    for (let c = 0; c < 8; c++) {
      const p = [c & 1 ? hi[0] : lo[0], c & 2 ? hi[1] : lo[1], c & 4 ? hi[2] : lo[2]];
      points.push(...p);
      nodes.push(nodeIndex(Math.round(p[0] / CELL), Math.round(p[1] / CELL), Math.round(p[2] / CELL)));
    }
    for (const face of [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [1, 3, 7, 5],
      [3, 2, 6, 7],
      [2, 0, 4, 6],
    ]) {
      connectivity.push(...face.map((v) => first + v));
    }
  };
  for (const layer of rackLayers) {
    const top = (layer + 1) * CELL;
    for (let n = 0; n < 9; n++) {
      const y = CELL * (2.5 + 2.875 * n);
      box([0, y - bar, top - 2 * bar], [NX * CELL, y + bar, top]);
    }
    for (const x of [0.16, 0.4, 0.64]) box([x - bar, 0, top - 4 * bar], [x + bar, NY * CELL, top - 2 * bar]);
  }
  const count = connectivity.length / 4;
  return {
    mesh: {
      points: Float32Array.from(points),
      types: new Uint8Array(count).fill(QUAD),
      offsets: Uint32Array.from({ length: count + 1 }, (_, c) => 4 * c),
      connectivity: Uint32Array.from(connectivity),
    },
    nodes: Uint32Array.from(nodes),
  };
}

/** Averages cell values to the grid nodes, using only the cells that are wanted. */
function toNodes(value: (at: number) => number, wanted: (at: number) => boolean): Float32Array {
  const out = new Float32Array(NODES);
  for (let k = 0; k <= NZ; k++) {
    for (let j = 0; j <= NY; j++) {
      for (let i = 0; i <= NX; i++) {
        let sum = 0;
        let count = 0;
        for (let c = 0; c < 8; c++) {
          const [a, b, d] = [i - (c & 1), j - ((c >> 1) & 1), k - (c >> 2)];
          if (a < 0 || b < 0 || d < 0 || a >= NX || b >= NY || d >= NZ) continue;
          const at = cellIndex(a, b, d);
          if (!wanted(at)) continue;
          sum += value(at);
          count++;
        }
        out[nodeIndex(i, j, k)] = count > 0 ? sum / count : Number.NaN;
      }
    }
  }
  return out;
}

const pick = (all: Float32Array, nodes: Uint32Array): Float32Array => Float32Array.from(nodes, (n) => all[n]);

/** Makes the files of the demo run, one for each part of each step. */
export class OvenFiles {
  private readonly air: GridMesh;
  private readonly tins: GridMesh;
  private readonly walls = walls();
  private readonly racks = racks();

  constructor(private readonly flow: OvenFlow) {
    this.air = hexahedra((at) => !flow.solid[at]);
    this.tins = hexahedra((at) => flow.solid[at] === 1);
  }

  /** File content by part name, of the present moment. */
  step(): Record<string, Uint8Array> {
    const { flow } = this;
    const isAir = (at: number): boolean => !flow.solid[at];
    const airT = toNodes((at) => flow.temperature[at], isAir);
    const tinT = toNodes(
      (at) => flow.temperature[at],
      (at) => !isAir(at),
    );
    const pressure = toNodes((at) => flow.pressure[at] * DENSITY, isAir);
    const [vx, vy, vz] = this.nodeVelocity();
    const velocity = (nodes: Uint32Array): Float32Array => {
      const out = new Float32Array(nodes.length * 3);
      for (let n = 0; n < nodes.length; n++) {
        out[3 * n] = vx[nodes[n]];
        out[3 * n + 1] = vy[nodes[n]];
        out[3 * n + 2] = vz[nodes[n]];
      }
      return out;
    };
    const temperature = (from: Float32Array, grid: GridMesh): FieldToWrite => ({
      name: 'temperature',
      location: 'point',
      components: 1,
      unit: '°C',
      data: pick(from, grid.nodes),
    });
    const write = (grid: GridMesh, fields: FieldToWrite[]): Uint8Array =>
      writeVtu(grid.mesh, fields, flow.time, { length: 'm', time: 's' });
    return {
      'chamber air': write(this.air, [
        temperature(airT, this.air),
        { name: 'velocity', location: 'point', components: 3, unit: 'm/s', data: velocity(this.air.nodes) },
        {
          name: 'pressure',
          location: 'point',
          components: 1,
          unit: 'Pa',
          data: pick(pressure, this.air.nodes),
        },
      ]),
      tins: write(this.tins, [temperature(tinT, this.tins)]),
      racks: write(this.racks, [temperature(airT, this.racks)]),
      walls: write(this.walls, [temperature(airT, this.walls)]),
    };
  }

  private nodeVelocity(): [Float32Array, Float32Array, Float32Array] {
    const { u, v, w, solid } = this.flow;
    const all = (): boolean => true;
    const still = (at: number, value: number): number => (solid[at] ? 0 : value);
    const place = (at: number): [number, number, number] => [
      at % NX,
      Math.floor(at / NX) % NY,
      Math.floor(at / (NX * NY)),
    ];
    return [
      toNodes((at) => {
        const [i, j, k] = place(at);
        return still(at, (u[ui(i, j, k)] + u[ui(i + 1, j, k)]) / 2);
      }, all),
      toNodes((at) => {
        const [i, j, k] = place(at);
        return still(at, (v[vi(i, j, k)] + v[vi(i, j + 1, k)]) / 2);
      }, all),
      toNodes((at) => {
        const [i, j, k] = place(at);
        return still(at, (w[wi(i, j, k)] + w[wi(i, j, k + 1)]) / 2);
      }, all),
    ];
  }
}
