import { type CellType, cellTypeById } from '../../model/cell-types.ts';
import { edgeMiddles } from '../../model/edge-middles.ts';

/**
 * How a value runs between the nodes of a cell: the weight of node `i` at the local place (r, s, t) is the sum over `j`
 * of `coefficients[i * terms + j] * r^a s^b t^c`, with the exponents a, b, c from `powers[3 * j ...]`.
 *
 * The usual isoparametric functions (Zienkiewicz, Taylor: The Finite Element Method, chapter on shape functions; from
 * memory): a polynomial that is 1 at its own node and 0 at the others, found by solving for just that. Nodes stand as in
 * the VTK XML file format.
 */
export interface CellShape {
  dimension: 2 | 3;
  /** Nodes it uses, the first of the cell; quadratic pyramids are taken by their corners. */
  nodes: number;
  terms: number;
  powers: Uint8Array;
  coefficients: Float64Array;
  /** Highest exponent. */
  degree: 1 | 2;
  /** Whether places follow from local ones by a matrix alone. */
  affine: boolean;
  sides: readonly CellSide[];
}

/** Inside of a side, `a r + b s + c t + d` is above zero. */
export interface CellSide {
  a: number;
  b: number;
  c: number;
  d: number;
  /** Corners that lie on it; of volumes a face, of surfaces an edge. */
  corners: readonly number[];
}

type Triple = readonly [number, number, number];

const square: Triple[] = [
  [0, 0, 0],
  [1, 0, 0],
  [1, 1, 0],
  [0, 1, 0],
];
const up = ([r, s]: Triple): Triple => [r, s, 1];
const triangle: Triple[] = [
  [0, 0, 0],
  [1, 0, 0],
  [0, 1, 0],
];
const cube = [...square, ...square.map(up)];
const pixel = [square[0], square[1], square[3], square[2]];

const corners: Record<string, Triple[]> = {
  triangle,
  quad: square,
  pixel,
  tetra: [...triangle, [0, 0, 1]],
  voxel: [...pixel, ...pixel.map(up)],
  hexahedron: cube,
  wedge: [...triangle, ...triangle.map(up)],
};

const least = (r: number, s: number, t: number, d: number): [number, number, number, number] => [r, s, t, d];
const between = (k: number): [number, number, number, number][] =>
  [1, -1].map((sign) => {
    const side = least(0, 0, 0, sign < 0 ? 1 : 0);
    side[k] = sign;
    return side;
  });
const simplexSides = [least(1, 0, 0, 0), least(0, 1, 0, 0), least(-1, -1, 0, 1)];

/** The region of local places, by the name of the cells with straight edges that have it. */
const regions: Record<string, [number, number, number, number][]> = {
  triangle: simplexSides,
  quad: [...between(0), ...between(1)],
  tetra: [least(1, 0, 0, 0), least(0, 1, 0, 0), least(0, 0, 1, 0), least(-1, -1, -1, 1)],
  hexahedron: [...between(0), ...between(1), ...between(2)],
  wedge: [...simplexSides, ...between(2)],
};
regions.pixel = regions.quad;
regions.voxel = regions.hexahedron;

const middleOf = (points: readonly Triple[]): Triple =>
  [0, 1, 2].map((k) => points.reduce((sum, p) => sum + p[k], 0) / points.length) as unknown as Triple;

/** Exponents of all terms that a condition lets in, each 0, 1 or 2. */
function termsWhere(fits: (a: number, b: number, c: number) => boolean): Triple[] {
  const out: Triple[] = [];
  for (let c = 0; c <= 2; c++)
    for (let b = 0; b <= 2; b++) for (let a = 0; a <= 2; a++) if (fits(a, b, c)) out.push([a, b, c]);
  return out;
}

const square2 = (e: number): number => (e === 2 ? 2 : 0);
const SIDES_OF_HEXAHEDRON = [
  [0, 3, 7, 4],
  [1, 2, 6, 5],
  [0, 1, 5, 4],
  [3, 2, 6, 7],
];
const SIDES_OF_WEDGE = [
  [0, 1, 4, 3],
  [1, 2, 5, 4],
  [2, 0, 3, 5],
];

interface Recipe {
  /** The cell with straight edges it is made from. */
  base: string;
  terms: Triple[];
  /** Corner lists in whose middles further nodes stand, after those on edges. */
  further?: readonly (readonly number[])[];
}

const whole = (n: number): number[] => Array.from({ length: n }, (_, i) => i);

const recipes: Record<string, Recipe> = {
  triangle: { base: 'triangle', terms: termsWhere((a, b, c) => a + b <= 1 && c === 0) },
  quad: { base: 'quad', terms: termsWhere((a, b, c) => Math.max(a, b) <= 1 && c === 0) },
  tetra: { base: 'tetra', terms: termsWhere((a, b, c) => a + b + c <= 1) },
  hexahedron: { base: 'hexahedron', terms: termsWhere((a, b, c) => Math.max(a, b, c) <= 1) },
  wedge: { base: 'wedge', terms: termsWhere((a, b, c) => a + b <= 1 && c <= 1) },
  triangle6: { base: 'triangle', terms: termsWhere((a, b, c) => a + b <= 2 && c === 0) },
  quad8: { base: 'quad', terms: termsWhere((a, b, c) => c === 0 && square2(a) + square2(b) <= 2) },
  quad9: { base: 'quad', terms: termsWhere((_a, _b, c) => c === 0), further: [whole(4)] },
  quad6: { base: 'quad', terms: termsWhere((_a, b, c) => b <= 1 && c === 0) },
  tetra10: { base: 'tetra', terms: termsWhere((a, b, c) => a + b + c <= 2) },
  hexahedron20: {
    base: 'hexahedron',
    terms: termsWhere((a, b, c) => square2(a) + square2(b) + square2(c) <= 2),
  },
  hexahedron24: {
    base: 'hexahedron',
    terms: termsWhere(
      (a, b, c) => square2(a) + square2(b) + square2(c) <= 2 || (c === 2 && (a === 2 ? b < 2 : b === 2)),
    ),
    further: SIDES_OF_HEXAHEDRON,
  },
  hexahedron27: {
    base: 'hexahedron',
    terms: termsWhere(() => true),
    further: [...SIDES_OF_HEXAHEDRON, [0, 1, 2, 3], [4, 5, 6, 7], whole(8)],
  },
  wedge12: { base: 'wedge', terms: termsWhere((a, b, c) => a + b <= 2 && c <= 1) },
  wedge15: {
    base: 'wedge',
    terms: termsWhere((a, b, c) => a + b <= 2 && (c <= 1 || a + b <= 1)),
  },
  wedge18: {
    base: 'wedge',
    terms: termsWhere((a, b) => a + b <= 2),
    further: SIDES_OF_WEDGE,
  },
};
recipes.pixel = { ...recipes.quad, base: 'pixel' };
recipes.voxel = { ...recipes.hexahedron, base: 'voxel' };
// Its seventh node, in the middle, would add a cubic bubble; the others tell all that is quadratic.
recipes.triangle7 = recipes.triangle6;

/** Middles of edges of the quadratic cells that are straight in one direction. */
const linearQuadratic: Record<string, [number, number][]> = {
  quad6: [
    [0, 1],
    [2, 3],
  ],
  wedge12: edgeMiddles.wedge15.slice(0, 6),
};

const shapes: (CellShape | null | undefined)[] = [];

/** The shape of a type of cells; null for those that are taken apart instead (polyhedra, prisms, polygons) or have no inside. */
export function cellShape(id: number): CellShape | null {
  const known = shapes[id];
  if (known !== undefined) return known;
  const made = shapeOf(cellTypeById[id]);
  shapes[id] = made;
  return made;
}

function shapeOf(type: CellType | undefined): CellShape | null {
  if (!type || type.dimension < 2) return null;
  if (type.name.startsWith('pyramid')) return pyramid();
  const recipe = recipes[type.name];
  if (!recipe) return null;
  const { base, terms, further = [] } = recipe;
  const own = corners[base];
  const edges = linearQuadratic[type.name] ?? edgeMiddles[type.name] ?? [];
  const quadratic = own.length < terms.length ? [...edges, ...further] : [];
  const nodes = [...own, ...quadratic.map((list) => middleOf(list.map((i) => own[i])))];
  return {
    dimension: type.dimension as 2 | 3,
    nodes: nodes.length,
    terms: terms.length,
    powers: Uint8Array.from(terms.flat()),
    coefficients: solvedFor(nodes, terms),
    degree: terms.some((t) => Math.max(...t) === 2) ? 2 : 1,
    affine: nodes.length === type.dimension + 1,
    sides: sidesOf(own, regions[base]),
  };
}

/** A pyramid is a hexahedron whose upper face is one point. */
function pyramid(): CellShape {
  const full = shapeOf(cellTypeById[12])!;
  const { terms } = full;
  const coefficients = full.coefficients.slice(0, 5 * terms);
  for (let i = 5; i < 8; i++)
    for (let j = 0; j < terms; j++) coefficients[4 * terms + j] += full.coefficients[i * terms + j];
  const sides = full.sides.map((side) => ({
    ...side,
    corners: [...new Set(side.corners.map((i) => Math.min(i, 4)))],
  }));
  return { ...full, nodes: 5, coefficients, sides };
}

const sidesOf = (own: readonly Triple[], region: readonly [number, number, number, number][]): CellSide[] =>
  region.map(([a, b, c, d]) => ({
    a,
    b,
    c,
    d,
    corners: own.flatMap(([r, s, t], i) => (Math.abs(a * r + b * s + c * t + d) < 1e-9 ? [i] : [])),
  }));

/** Coefficients of the polynomials that are 1 at one node and 0 at all others, by elimination with pivots. */
function solvedFor(nodes: readonly Triple[], terms: readonly Triple[]): Float64Array {
  const n = nodes.length;
  const rows = nodes.map(([r, s, t], i) => [
    ...terms.map(([a, b, c]) => r ** a * s ** b * t ** c),
    ...whole(n).map((j) => (i === j ? 1 : 0)),
  ]);
  for (let k = 0; k < n; k++) {
    let pivot = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(rows[i][k]) > Math.abs(rows[pivot][k])) pivot = i;
    [rows[k], rows[pivot]] = [rows[pivot], rows[k]];
    const lead = rows[k][k];
    for (let j = 0; j < 2 * n; j++) rows[k][j] /= lead;
    for (let i = 0; i < n; i++) {
      const by = rows[i][k];
      if (i === k || by === 0) continue;
      for (let j = 0; j < 2 * n; j++) rows[i][j] -= by * rows[k][j];
    }
  }
  const out = new Float64Array(n * n);
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) out[i * n + j] = rows[j][n + i];
  return out;
}
