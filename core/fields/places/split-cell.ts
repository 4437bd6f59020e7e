import { cellTypeById, POLYHEDRON } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { cross, dot } from '../../model/vectors.ts';

/**
 * A cell of any number of faces, taken apart around its middle and the middles of its faces; a value runs linearly in each
 * piece. A middle has the mean of the nodes it is the middle of, so that a value is the same from both sides of a face.
 */
export interface SplitCell {
  /** All nodes of the cell, and their weights at the place that was found last. */
  nodes: Uint32Array;
  weights: Float64Array;
  /** Of a surface, its directions at that place, as columns. */
  slopes: Float64Array;
  /** Whether it holds a place; if so, the weights are those of the place. */
  find(x: number, y: number, z: number, slack: number): boolean;
}

/** A point of a piece: its place, and the nodes it is the mean of. */
interface Middle {
  place: number[];
  of: number[];
}

const kept = new WeakMap<Mesh, Map<number, SplitCell>>();
/** Split cells kept for a mesh; a path goes through few at a time. */
const KEPT = 512;

export function splitCell(mesh: Mesh, cell: number): SplitCell {
  let ofMesh = kept.get(mesh);
  if (!ofMesh) kept.set(mesh, (ofMesh = new Map()));
  const known = ofMesh.get(cell);
  if (known) return known;
  if (ofMesh.size >= KEPT) ofMesh.clear();
  const made = split(mesh, cell);
  ofMesh.set(cell, made);
  return made;
}

/** Corner loops of its faces, as positions in the list of its nodes; of a surface itself. */
function facesOf(mesh: Mesh, cell: number, nodes: Uint32Array): number[][] {
  const type = cellTypeById[mesh.types[cell]]!;
  if (type.dimension === 2) return [Array.from(nodes, (_, i) => i)];
  if (type.id !== POLYHEDRON) return type.faces.map((f) => [...f]);
  const { faces, starts } = mesh.polyhedra!;
  const out: number[][] = [];
  for (let f = starts[cell]; f < starts[cell + 1]; f += faces[f] + 1)
    out.push(Array.from(faces.subarray(f + 1, f + 1 + faces[f]), (node) => nodes.indexOf(node)));
  return out;
}

function split(mesh: Mesh, cell: number): SplitCell {
  const nodes = mesh.connectivity.subarray(mesh.offsets[cell], mesh.offsets[cell + 1]);
  const { points } = mesh;
  const isFlat = cellTypeById[mesh.types[cell]]!.dimension === 2;
  const node = (i: number): Middle => ({
    place: [0, 1, 2].map((k) => points[3 * nodes[i] + k]),
    of: [i],
  });
  const middle = (list: readonly number[]): Middle => ({
    place: [0, 1, 2].map((k) => list.reduce((s, i) => s + points[3 * nodes[i] + k], 0) / list.length),
    of: [...list],
  });
  const faces = facesOf(mesh, cell, nodes);
  const centre = isFlat ? null : middle(Array.from(nodes, (_, i) => i));
  const pieces: Piece[] = [];
  for (const face of faces) {
    const around = face.length > 3 || isFlat ? middle(face) : null;
    for (let k = 0; k < (around ? face.length : 1); k++) {
      const third = around ?? node(face[2]);
      const corners = [node(face[k]), node(face[(k + 1) % face.length]), third];
      pieces.push(new Piece(centre ? [...corners, centre] : corners));
    }
  }
  const weights = new Float64Array(nodes.length);
  const slopes = new Float64Array(9);
  return {
    nodes,
    weights,
    slopes,
    find(x, y, z, slack) {
      const found = pieces.find((piece) => piece.holds(x, y, z, slack));
      if (!found) return false;
      weights.fill(0);
      for (const [i, { of }] of found.corners.entries())
        for (const n of of) weights[n] += found.weights[i] / of.length;
      found.slopesInto(slopes);
      return true;
    },
  };
}

/** A tetrahedron or a triangle. */
class Piece {
  readonly weights: number[] = [];
  private readonly sides: number[][];

  constructor(readonly corners: readonly Middle[]) {
    this.sides = corners.slice(1).map(({ place }) => place.map((v, k) => v - corners[0].place[k]));
  }

  holds(x: number, y: number, z: number, slack: number): boolean {
    const [u, v] = this.sides;
    // Of a triangle the third direction is square to it; how far a place lies along it does not matter.
    const w = this.sides[2] ?? cross(u, v);
    const { place } = this.corners[0];
    const d = [x - place[0], y - place[1], z - place[2]];
    const volume = dot(u, cross(v, w));
    if (volume === 0) return false;
    const local = [
      dot(d, cross(v, w)) / volume,
      dot(d, cross(w, u)) / volume,
      dot(d, cross(u, v)) / volume,
    ].slice(0, this.sides.length);
    const rest = 1 - local.reduce((a, b) => a + b, 0);
    this.weights.splice(0, 4, rest, ...local);
    return this.weights.every((value) => value >= -slack);
  }

  slopesInto(out: Float64Array): void {
    for (let k = 0; k < 3; k++) for (let n = 0; n < this.sides.length; n++) out[3 * k + n] = this.sides[n][k];
  }
}
