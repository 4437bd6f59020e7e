import type { MeshField } from '../../model/field.ts';
import { nameWithoutUnit } from '../../model/quantity.ts';
import { replayAll } from '../../model/recipe.ts';
import type { RunDescription, RunField } from '../../model/run.ts';
import { unitProduct } from '../../model/unit-products.ts';
import { cellsToPoints } from '../averages.ts';
import { gradientAtPoints } from '../gradient.ts';
import { principalValues } from '../principal-values.ts';
import { symmetricPairs } from '../tensor-places.ts';
import { gradientAtWalls } from '../wall-gradient.ts';
import { besideId, neighbourMeshes } from './neighbours.ts';
import { madeField, type QuantitySource, type SourceInput } from './quantity-source.ts';

/** A differential operator: what it takes, what it makes, and how, from the gradient. */
interface Operator {
  /** Components it takes. */
  of: number;
  components: number;
  axial: boolean;
  /** What it is called, where its key does not say it well. */
  said?: string;
  /** Whether it goes with the square of the gradient, as its unit does. */
  squared?: boolean;
  /** Only at walls, where the gradient is taken more exactly; see `gradientAtWalls`. */
  atWalls?: true;
  /** Of one point, from the rows of its gradient. */
  make(g: Float32Array, at: number, out: Float32Array, to: number): void;
}

const gradient: Operator = {
  of: 1,
  components: 3,
  axial: false,
  make(g, at, out, to) {
    for (let k = 0; k < 3; k++) out[to + k] = g[at + k];
  },
};

/** Row by row: how the first component grows along x, y, z, then the second, then the third. */
const vectorGradient: Operator = {
  of: 3,
  components: 9,
  axial: false,
  said: 'gradient',
  make(g, at, out, to) {
    for (let k = 0; k < 9; k++) out[to + k] = g[at + k];
  },
};

const operators: Record<string, Operator> = {
  gradient,
  'vector-gradient': vectorGradient,
  'wall-gradient': { ...gradient, said: 'gradient at walls', atWalls: true },
  'wall-vector-gradient': { ...vectorGradient, said: 'gradient at walls', atWalls: true },
  // The symmetric part of the gradient of a velocity, xx yy zz xy yz xz.
  'strain-rate': {
    of: 3,
    components: 6,
    axial: false,
    said: 'strain rate',
    make(g, at, out, to) {
      for (const [k, [a, b]] of symmetricPairs.entries()) out[to + k] = (g[at + a] + g[at + b]) / 2;
    },
  },
  divergence: {
    of: 3,
    components: 1,
    axial: false,
    make(g, at, out, to) {
      out[to] = g[at] + g[at + 4] + g[at + 8];
    },
  },
  curl: {
    of: 3,
    components: 3,
    axial: true,
    make(g, at, out, to) {
      out[to] = g[at + 7] - g[at + 5];
      out[to + 1] = g[at + 2] - g[at + 6];
      out[to + 2] = g[at + 3] - g[at + 1];
    },
  },
  // How much more a flow turns than it strains, half of the difference of both squared: a vortex where above zero (Hunt, Wray,
  // Moin: Eddies, streams, and convergence zones, CTR-S88, 1988; from memory).
  Q: {
    of: 3,
    components: 1,
    axial: false,
    squared: true,
    make(g, at, out, to) {
      squareOf(g, at, square);
      out[to] = -0.5 * (square[0] + square[4] + square[8]);
    },
  },
  // The middle principal value of S² + W², which is the even part of the squared gradient: a vortex where below zero (Jeong,
  // Hussain: On the identification of a vortex, J. Fluid Mech. 285 (1995) 69; from memory).
  lambda2: {
    of: 3,
    components: 1,
    axial: false,
    said: 'lambda-2',
    squared: true,
    make(g, at, out, to) {
      const s = squareOf(g, at, square);
      const [xy, yz, xz] = [(s[1] + s[3]) / 2, (s[5] + s[7]) / 2, (s[2] + s[6]) / 2];
      out[to] = principalValues(s[0], s[4], s[8], xy, yz, xz, principal)[1];
    },
  },
};

/** The product of a gradient, row by row, with itself. */
function squareOf(g: Float32Array, at: number, out: Float64Array): Float64Array {
  for (let r = 0; r < 3; r++)
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      for (let k = 0; k < 3; k++) sum += g[at + 3 * r + k] * g[at + 3 * k + c];
      out[3 * r + c] = sum;
    }
  return out;
}

const square = new Float64Array(9);

const principal = new Float64Array(3);

const offered: [operator: string, role: RunField['role']][] = [
  ['gradient', 'temperature'],
  ['gradient', 'pressure'],
  ['divergence', 'velocity'],
  ['curl', 'velocity'],
  ['strain-rate', 'velocity'],
  ['Q', 'velocity'],
  ['lambda2', 'velocity'],
];

/** Of a vector the gradient is one of its own. */
const operatorFor = (prefix: string, components: number): string =>
  components === 3 ? prefix.replace(/^(wall-|)gradient$/, '$1vector-gradient') : prefix;

function fieldOf(run: RunDescription, prefix: string, inner: RunField | null): RunField | null {
  const operator = operators[operatorFor(prefix, inner?.components ?? 1)];
  if (!inner || inner.components !== operator.of) return null;
  const power = operator.squared ? 2 : 1;
  const plain = nameWithoutUnit(inner.name);
  return madeField(run, {
    key: `${prefix}:${inner.key}`,
    name: `${operator.said ?? prefix} of ${plain}`,
    location: 'point',
    components: operator.components,
    unit: unitProduct([inner.unit, power], [run.lengthUnit, -power]),
  });
}

/** Values at points: fields of cells are averaged to them first. */
const atPoints = ({ location, data, components }: MeshField, { mesh }: SourceInput): ArrayLike<number> =>
  location === 'point' ? data : replayAll(cellsToPoints(mesh), data, components);

/** Gradient, divergence, curl and measures of vortices of other quantities: `curl:point:velocity`. */
export const operator: QuantitySource = {
  id: 'operator',
  prefixes: Object.keys(operators),
  usual: false,
  changes: true,
  needsMesh: true,
  offers: (run) =>
    offered.flatMap(([prefix, role]) =>
      run.fields.filter((f) => f.role === role).flatMap((f) => fieldOf(run, prefix, f) ?? []),
    ),
  field: (name, prefix, run, find) => fieldOf(run, prefix, find.field(name, run)),
  lacking(name, prefix, run, find) {
    const lacking = find.lacking(name, run);
    if (lacking) return lacking;
    const field = find.field(name, run);
    const { of } = operators[operatorFor(prefix, field?.components ?? 1)];
    return field?.components === of
      ? null
      : `${prefix} of ${field?.name ?? name}: it takes ${of === 1 ? 'one number' : 'three components'} at each place`;
  },
  origin({ step }, name, prefix, at, find) {
    const inner = find.origin({ field: name, step }, at);
    const by = operatorFor(prefix, inner?.components ?? 1);
    const { of, components, axial } = operators[by];
    if (!inner || inner.components !== of) return null;
    const meshes = operators[by].atWalls ? neighbourMeshes({ ...at, step: step ?? at.step }) : [];
    const id = `${by} ${inner.id}${besideId(meshes)}`;
    return {
      source: 'operator',
      id,
      location: 'point',
      components,
      axial,
      arrays: [],
      of: [inner],
      meshes,
      options: by,
    };
  },
  compute({ options, components }, input) {
    const { of, make, atWalls } = operators[options as string];
    const values = atPoints(input.of[0], input);
    const g = atWalls
      ? gradientAtWalls(input.mesh, values, of, input.meshes)
      : gradientAtPoints(input.mesh, values, of);
    const n = g.length / (3 * of);
    const out = new Float32Array(components * n);
    for (let i = 0; i < n; i++) make(g, 3 * of * i, out, components * i);
    return out;
  },
};
