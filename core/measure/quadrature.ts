import { cellTypeById, POLYHEDRON, STRIP } from '../model/cell-types.ts';
import { cellCount, type Mesh } from '../model/mesh.ts';
import { type CellQuadrature, cellQuadrature, GAUSS, IN_TETRAHEDRON } from './cell-quadrature.ts';

/**
 * Places within a cell at which integrals over it are taken: exact for products of two values that run straight over it. Values run
 * as the type of the cell has it, quadratic ones too (quadratic pyramids by their corners); cells of any number of faces are taken
 * apart around their middles, where a value is the mean of the nodes.
 */
export interface CellPlaces {
  cell: number;
  /** Where its nodes begin in the connectivity, and how many there are. */
  from: number;
  nodes: number;
  count: number;
  /** What each node weighs: `nodes` numbers a place. */
  weights: Float64Array;
  /** Whether the weights are those of all cells of this shape, and may be kept. */
  shared: boolean;
  /** The length, area or volume each place stands for. */
  sizes: Float64Array;
  /** Of surfaces the same with the direction across them, three numbers a place; by the right hand along the corners. */
  across: Float64Array;
  /** Whether it is turned inside out; its sizes count like those of others. */
  inverted: boolean;
}

/** Visits the places of every cell of one dimension. What is visited is used again for the next cell. */
export function eachCellPlaces(mesh: Mesh, dimension: 1 | 2 | 3, visit: (places: CellPlaces) => void): void {
  const places = new PlacesOfCell(mesh, dimension);
  for (let c = 0; c < cellCount(mesh); c++) {
    const type = cellTypeById[mesh.types[c]]!;
    if (type.dimension !== dimension) continue;
    places.begin(c);
    const tabulated = dimension > 1 ? cellQuadrature(type.id) : null;
    if (dimension === 1) places.alongLine();
    else if (tabulated) places.overShape(tabulated);
    else places.takenApart();
    // The base of a wedge looks away from its top in the file format, and towards it in its local places.
    places.end(type.name.startsWith('wedge') ? -1 : 1);
    visit(places);
  }
}

/** A corner of a piece of a cell: what each node of the cell weighs there. */
type Corner = Float64Array;

/** Middles of the sides of a triangle: exact to degree 2 (Strang, Fix: An analysis of the finite element method; from memory). */
const IN_TRIANGLE = [
  [0.5, 0.5, 0],
  [0, 0.5, 0.5],
  [0.5, 0, 0.5],
];

class PlacesOfCell implements CellPlaces {
  cell = 0;
  from = 0;
  nodes = 0;
  count = 0;
  weights: Float64Array = new Float64Array(0);
  shared = false;
  sizes = new Float64Array(64);
  across = new Float64Array(3 * 64);
  inverted = false;
  private own = new Float64Array(64);
  private readonly jacobian = new Float64Array(9);

  constructor(
    private readonly mesh: Mesh,
    private readonly dimension: 1 | 2 | 3,
  ) {}

  begin(cell: number): void {
    const { offsets } = this.mesh;
    this.cell = cell;
    this.from = offsets[cell];
    this.nodes = offsets[cell + 1] - this.from;
    this.count = 0;
    this.weights = this.own;
    this.shared = false;
  }

  /** @param sense of a cell that is the right way out */
  end(sense: number): void {
    let size = 0;
    for (let q = 0; q < this.count; q++) size += this.sizes[q];
    this.inverted = size * sense < 0;
    if (size < 0) for (let q = 0; q < this.count; q++) this.sizes[q] = -this.sizes[q];
  }

  /** Every cell whose values run as a polynomial of its local places. */
  overShape({ nodes, places, parts, weights, slopes }: CellQuadrature): void {
    const { points, connectivity } = this.mesh;
    const { jacobian, dimension, from } = this;
    this.nodes = nodes;
    this.weights = weights;
    this.shared = true;
    this.room(places, 0);
    this.count = places;
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
      if (dimension === 3) this.sizes[q] = parts[q] * (x * jacobian[6] + y * jacobian[7] + z * jacobian[8]);
      else this.across3(q, parts[q] * x, parts[q] * y, parts[q] * z);
    }
  }

  /** Segments between neighbours; quadratic ones by the length of their parabola. */
  alongLine(): void {
    const { types, points, connectivity } = this.mesh;
    const { from, nodes, cell } = this;
    const at = (i: number, k: number): number => points[3 * connectivity[from + i] + k];
    if (cellTypeById[types[cell]]!.quadratic) {
      for (const [t, part] of GAUSS[4]) {
        const slopes = [4 * t - 3, 4 * t - 1, 4 - 8 * t];
        const speed = Math.hypot(
          ...[0, 1, 2].map((k) => slopes.reduce((sum, slope, i) => sum + slope * at(i, k), 0)),
        );
        this.add(part * speed).set([(1 - t) * (1 - 2 * t), t * (2 * t - 1), 4 * t * (1 - t)]);
      }
      return;
    }
    for (let e = 0; e + 1 < nodes; e++) {
      const length = Math.hypot(...[0, 1, 2].map((k) => at(e + 1, k) - at(e, k)));
      for (const [t, part] of GAUSS[2]) this.add(part * length).set([1 - t, t], e);
    }
  }

  /** Cells of any number of faces, in triangles and tetrahedra around their middles; see `splitCell`. */
  takenApart(): void {
    const { types } = this.mesh;
    const { nodes, cell } = this;
    const middle = this.meanOf(Array.from({ length: nodes }, (_, i) => i));
    if (this.dimension === 2) {
      if (types[cell] === STRIP)
        // Every other triangle of a strip is walked the other way round.
        for (let i = 0; i + 2 < nodes; i++) {
          const turned = i % 2;
          this.addTriangle([i + turned, i + 1 - turned, i + 2].map((k) => this.meanOf([k])));
        }
      else
        for (let k = 0; k < nodes; k++)
          this.addTriangle([this.meanOf([k]), this.meanOf([(k + 1) % nodes]), middle]);
      return;
    }
    for (const face of this.faces()) {
      const top = this.meanOf(face.length > 3 ? face : [face[2]]);
      const edges = face.length > 3 ? face.length : 1;
      const pieces = Array.from({ length: edges }, (_, k) => {
        const corners = [this.meanOf([face[k]]), this.meanOf([face[(k + 1) % face.length]]), top, middle];
        return { corners, volume: this.volumeOf(corners) };
      });
      // Faces of a polyhedron need not all be walked the same way round: each is turned away from the middle.
      const out = types[cell] === POLYHEDRON && pieces.reduce((sum, p) => sum + p.volume, 0) < 0 ? -1 : 1;
      for (const { corners, volume } of pieces)
        for (const shares of IN_TETRAHEDRON)
          this.mix(this.add((out * volume) / IN_TETRAHEDRON.length), corners, shares);
    }
  }

  /** The mean of some nodes of the cell. */
  private meanOf(some: readonly number[]): Corner {
    const out = new Float64Array(this.nodes);
    for (const i of some) out[i] += 1 / some.length;
    return out;
  }

  private placeOf(corner: Corner): number[] {
    const { points, connectivity } = this.mesh;
    return [0, 1, 2].map((k) =>
      corner.reduce((sum, w, i) => sum + w * points[3 * connectivity[this.from + i] + k], 0),
    );
  }

  private volumeOf(corners: readonly Corner[]): number {
    const [a, b, top, within] = corners.map((c) => this.placeOf(c));
    const across = crossOf(a, b, within);
    return across.reduce((sum, v, k) => sum + v * (top[k] - within[k]), 0) / 6;
  }

  private addTriangle(corners: readonly Corner[]): void {
    const [a, b, c] = corners.map((corner) => this.placeOf(corner));
    const part = crossOf(a, b, c).map((v) => v / 2 / IN_TRIANGLE.length);
    for (const shares of IN_TRIANGLE) {
      this.mix(this.add(0), corners, shares);
      this.across3(this.count - 1, part[0], part[1], part[2]);
    }
  }

  private mix(weights: Float64Array, corners: readonly Corner[], shares: readonly number[]): void {
    for (const [j, corner] of corners.entries())
      for (let i = 0; i < weights.length; i++) weights[i] += shares[j] * corner[i];
  }

  private across3(q: number, x: number, y: number, z: number): void {
    this.across[3 * q] = x;
    this.across[3 * q + 1] = y;
    this.across[3 * q + 2] = z;
    this.sizes[q] = Math.sqrt(x * x + y * y + z * z);
  }

  /** One more place; gives its weights, all zero. */
  private add(size: number): Float64Array {
    const { nodes } = this;
    this.room(this.count + 1, (this.count + 1) * nodes);
    this.weights = this.own;
    this.sizes[this.count] = size;
    const at = nodes * this.count++;
    return this.own.subarray(at, at + nodes).fill(0);
  }

  private room(places: number, weights: number): void {
    if (places > this.sizes.length) {
      this.sizes = grown(this.sizes, 2 * places);
      this.across = grown(this.across, 6 * places);
    }
    if (weights > this.own.length) this.own = grown(this.own, 2 * weights);
  }

  /** Faces of the cell, as places among its nodes. */
  private faces(): number[][] {
    const { types, offsets, connectivity, polyhedra } = this.mesh;
    const { cell } = this;
    if (types[cell] !== POLYHEDRON) return cellTypeById[types[cell]]!.faces.map((face) => [...face]);
    const own = connectivity.subarray(offsets[cell], offsets[cell + 1]);
    const { faces, starts } = polyhedra!;
    const out: number[][] = [];
    for (let f = starts[cell]; f < starts[cell + 1]; f += faces[f] + 1)
      out.push(Array.from(faces.subarray(f + 1, f + 1 + faces[f]), (node) => own.indexOf(node)));
    return out;
  }
}

function grown(old: Float64Array, size: number): Float64Array<ArrayBuffer> {
  const out = new Float64Array(size);
  out.set(old);
  return out;
}

/** (a - o) x (b - o), twice the area of their triangle. */
function crossOf(a: readonly number[], b: readonly number[], o: readonly number[]): number[] {
  const [ax, ay, az] = a.map((v, k) => v - o[k]);
  const [bx, by, bz] = b.map((v, k) => v - o[k]);
  return [ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx];
}
