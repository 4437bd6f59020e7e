import { cellTypeById, POLYHEDRON, STRIP } from '../model/cell-types.ts';
import { cellCount, type Mesh } from '../model/mesh.ts';
import { type CellQuadrature, cellQuadrature, GAUSS } from './cell-quadrature.ts';

/**
 * What every node of every cell counts in an integral over the mesh: the integral of its weight over the cell. An integral of
 * values at points is then one pass over the connectivity, for every field and step again.
 */
export interface MeshWeights {
  /** Of the cells that count; the others have nothing but zeros. */
  dimension: 1 | 2 | 3;
  /** One number for each entry of the connectivity. */
  nodes: Float64Array;
  /** Length, area or volume of each cell. */
  cells: Float64Array;
  /** Of surfaces the same with the direction across them, three numbers an entry; by the right hand along the corners. */
  across: Float64Array | null;
  /** Cells that are turned inside out; they count like the others. */
  inverted: number;
}

/**
 * Weights over the cells of one dimension. Values run as the type of the cell has it, quadratic ones too (quadratic pyramids by
 * their corners); cells of any number of faces are taken apart around their middles, where a value is the mean of the nodes.
 */
export function meshWeights(mesh: Mesh, dimension: 1 | 2 | 3): MeshWeights {
  const n = cellCount(mesh);
  const { types, offsets, connectivity } = mesh;
  const out: MeshWeights = {
    dimension,
    nodes: new Float64Array(connectivity.length),
    cells: new Float64Array(n),
    across: dimension === 2 ? new Float64Array(3 * connectivity.length) : null,
    inverted: 0,
  };
  for (let c = 0; c < n; c++) {
    const type = cellTypeById[types[c]]!;
    if (type.dimension !== dimension) continue;
    if (dimension === 1) alongLine(mesh, c, out);
    else {
      const tabulated = cellQuadrature(type.id);
      if (tabulated) overShape(mesh, c, tabulated, out);
      else takenApart(mesh, c, out);
    }
    // The base of a wedge looks away from its top in the file format, and towards it in its local places.
    const sense = type.name.startsWith('wedge') ? -1 : 1;
    let size = 0;
    for (let e = offsets[c]; e < offsets[c + 1]; e++) size += out.nodes[e];
    if (size < 0) {
      for (let e = offsets[c]; e < offsets[c + 1]; e++) out.nodes[e] = -out.nodes[e];
    }
    if (size * sense < 0) out.inverted++;
    out.cells[c] = Math.abs(size);
  }
  return out;
}

/** Every cell whose values run as a polynomial of its local places. */
function overShape(
  { points, offsets, connectivity }: Mesh,
  cell: number,
  { nodes, places, parts, weights, slopes }: CellQuadrature,
  { dimension, nodes: sums, across }: MeshWeights,
): void {
  const from = offsets[cell];
  for (let q = 0; q < places; q++) {
    // Columns of the derivative of a place by the local one.
    jacobian.fill(0);
    for (let k = 0; k < dimension; k++) {
      const row = 3 * nodes * q + k * nodes;
      for (let i = 0; i < nodes; i++) {
        const slope = slopes[row + i];
        const p = 3 * connectivity[from + i];
        for (let d = 0; d < 3; d++) jacobian[3 * k + d] += slope * points[p + d];
      }
    }
    const [rx, ry, rz, sx, sy, sz] = jacobian;
    const x = ry * sz - rz * sy;
    const y = rz * sx - rx * sz;
    const z = rx * sy - ry * sx;
    const density =
      parts[q] *
      (dimension === 3 ? x * jacobian[6] + y * jacobian[7] + z * jacobian[8] : Math.hypot(x, y, z));
    for (let i = 0; i < nodes; i++) {
      const weight = weights[nodes * q + i];
      sums[from + i] += weight * density;
      if (!across) continue;
      const at = 3 * (from + i);
      across[at] += weight * parts[q] * x;
      across[at + 1] += weight * parts[q] * y;
      across[at + 2] += weight * parts[q] * z;
    }
  }
}

const jacobian = new Float64Array(9);

/** Segments between neighbours; quadratic ones by the length of their parabola. */
function alongLine({ types, points, offsets, connectivity }: Mesh, cell: number, out: MeshWeights): void {
  const [from, to] = [offsets[cell], offsets[cell + 1]];
  const length = (a: number, b: number): number =>
    Math.hypot(...[0, 1, 2].map((k) => points[3 * connectivity[b] + k] - points[3 * connectivity[a] + k]));
  if (cellTypeById[types[cell]]!.quadratic) {
    for (const [t, part] of GAUSS[4]) {
      const weights = [(1 - t) * (1 - 2 * t), t * (2 * t - 1), 4 * t * (1 - t)];
      const slopes = [4 * t - 3, 4 * t - 1, 4 - 8 * t];
      const speed = Math.hypot(
        ...[0, 1, 2].map((k) =>
          slopes.reduce((sum, slope, i) => sum + slope * points[3 * connectivity[from + i] + k], 0),
        ),
      );
      for (let i = 0; i < 3; i++) out.nodes[from + i] += part * speed * weights[i];
    }
    return;
  }
  for (let e = from; e + 1 < to; e++) {
    const half = length(e, e + 1) / 2;
    out.nodes[e] += half;
    out.nodes[e + 1] += half;
  }
}

/** Cells of any number of faces, in triangles and tetrahedra around their middles; see `splitCell`. */
function takenApart(mesh: Mesh, cell: number, out: MeshWeights): void {
  const { types, points, offsets } = mesh;
  const from = offsets[cell];
  const n = offsets[cell + 1] - from;
  if (out.dimension === 2) {
    if (types[cell] === STRIP)
      // Every other triangle of a strip is walked the other way round.
      for (let i = 0; i + 2 < n; i++)
        addTriangle(
          mesh,
          i % 2 === 0 ? [from + i, from + i + 1, from + i + 2] : [from + i + 1, from + i, from + i + 2],
          out,
        );
    else addPolygon(mesh, from, n, out);
    return;
  }
  const middle = new Float64Array(3);
  for (let i = 0; i < n; i++) addPlace(points, mesh.connectivity[from + i], 1 / n, middle);
  for (const face of facesOf(mesh, cell)) {
    const of = face.length > 3 ? face : [face[2]];
    const top = new Float64Array(3);
    for (const e of of) addPlace(points, mesh.connectivity[e], 1 / of.length, top);
    const edges = face.length > 3 ? face.length : 1;
    const volumes = Array.from({ length: edges }, (_, k) =>
      sixfold(
        points,
        mesh.connectivity[face[k]],
        mesh.connectivity[face[(k + 1) % face.length]],
        top,
        middle,
      ),
    );
    // Faces of a polyhedron need not all be walked the same way round: each is turned away from the middle.
    const sign = types[cell] === POLYHEDRON && volumes.reduce((a, b) => a + b, 0) < 0 ? -1 : 1;
    for (const [k, six] of volumes.entries()) {
      const share = (sign * six) / 24;
      out.nodes[face[k]] += share;
      out.nodes[face[(k + 1) % face.length]] += share;
      for (const e of of) out.nodes[e] += share / of.length;
      for (let i = 0; i < n; i++) out.nodes[from + i] += share / n;
    }
  }
}

/** Faces of a cell, as places in the connectivity. */
function facesOf({ types, offsets, connectivity, polyhedra }: Mesh, cell: number): number[][] {
  const from = offsets[cell];
  if (types[cell] !== POLYHEDRON)
    return cellTypeById[types[cell]]!.faces.map((face) => face.map((i) => from + i));
  const nodes = connectivity.subarray(from, offsets[cell + 1]);
  const { faces, starts } = polyhedra!;
  const out: number[][] = [];
  for (let f = starts[cell]; f < starts[cell + 1]; f += faces[f] + 1)
    out.push(Array.from(faces.subarray(f + 1, f + 1 + faces[f]), (node) => from + nodes.indexOf(node)));
  return out;
}

function addPolygon(mesh: Mesh, from: number, n: number, out: MeshWeights): void {
  const { points, connectivity } = mesh;
  const middle = new Float64Array(3);
  for (let i = 0; i < n; i++) addPlace(points, connectivity[from + i], 1 / n, middle);
  const cross = new Float64Array(3);
  for (let k = 0; k < n; k++) {
    const [a, b] = [from + k, from + ((k + 1) % n)];
    crossInto(points, connectivity[a], connectivity[b], middle, cross);
    addFace(out, a, cross, 1);
    addFace(out, b, cross, 1);
    for (let i = 0; i < n; i++) addFace(out, from + i, cross, 1 / n);
  }
}

function addTriangle({ points, connectivity }: Mesh, [a, b, c]: readonly number[], out: MeshWeights): void {
  const third = points.subarray(3 * connectivity[c], 3 * connectivity[c] + 3);
  const cross = new Float64Array(3);
  crossInto(points, connectivity[a], connectivity[b], third, cross);
  for (const e of [a, b, c]) addFace(out, e, cross, 1);
}

/** A third of a triangle by the cross product of its sides, to an entry. */
function addFace({ nodes, across }: MeshWeights, entry: number, cross: Float64Array, share: number): void {
  nodes[entry] += (share * Math.hypot(cross[0], cross[1], cross[2])) / 6;
  for (let k = 0; k < 3; k++) across![3 * entry + k] += (share * cross[k]) / 6;
}

function addPlace(points: Float32Array, node: number, share: number, to: Float64Array): void {
  for (let k = 0; k < 3; k++) to[k] += share * points[3 * node + k];
}

/** (a - o) x (b - o), twice the area of their triangle. */
function crossInto(p: Float32Array, a: number, b: number, o: ArrayLike<number>, out: Float64Array): void {
  const [ax, ay, az] = [0, 1, 2].map((k) => p[3 * a + k] - o[k]);
  const [bx, by, bz] = [0, 1, 2].map((k) => p[3 * b + k] - o[k]);
  out[0] = ay * bz - az * by;
  out[1] = az * bx - ax * bz;
  out[2] = ax * by - ay * bx;
}

/** Six times the volume over a triangle that is walked outwards around, seen from a place within. */
function sixfold(p: Float32Array, a: number, b: number, top: Float64Array, within: Float64Array): number {
  crossInto(p, a, b, within, cross);
  return [0, 1, 2].reduce((sum, k) => sum + cross[k] * (top[k] - within[k]), 0);
}

const cross = new Float64Array(3);
