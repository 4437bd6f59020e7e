import type { RawMesh } from '#core/formats/format.ts';
import { BandedMatrix } from './banded-cholesky.ts';
import type { Place } from './grid-mesh.ts';

/** Quadratic hexahedron of 20 nodes: its id in VTK files. */
const QUADRATIC_HEXAHEDRON = 25;

/** Corners and middles of edges of the unit cube -1..1, in the order of VTK files. */
const NODES: Place[] = (() => {
  const corners: Place[] = [-1, 1].flatMap((z): Place[] => [
    [-1, -1, z],
    [1, -1, z],
    [1, 1, z],
    [-1, 1, z],
  ]);
  const pairs = [0, 1, 2, 3].map((i) => [i, (i + 1) % 4]);
  const edges = [...pairs, ...pairs.map(([a, b]) => [a + 4, b + 4]), ...[0, 1, 2, 3].map((i) => [i, i + 4])];
  const middles = edges.map(([a, b]) => corners[a].map((v, k) => (v + corners[b][k]) / 2) as Place);
  return [...corners, ...middles];
})();

/** Shape functions and their slopes at a place in the cube (serendipity; Zienkiewicz and Taylor, from memory). */
function shapes([x, y, z]: Place): { value: number[]; slope: Place[] } {
  const value: number[] = [];
  const slope: Place[] = [];
  for (const [a, b, c] of NODES) {
    const [p, q, r] = [1 + a * x, 1 + b * y, 1 + c * z];
    if (a !== 0 && b !== 0 && c !== 0) {
      const s = a * x + b * y + c * z - 2;
      value.push((p * q * r * s) / 8);
      slope.push([(a * q * r * (s + p)) / 8, (b * p * r * (s + q)) / 8, (c * p * q * (s + r)) / 8]);
    } else if (a === 0) {
      value.push(((1 - x * x) * q * r) / 4);
      slope.push([(-2 * x * q * r) / 4, ((1 - x * x) * b * r) / 4, ((1 - x * x) * c * q) / 4]);
    } else if (b === 0) {
      value.push(((1 - y * y) * p * r) / 4);
      slope.push([((1 - y * y) * a * r) / 4, (-2 * y * p * r) / 4, ((1 - y * y) * c * p) / 4]);
    } else {
      value.push(((1 - z * z) * p * q) / 4);
      slope.push([((1 - z * z) * a * q) / 4, ((1 - z * z) * b * p) / 4, (-2 * z * p * q) / 4]);
    }
  }
  return { value, slope };
}

const GAUSS: [number, number][] = [
  [-Math.sqrt(0.6), 5 / 9],
  [0, 8 / 9],
  [Math.sqrt(0.6), 5 / 9],
];
const POINTS = GAUSS.flatMap(([x, a]) =>
  GAUSS.flatMap(([y, b]) => GAUSS.map(([z, c]) => ({ ...shapes([x, y, z]), weight: a * b * c }))),
);

interface Material {
  /** Pa. */
  stiffness: number;
  poisson: number;
  /** kg/m3. */
  density: number;
}

const STEEL: Material = { stiffness: 2.05e11, poisson: 0.3, density: 7850 };

/** A bar of quadratic hexahedra along a path, held at its first end: static loads and free oscillations. */
export class QuadraticBar {
  readonly mesh: RawMesh;
  /** Points of the section it ends with, and of each before it. */
  readonly slices: number[][];
  private readonly stiffness: BandedMatrix;
  private readonly mass: BandedMatrix;

  /**
   * @param place of a, b (-1..1 across) and s (0..1 along)
   * @param across cells across, both ways
   * @param along cells along
   */
  constructor(
    place: (a: number, b: number, s: number) => Place,
    across: number,
    along: number,
    private readonly material: Material = STEEL,
  ) {
    const number = new Map<string, number>();
    const points: number[] = [];
    this.slices = Array.from({ length: 2 * along + 1 }, () => []);
    // Slice by slice, so that the band is narrow. Middles of faces and cells have no node.
    for (let k = 0; k <= 2 * along; k++)
      for (let j = 0; j <= 2 * across; j++)
        for (let i = 0; i <= 2 * across; i++) {
          if ((i % 2) + (j % 2) + (k % 2) > 1) continue;
          number.set(`${i},${j},${k}`, number.size);
          this.slices[k].push(number.size - 1);
          points.push(...place(i / across - 1, j / across - 1, k / (2 * along)));
        }
    const cells: number[][] = [];
    for (let k = 0; k < along; k++)
      for (let j = 0; j < across; j++)
        for (let i = 0; i < across; i++)
          cells.push(
            NODES.map(([a, b, c]) => number.get(`${2 * i + 1 + a},${2 * j + 1 + b},${2 * k + 1 + c}`)!),
          );
    this.mesh = {
      points: Float32Array.from(points),
      types: new Uint8Array(cells.length).fill(QUADRATIC_HEXAHEDRON),
      offsets: Uint32Array.from({ length: cells.length + 1 }, (_, c) => 20 * c),
      connectivity: Uint32Array.from(cells.flat()),
    };
    const widest = Math.max(...cells.map((c) => Math.max(...c) - Math.min(...c)));
    this.stiffness = new BandedMatrix(points.length, 3 * widest + 2);
    this.mass = new BandedMatrix(points.length, 3 * widest + 2);
    for (const cell of cells) this.assemble(cell, Float64Array.from(points));
    // Held: so stiff that it stays, and without mass that would swing.
    for (const p of this.slices[0])
      for (let k = 0; k < 3; k++) this.stiffness.add(3 * p + k, 3 * p + k, 1e6 * material.stiffness);
    this.factor = this.stiffness.factor();
  }

  private readonly factor: ReturnType<BandedMatrix['factor']>;

  /** Displacements under forces, three numbers a point each. */
  under(forces: Float64Array): Float64Array {
    return this.factor.solve(forces);
  }

  /**
   * The lowest free oscillations by subspace iteration (Bathe and Wilson 1972, from memory): frequency in Hz, and shape
   * with a largest displacement of one.
   */
  modes(count: number): { frequency: number; shape: Float64Array }[] {
    const { n } = this.stiffness;
    const size = count + 4;
    let basis = Array.from({ length: size }, (_, v) =>
      Float64Array.from({ length: n }, (_, i) => Math.sin(0.7 + 1.3 * v + 0.37 * (v + 1) * i)),
    );
    let values: number[] = [];
    for (let turn = 0; turn < 14; turn++) {
      const pushed = basis.map((v) => this.mass.times(v));
      const next = pushed.map((v) => this.factor.solve(v));
      const moved = next.map((v) => this.mass.times(v));
      const small = (a: Float64Array[], b: Float64Array[]): number[][] =>
        a.map((x) => b.map((y) => inner(x, y)));
      const found = smallModes(small(next, pushed), small(next, moved));
      values = found.map((f) => f.value);
      basis = found.map(({ vector }) => {
        const out = new Float64Array(n);
        for (let v = 0; v < size; v++) for (let i = 0; i < n; i++) out[i] += vector[v] * next[v][i];
        return out;
      });
    }
    return basis.slice(0, count).map((v, i) => {
      let largest = 0;
      for (let p = 0; p < n; p += 3) largest = Math.max(largest, Math.hypot(v[p], v[p + 1], v[p + 2]));
      return { frequency: Math.sqrt(values[i]) / (2 * Math.PI), shape: v.map((x) => x / largest) };
    });
  }

  /** Stress at the points: xx, yy, zz, xy, yz, xz; the mean of the cells around each. */
  stress(displacement: Float64Array): Float64Array {
    const { connectivity, points } = this.mesh;
    const out = new Float64Array(2 * points.length);
    const around = new Uint8Array(points.length / 3);
    for (let c = 0; c < connectivity.length; c += 20) {
      const cell = [...connectivity.subarray(c, c + 20)];
      for (const [n, at] of NODES.entries()) {
        const { slopes } = placed(shapes(at).slope, cell, points);
        const stress = this.stressOf(slopes, cell, displacement);
        for (let k = 0; k < 6; k++) out[6 * cell[n] + k] += stress[k];
        around[cell[n]]++;
      }
    }
    return out.map((v, i) => v / around[Math.floor(i / 6)]);
  }

  private stressOf(slopes: Place[], cell: number[], u: Float64Array): number[] {
    const g = [0, 1, 2].map((k) =>
      [0, 1, 2].map((l) => cell.reduce((s, p, n) => s + u[3 * p + k] * slopes[n][l], 0)),
    );
    const { stiffness: e, poisson: v } = this.material;
    const shear = e / (2 * (1 + v));
    const bulk = ((e * v) / ((1 + v) * (1 - 2 * v))) * (g[0][0] + g[1][1] + g[2][2]);
    return [
      ...[0, 1, 2].map((k) => bulk + 2 * shear * g[k][k]),
      shear * (g[0][1] + g[1][0]),
      shear * (g[1][2] + g[2][1]),
      shear * (g[0][2] + g[2][0]),
    ];
  }

  private assemble(cell: number[], points: Float64Array): void {
    const { stiffness: e, poisson: v, density } = this.material;
    const lame = (e * v) / ((1 + v) * (1 - 2 * v));
    const shear = e / (2 * (1 + v));
    for (const { value, slope, weight } of POINTS) {
      const { slopes, volume } = placed(slope, cell, points);
      const share = weight * volume;
      for (let m = 0; m < 20; m++)
        for (let n = 0; n < 20; n++) {
          if (cell[n] > cell[m]) continue;
          const [s, t] = [slopes[m], slopes[n]];
          const along = s[0] * t[0] + s[1] * t[1] + s[2] * t[2];
          for (let k = 0; k < 3; k++)
            for (let l = 0; l < 3; l++)
              this.stiffness.add(
                3 * cell[m] + k,
                3 * cell[n] + l,
                share * (lame * s[k] * t[l] + shear * (s[l] * t[k] + (k === l ? along : 0))),
              );
          for (let k = 0; k < 3; k++)
            this.mass.add(3 * cell[m] + k, 3 * cell[n] + k, share * density * value[m] * value[n]);
        }
    }
  }
}

const inner = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
};

/** Slopes in space, and the volume a unit of the cube has there. */
function placed(
  slope: Place[],
  cell: number[],
  points: ArrayLike<number>,
): { slopes: Place[]; volume: number } {
  const j = [0, 1, 2].map((k) =>
    [0, 1, 2].map((l) => cell.reduce((s, p, n) => s + slope[n][k] * points[3 * p + l], 0)),
  );
  const minor = (a: number, b: number, c: number, d: number): number => j[a][b] * j[c][d] - j[a][d] * j[c][b];
  const volume = j[0][0] * minor(1, 1, 2, 2) - j[0][1] * minor(1, 0, 2, 2) + j[0][2] * minor(1, 0, 2, 1);
  const inverse = [
    [minor(1, 1, 2, 2), -minor(0, 1, 2, 2), minor(0, 1, 1, 2)],
    [-minor(1, 0, 2, 2), minor(0, 0, 2, 2), -minor(0, 0, 1, 2)],
    [minor(1, 0, 2, 1), -minor(0, 0, 2, 1), minor(0, 0, 1, 1)],
  ];
  const slopes = slope.map(
    (s) =>
      [0, 1, 2].map(
        (l) => (inverse[l][0] * s[0] + inverse[l][1] * s[1] + inverse[l][2] * s[2]) / volume,
      ) as Place,
  );
  return { slopes, volume };
}

/** The small problem K v = λ M v, lowest first, by Cholesky of M and rotations of Jacobi (Golub and Van Loan, from memory). */
function smallModes(k: number[][], m: number[][]): { value: number; vector: number[] }[] {
  const n = k.length;
  const l = m.map((r) => r.map(() => 0));
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = m[i][j];
      for (let c = 0; c < j; c++) sum -= l[i][c] * l[j][c];
      l[i][j] = i === j ? Math.sqrt(Math.max(sum, 1e-300)) : sum / l[j][j];
    }
  const forward = (b: number[]): number[] => {
    const x = b.slice();
    for (let i = 0; i < n; i++) {
      for (let c = 0; c < i; c++) x[i] -= l[i][c] * x[c];
      x[i] /= l[i][i];
    }
    return x;
  };
  const half = k.map(forward);
  const a = half[0].map((_, c) => forward(half.map((r) => r[c])));
  const v = a.map((_, i) => a.map((_, j) => (i === j ? 1 : 0)));
  for (let sweep = 0; sweep < 30; sweep++)
    for (let p = 0; p < n; p++)
      for (let q = p + 1; q < n; q++) {
        if (Math.abs(a[p][q]) < 1e-15 * Math.sqrt(Math.abs(a[p][p] * a[q][q]))) continue;
        const theta = (a[q][q] - a[p][p]) / (2 * a[p][q]);
        const t = Math.sign(theta || 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
        const c = 1 / Math.sqrt(t * t + 1);
        const s = t * c;
        for (const rows of [a, v])
          for (let i = 0; i < n; i++) {
            const [x, y] = [rows[i][p], rows[i][q]];
            rows[i][p] = c * x - s * y;
            rows[i][q] = s * x + c * y;
          }
        for (let i = 0; i < n; i++) {
          const [x, y] = [a[p][i], a[q][i]];
          a[p][i] = c * x - s * y;
          a[q][i] = s * x + c * y;
        }
      }
  const order = a.map((_, i) => i).sort((x, y) => a[x][x] - a[y][y]);
  return order.map((i) => {
    const vector = v.map((r) => r[i]);
    for (let r = n - 1; r >= 0; r--) {
      vector[r] /= l[r][r];
      for (let c = 0; c < r; c++) vector[c] -= l[r][c] * vector[r];
    }
    return { value: a[i][i], vector };
  });
}
