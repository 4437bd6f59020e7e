import { CellList } from '../../fields/surfaces/cell-list.ts';
import { outerFaces } from '../../fields/surfaces/outer-faces.ts';
import { GrowingUint32 } from '../../model/arrays.ts';
import {
  cellTypes,
  HEXAHEDRON,
  LINE,
  POLYHEDRON,
  PYRAMID,
  QUAD,
  TETRA,
  TRIANGLE,
  WEDGE,
} from '../../model/cell-types.ts';
import { cellCount, type Mesh, pointCount } from '../../model/mesh.ts';
import { copyOf } from '../../model/recipe.ts';
import type { OperationInput, OperationResult } from '../chain/operation.ts';
import { followedBy } from '../chain/results.ts';
import type { Placement } from './copies.ts';
import { edgeLines, faceEdges } from './face-edges.ts';

/** The way a flat mesh is moved along: where it stands after each segment, and half way for cells. */
export interface Way {
  stations: Placement[];
  /** One fewer; how directions in cells turn. */
  middles: Placement[];
  /** The last station is the first again. */
  closed: boolean;
  /** Points that stay where they are, like those on an axis. */
  stays(x: number, y: number, z: number): boolean;
}

/**
 * Sweeps points to lines, lines to faces and faces to volumes. A face with nodes that stay becomes the smaller cell it
 * then is: a triangle with one gives a pyramid, with two a tetrahedron, a quadrilateral with two a wedge.
 */
export function sweep(flat: Mesh, way: Way): OperationResult {
  // Lines on the rims of faces would become walls of their own.
  const first = outerFaces(flat);
  return followedBy(first, sweepPlain(first.mesh, way));
}

function sweepPlain(mesh: Mesh, way: Way): OperationResult {
  const n = pointCount(mesh);
  const { stations, middles, closed } = way;
  const layers = closed ? stations.length - 1 : stations.length;
  const still = new Uint8Array(n);
  const p = mesh.points;
  for (let i = 0; i < n; i++) if (way.stays(p[3 * i], p[3 * i + 1], p[3 * i + 2])) still[i] = 1;
  // Points of each layer one after the other; those that stay are in the first only.
  const number = new Int32Array(layers * n).fill(-1);
  const source = new GrowingUint32();
  const turn = new GrowingUint32();
  const coordinates: number[] = [];
  for (let k = 0; k < layers; k++) {
    const { turn: q, shift } = stations[k];
    for (let i = 0; i < n; i++) {
      if (still[i] && k > 0) {
        number[k * n + i] = number[i];
        continue;
      }
      number[k * n + i] = source.length;
      source.push(i);
      turn.push(k);
      for (let r = 0; r < 3; r++)
        coordinates.push(
          q[3 * r] * p[3 * i] + q[3 * r + 1] * p[3 * i + 1] + q[3 * r + 2] * p[3 * i + 2] + shift[r],
        );
    }
  }
  const cells = new SweptCells(mesh, still);
  for (let k = 0; k + 1 < stations.length; k++) {
    const next = closed && k + 2 === stations.length ? 0 : k + 1;
    for (let c = 0; c < cellCount(mesh); c++)
      cells.add(
        c,
        k,
        (i) => number[k * n + i],
        (i) => number[next * n + i],
      );
  }
  const turns = Float64Array.from([...stations, ...middles].flatMap((s) => Array.from(s.turn)));
  const swept = cells.result(Float32Array.from(coordinates));
  return {
    mesh: swept.mesh,
    recipe: {
      points: { ...copyOf(source.toArray()), turn: Uint16Array.from(turn.toArray()), turns },
      cells: { ...copyOf(swept.origin), turn: swept.segment.map((k) => k + stations.length), turns },
    },
  };
}

class SweptCells {
  private readonly list = new CellList();
  private readonly segments = new GrowingUint32();
  private readonly faces = new GrowingUint32();
  private readonly faceEnds = new GrowingUint32();

  constructor(
    private readonly mesh: Mesh,
    private readonly still: Uint8Array,
  ) {}

  add(cell: number, segment: number, before: (p: number) => number, after: (p: number) => number): void {
    const { offsets, connectivity, types } = this.mesh;
    const type = cellTypes.get(types[cell])!;
    const from = offsets[cell];
    const n = type.corners || offsets[cell + 1] - from;
    const node = (k: number): number => connectivity[from + (type.loop.length > 0 ? type.loop[k] : k)];
    const put = (kind: number, nodes: number[]): void => {
      for (const v of nodes) this.list.node(v);
      this.finish(kind, cell, segment);
    };
    if (type.dimension === 0) {
      for (let k = 0; k < n; k++) if (!this.still[node(k)]) put(LINE, [before(node(k)), after(node(k))]);
    } else if (type.dimension === 1) {
      for (let k = 0; k + 1 < n; k++) {
        const [a, b] = [node(k), node(k + 1)];
        const loop = [before(a), before(b), after(b), after(a)].filter((v, i, all) => all.indexOf(v) === i);
        if (loop.length >= 3) put(loop.length === 3 ? TRIANGLE : QUAD, loop);
      }
    } else if (type.dimension === 2) {
      if (type.name === 'strip') {
        for (let i = 0; i + 2 < n; i++)
          this.face(
            [node(i), node(i + 1 + (i % 2)), node(i + 2 - (i % 2))],
            before,
            after,
            put,
            cell,
            segment,
          );
      } else
        this.face(
          Array.from({ length: n }, (_, k) => node(k)),
          before,
          after,
          put,
          cell,
          segment,
        );
    }
  }

  result(points: Float32Array): { mesh: Mesh; origin: Uint32Array; segment: Uint16Array } {
    const starts = new Uint32Array(this.faceEnds.length + 1);
    starts.set(this.faceEnds.data.subarray(0, this.faceEnds.length), 1);
    const polyhedra = this.faces.length > 0 ? { faces: this.faces.toArray(), starts } : null;
    return {
      mesh: { ...this.list.mesh(points), polyhedra },
      origin: this.list.originCells(),
      segment: Uint16Array.from(this.segments.toArray()),
    };
  }

  private finish(kind: number, cell: number, segment: number): void {
    this.list.finish(kind, cell);
    this.segments.push(segment);
    this.faceEnds.push(this.faces.length);
  }

  private face(
    nodes: number[],
    before: (p: number) => number,
    after: (p: number) => number,
    put: (kind: number, nodes: number[]) => void,
    cell: number,
    segment: number,
  ): void {
    const n = nodes.length;
    const staying = nodes.filter((p) => this.still[p]).length;
    if (staying === n) return;
    // Turned so that those that stay come first.
    let begin = 0;
    if (staying > 0) while (!this.still[nodes[begin]] || this.still[nodes[(begin + n - 1) % n]]) begin++;
    const at = (k: number): number => nodes[(begin + k) % n];
    const joined = [...Array(staying).keys()].every((k) => this.still[at(k)]);
    if (staying === 0 && n === 3) put(WEDGE, [...nodes.map(before), ...nodes.map(after)]);
    else if (staying === 0 && n === 4) put(HEXAHEDRON, [...nodes.map(before), ...nodes.map(after)]);
    else if (n === 3 && staying === 1)
      put(PYRAMID, [before(at(1)), before(at(2)), after(at(2)), after(at(1)), before(at(0))]);
    else if (n === 3 && staying === 2)
      put(TETRA, [before(at(0)), before(at(1)), before(at(2)), after(at(2))]);
    else if (n === 4 && staying === 2 && joined)
      put(WEDGE, [before(at(0)), before(at(3)), after(at(3)), before(at(1)), before(at(2)), after(at(2))]);
    else {
      const all = new Set<number>();
      const face = (loop: number[]): void => {
        const clean = loop.filter((v, k) => v !== loop[(k + loop.length - 1) % loop.length]);
        if (clean.length < 3) return;
        this.faces.push(clean.length);
        for (const v of clean) {
          this.faces.push(v);
          all.add(v);
        }
      };
      face(nodes.map(before));
      face(nodes.map(after).reverse());
      for (let k = 0; k < n; k++) {
        const [a, b] = [nodes[k], nodes[(k + 1) % n]];
        face([before(b), before(a), after(a), after(b)]);
      }
      for (const v of all) this.list.node(v);
      this.finish(POLYHEDRON, cell, segment);
    }
  }
}

/** The outer faces of a swept surface without making its volumes: its borders swept, and its two ends. */
export function sweptOuter(flat: OperationInput, way: Way): OperationInput[] {
  const input = flat.derive(outerFaces(flat.mesh));
  const edges = faceEdges(input.mesh);
  const borders = input.derive(edgeLines(input.mesh, edges, (e) => edges.uses[e] === 1));
  const pieces = [borders.derive(sweep(borders.mesh, way))];
  if (way.closed) return pieces;
  for (const station of [way.stations[0], way.stations[way.stations.length - 1]]) {
    const { points } = input.mesh;
    const { turn, shift } = station;
    const moved = new Float32Array(points.length);
    for (let i = 0; i < points.length; i += 3)
      for (let r = 0; r < 3; r++)
        moved[i + r] =
          turn[3 * r] * points[i] +
          turn[3 * r + 1] * points[i + 1] +
          turn[3 * r + 2] * points[i + 2] +
          shift[r];
    const turned = (count: number) => ({
      ...copyOf(Uint32Array.from({ length: count }, (_, i) => i)),
      turn: new Uint16Array(count),
      turns: Float64Array.from(turn),
    });
    pieces.push(
      input.derive({
        mesh: { ...input.mesh, points: moved },
        recipe: { points: turned(pointCount(input.mesh)), cells: turned(cellCount(input.mesh)) },
      }),
    );
  }
  return pieces;
}
