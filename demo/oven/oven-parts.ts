import type { RawMesh } from '#core/formats/format.ts';
import { HEXAHEDRON, QUAD } from '#core/model/cell-types.ts';
import { cellsOf, hexGrid, type Place } from '../shared/grid-mesh.ts';
import {
  AIR,
  CELL,
  cellIndex,
  domeHeight,
  fan,
  glass,
  NX,
  NY,
  NZ,
  rackLayers,
  slot,
  TIN,
  tins,
} from './chamber.ts';

const nodeIndex = (i: number, j: number, k: number): number => (k * (NY + 1) + j) * (NX + 1) + i;

/** The cells of the grid that are wanted, or quadrilaterals between its nodes, with only the points they use. */
function onGrid(cells: number[][], type: number): RawMesh {
  const number = new Map<number, number>();
  const own = cells.map((c) =>
    c.map((node) => {
      let local = number.get(node);
      if (local === undefined) number.set(node, (local = number.size));
      return local;
    }),
  );
  const points = [...number.keys()].flatMap((node) => [
    (node % (NX + 1)) * CELL,
    (Math.floor(node / (NX + 1)) % (NY + 1)) * CELL,
    Math.floor(node / ((NX + 1) * (NY + 1))) * CELL,
  ]);
  return cellsOf(points, own, type);
}

function hexahedra(wanted: (at: number) => boolean): RawMesh {
  const cells: number[][] = [];
  for (let k = 0; k < NZ; k++)
    for (let j = 0; j < NY; j++)
      for (let i = 0; i < NX; i++)
        if (wanted(cellIndex(i, j, k)))
          cells.push(
            [k, k + 1].flatMap((h) => [
              nodeIndex(i, j, h),
              nodeIndex(i + 1, j, h),
              nodeIndex(i + 1, j + 1, h),
              nodeIndex(i, j + 1, h),
            ]),
          );
  return onGrid(cells, HEXAHEDRON);
}

type Opening = { y: readonly [number, number]; z: readonly [number, number] };
const within = (o: Opening, j: number, k: number): boolean =>
  j >= o.y[0] && j < o.y[1] && k >= o.z[0] && k < o.z[1];
const inGlass = (i: number, k: number): boolean =>
  i >= glass.x[0] && i < glass.x[1] && k >= glass.z[0] && k < glass.z[1];

/** The walls with their openings left open, fronts turned outward; and the glass in the door. */
function walls(): { walls: RawMesh; glass: RawMesh } {
  const cells: number[][] = [];
  const pane: number[][] = [];
  const put = (into: number[][], corners: number[], turned: boolean): void => {
    into.push(turned ? corners.reverse() : corners);
  };
  for (let k = 0; k < NZ; k++) {
    for (let j = 0; j < NY; j++)
      for (const i of [0, NX]) {
        if (i === 0 && (within(slot, j, k) || within(fan, j, k))) continue;
        const corners = [
          nodeIndex(i, j, k),
          nodeIndex(i, j + 1, k),
          nodeIndex(i, j + 1, k + 1),
          nodeIndex(i, j, k + 1),
        ];
        put(cells, corners, i === 0);
      }
    for (let i = 0; i < NX; i++)
      for (const j of [0, NY]) {
        const corners = [
          nodeIndex(i, j, k),
          nodeIndex(i + 1, j, k),
          nodeIndex(i + 1, j, k + 1),
          nodeIndex(i, j, k + 1),
        ];
        put(j === 0 && inGlass(i, k) ? pane : cells, corners, j === NY);
      }
  }
  for (let j = 0; j < NY; j++)
    for (let i = 0; i < NX; i++)
      for (const k of [0, NZ]) {
        const corners = [
          nodeIndex(i, j, k),
          nodeIndex(i + 1, j, k),
          nodeIndex(i + 1, j + 1, k),
          nodeIndex(i, j + 1, k),
        ];
        put(cells, corners, k === 0);
      }
  return { walls: onGrid(cells, QUAD), glass: onGrid(pane, QUAD) };
}

/** Bars of the racks as slender boxes. */
function racks(): RawMesh {
  const points: number[] = [];
  const cells: number[][] = [];
  const bar = 0.004;
  const box = (lo: number[], hi: number[]): void => {
    const first = points.length / 3;
    for (let c = 0; c < 8; c++)
      points.push(c & 1 ? hi[0] : lo[0], c & 2 ? hi[1] : lo[1], c & 4 ? hi[2] : lo[2]);
    for (const face of [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [1, 3, 7, 5],
      [3, 2, 6, 7],
      [2, 0, 4, 6],
    ])
      cells.push(face.map((v) => first + v));
  };
  const [length, depth] = [NX * CELL, NY * CELL];
  for (const layer of rackLayers) {
    const top = (layer + 1) * CELL;
    for (let n = 0; n < 9; n++) {
      const y = depth * (0.09 + 0.1025 * n);
      box([0, y - bar, top - 2 * bar], [length, y + bar, top]);
    }
    for (const x of [0.2, 0.5, 0.8].map((s) => s * length))
      box([x - bar, 0, top - 4 * bar], [x + bar, depth, top - 2 * bar]);
  }
  return cellsOf(points, cells, QUAD);
}

/** Cells across a loaf. */
const LOAF_CELLS = 10;

/** Loaves as bodies of their own: they fill their tins and rise above them in a dome. */
function loaves(): RawMesh {
  const all = tins.map((t) => {
    const inner = (range: [number, number], share: number): number =>
      CELL * (range[0] + 1 + share * (range[1] - range[0] - 2));
    const bottom = CELL * (t.z[0] + 1);
    return hexGrid(LOAF_CELLS, LOAF_CELLS, 8, (i, j, k): Place => {
      const [a, b] = [i, j].map((v) => 0.98 * ((2 * v) / LOAF_CELLS - 1));
      const top = CELL * (t.z[1] + domeHeight(a, b));
      return [inner(t.x, i / LOAF_CELLS), inner(t.y, j / LOAF_CELLS), bottom + (k / 8) * (top - bottom)];
    });
  });
  const points: number[] = [];
  const cells: number[][] = [];
  for (const mesh of all) {
    const first = points.length / 3;
    points.push(...mesh.points);
    for (let c = 0; c < mesh.connectivity.length; c += 8)
      cells.push([...mesh.connectivity.subarray(c, c + 8)].map((p) => first + p));
  }
  return cellsOf(points, cells, HEXAHEDRON);
}

const BLADES = 11;

/** The wheel of the fan before its opening: a ring of curved blades between a disc and a rim. */
function fanWheel(): RawMesh {
  const points: number[] = [];
  const cells: number[][] = [];
  const [cy, cz] = [fan.y, fan.z].map((r) => (CELL * (r[0] + r[1])) / 2);
  const outer = (CELL * (fan.y[1] - fan.y[0])) / 2 - 0.004;
  const hub = 0.35 * outer;
  const depth = 0.045;
  const at = (x: number, r: number, turn: number): number => {
    points.push(x, cy + r * Math.cos(turn), cz + r * Math.sin(turn));
    return points.length / 3 - 1;
  };
  for (let n = 0; n < BLADES; n++) {
    const turn = (2 * Math.PI * n) / BLADES;
    const steps = 6;
    let last: [number, number] | null = null;
    for (let s = 0; s <= steps; s++) {
      const r = hub + (s / steps) * (outer - hub);
      const lean = turn + 0.55 * (s / steps) ** 2;
      const now: [number, number] = [at(0.006, r, lean), at(0.006 + depth, r, lean)];
      if (last) cells.push([last[0], now[0], now[1], last[1]]);
      last = now;
    }
  }
  const around = 44;
  const ring = (x0: number, r0: number, x1: number, r1: number): void => {
    const first = points.length / 3;
    for (let s = 0; s <= around; s++) {
      const turn = (2 * Math.PI * s) / around;
      at(x0, r0, turn);
      at(x1, r1, turn);
    }
    for (let s = 0; s < around; s++) {
      const p = first + 2 * s;
      cells.push([p, p + 2, p + 3, p + 1]);
    }
  };
  ring(0.004, 0.0001, 0.004, outer);
  ring(0.006, hub, 0.006 + depth, 0.75 * hub);
  ring(0.006 + depth, 0.75 * hub, 0.006 + depth, 0.0001);
  ring(0.006 + depth, outer, 0.006 + depth, 0.9 * outer);
  return cellsOf(points, cells, QUAD);
}

/** The parts of the oven by name. */
export function ovenParts(solid: Uint8Array): Record<string, RawMesh> {
  const shell = walls();
  return {
    'chamber air': hexahedra((at) => solid[at] === AIR),
    loaves: loaves(),
    tins: hexahedra((at) => solid[at] === TIN),
    racks: racks(),
    fan: fanWheel(),
    'door glass': shell.glass,
    walls: shell.walls,
  };
}
