import { type CellShape, cellShape } from '../fields/places/cell-shapes.ts';
import { cellTypeById } from '../model/cell-types.ts';

/**
 * Where a cell is asked to integrate over it, in its own coordinates, with what every node weighs there and how that changes
 * along each of them.
 */
export interface CellQuadrature {
  nodes: number;
  places: number;
  /** Part of the region of local places that each stands for. */
  parts: Float64Array;
  /** `nodes` numbers a place. */
  weights: Float64Array;
  /** `3 * nodes` numbers a place: along r of every node, then along s, then along t. */
  slopes: Float64Array;
}

/** Gauss and Legendre on 0..1: exact to degree 3, 5 and 7 (Abramowitz, Stegun: Handbook, table 25.4; from memory). */
type Rule = [place: number, part: number][];

export const GAUSS: Record<2 | 3 | 4, Rule> = {
  2: [-1, 1].map((sign) => [0.5 + (sign * 0.5) / Math.sqrt(3), 0.5]),
  3: [-1, 0, 1].map((sign) => [0.5 + (sign * Math.sqrt(3 / 5)) / 2, sign === 0 ? 4 / 9 : 5 / 18]),
  4: [-1, 1].flatMap((sign): [number, number][] => {
    const root = (inner: 1 | -1): number => Math.sqrt(3 / 7 + (inner * 2 * Math.sqrt(6 / 5)) / 7);
    const part = (inner: 1 | -1): number => (18 - inner * Math.sqrt(30)) / 72;
    return ([-1, 1] as const).map((inner) => [0.5 + (sign * root(inner)) / 2, part(inner)]);
  }),
};

type Region = 'triangle' | 'quad' | 'tetra' | 'hexahedron' | 'wedge';

/** Simplices are squares and cubes with a side drawn together (Duffy, SIAM J. Numer. Anal. 19 (1982) 1260; from memory). */
function placesIn(
  region: Region,
  rule: Rule,
  upwards = rule,
): [r: number, s: number, t: number, part: number][] {
  const flat = region === 'triangle' || region === 'quad';
  const out: [number, number, number, number][] = [];
  for (const [a, pa] of rule)
    for (const [b, pb] of rule)
      for (const [c, pc] of flat ? ([[0, 1]] as Rule) : upwards) {
        const part = pa * pb * pc;
        if (region === 'triangle' || region === 'wedge') out.push([a, b * (1 - a), c, part * (1 - a)]);
        else if (region === 'tetra')
          out.push([a, b * (1 - a), c * (1 - a) * (1 - b), part * (1 - a) ** 2 * (1 - b)]);
        else out.push([a, b, c, part]);
      }
  return out;
}

function regionOf(name: string): Region {
  const base = name.replace(/\d+$/, '');
  if (base === 'pixel') return 'quad';
  if (base === 'voxel' || base === 'pyramid') return 'hexahedron';
  return base as Region;
}

/** Four places in a tetrahedron by their shares of its corners: exact to degree 2 (Hammer, Stroud, Math. Tables 10 (1956); from memory). */
export const IN_TETRAHEDRON = [0, 1, 2, 3].map((own) =>
  [0, 1, 2, 3].map((k) => (k === own ? 5 + 3 * Math.sqrt(5) : 5 - Math.sqrt(5)) / 20),
);

/** Where a cell is asked, so that the product of two values that run as its type has it is exact where its edges are straight. */
function placesOf({ degree }: CellShape, name: string): ReturnType<typeof placesIn> {
  const region = regionOf(name);
  if (degree > 1) return placesIn(region, GAUSS[4]);
  if (region === 'tetra') return IN_TETRAHEDRON.map(([, r, s, t]) => [r, s, t, 1 / 24]);
  // What is drawn together towards its top is of two more degrees that way.
  return placesIn(region, GAUSS[2], name.startsWith('pyramid') ? GAUSS[3] : GAUSS[2]);
}

const known = new Map<number, CellQuadrature | null>();

/** Of a type of cells; null for those that are taken apart instead, or have no inside. */
export function cellQuadrature(type: number): CellQuadrature | null {
  const found = known.get(type);
  if (found !== undefined) return found;
  const shape = cellShape(type);
  const made = shape && tabulated(shape, placesOf(shape, cellTypeById[type]!.name));
  known.set(type, made);
  return made;
}

function tabulated(shape: CellShape, places: ReturnType<typeof placesIn>): CellQuadrature {
  const { nodes, terms, powers, coefficients } = shape;
  const weights = new Float64Array(nodes * places.length);
  const slopes = new Float64Array(3 * nodes * places.length);
  for (const [q, place] of places.entries())
    for (let i = 0; i < nodes; i++)
      for (let j = 0; j < terms; j++) {
        const c = coefficients[i * terms + j];
        const each = [0, 1, 2].map((k) => place[k] ** powers[3 * j + k]);
        weights[q * nodes + i] += c * each[0] * each[1] * each[2];
        for (let k = 0; k < 3; k++) {
          const p = powers[3 * j + k];
          if (p === 0) continue;
          const rest = each[(k + 1) % 3] * each[(k + 2) % 3];
          slopes[3 * nodes * q + k * nodes + i] += c * p * place[k] ** (p - 1) * rest;
        }
      }
  return { nodes, places: places.length, parts: Float64Array.from(places, (p) => p[3]), weights, slopes };
}
