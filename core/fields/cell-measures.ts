import { cellTypes, POLYHEDRON } from '../model/cell-types.ts';
import { cellCount, type Mesh } from '../model/mesh.ts';

/**
 * Volume, area or length of every cell. Volumes by the divergence theorem over faces cut into triangles around their
 * middle, which is exact for cells with flat faces and the same for both cells of a bent one; inverted cells are
 * negative. Areas are half the length of Newell's sum. Quadratic cells count by their corners.
 */
export function cellMeasures(mesh: Mesh): Float32Array {
  const { types, offsets, connectivity, points: p } = mesh;
  const out = new Float32Array(cellCount(mesh));
  for (let c = 0; c < out.length; c++) {
    const type = cellTypes.get(types[c])!;
    const from = offsets[c];
    const n = type.corners || offsets[c + 1] - from;
    if (type.id === POLYHEDRON) out[c] = polyhedronVolume(mesh, c);
    else if (type.dimension === 3) {
      const base = 3 * connectivity[from];
      for (const face of type.faces)
        out[c] += cone(p, base, face.length, (k) => connectivity[from + face[k]]);
    } else if (type.dimension === 2) {
      const loop = (k: number): number => connectivity[from + (type.loop.length > 0 ? type.loop[k] : k)];
      if (type.name === 'strip')
        for (let i = 0; i + 2 < n; i++) out[c] += loopArea(p, 3, (k) => connectivity[from + i + k]);
      else out[c] = loopArea(p, n, loop);
    } else if (type.dimension === 1) {
      for (let k = 0; k + 1 < n; k++) {
        const [a, b] = [3 * connectivity[from + k], 3 * connectivity[from + k + 1]];
        out[c] += Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]);
      }
    }
  }
  return out;
}

/** Faces of a polyhedron need not all be walked the same way round: each is turned away from the middle. */
function polyhedronVolume({ points: p, offsets, connectivity, polyhedra }: Mesh, cell: number): number {
  const { faces, starts } = polyhedra!;
  const n = offsets[cell + 1] - offsets[cell];
  const middle = new Float64Array(3);
  for (let i = offsets[cell]; i < offsets[cell + 1]; i++)
    for (let k = 0; k < 3; k++) middle[k] += p[3 * connectivity[i] + k] / n;
  let sum = 0;
  for (let f = starts[cell]; f < starts[cell + 1]; f += faces[f] + 1)
    sum += Math.abs(coneFrom(p, middle, faces[f], (k) => faces[f + 1 + k]));
  return sum;
}

const cone = (p: Float32Array, base: number, n: number, node: (k: number) => number): number =>
  coneFrom(p, p.subarray(base, base + 3), n, node);

/** Volume between a place and a face, cut into triangles around the middle of the face. */
function coneFrom(p: Float32Array, at: ArrayLike<number>, n: number, node: (k: number) => number): number {
  const m = [0, 0, 0];
  for (let k = 0; k < n; k++) for (let i = 0; i < 3; i++) m[i] += (p[3 * node(k) + i] - at[i]) / n;
  let six = 0;
  for (let k = 0; k < n; k++) {
    const [a, b] = [3 * node(k), 3 * node((k + 1) % n)];
    const [ax, ay, az] = [p[a] - at[0], p[a + 1] - at[1], p[a + 2] - at[2]];
    const [bx, by, bz] = [p[b] - at[0], p[b + 1] - at[1], p[b + 2] - at[2]];
    six += m[0] * (ay * bz - az * by) + m[1] * (az * bx - ax * bz) + m[2] * (ax * by - ay * bx);
  }
  return six / 6;
}

function loopArea(p: Float32Array, n: number, node: (k: number) => number): number {
  const o = 3 * node(0);
  let [x, y, z] = [0, 0, 0];
  for (let k = 1; k + 1 < n; k++) {
    const [a, b] = [3 * node(k), 3 * node(k + 1)];
    const [ux, uy, uz] = [p[a] - p[o], p[a + 1] - p[o + 1], p[a + 2] - p[o + 2]];
    const [vx, vy, vz] = [p[b] - p[o], p[b + 1] - p[o + 1], p[b + 2] - p[o + 2]];
    x += uy * vz - uz * vy;
    y += uz * vx - ux * vz;
    z += ux * vy - uy * vx;
  }
  return Math.hypot(x, y, z) / 2;
}
