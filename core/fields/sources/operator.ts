import type { MeshField } from '../../model/field.ts';
import { replayAll } from '../../model/recipe.ts';
import type { RunDescription, RunField } from '../../model/run.ts';
import { cellsToPoints } from '../averages.ts';
import { gradientAtPoints } from '../gradient.ts';
import { madeField, type QuantitySource, type SourceInput } from './quantity-source.ts';

/** A differential operator: what it takes, what it makes, and how, from the gradient. */
interface Operator {
  /** Components it takes. */
  of: number;
  components: number;
  axial: boolean;
  /** Of one point, from the rows of its gradient. */
  make(g: Float32Array, at: number, out: Float32Array, to: number): void;
}

const operators: Record<string, Operator> = {
  gradient: {
    of: 1,
    components: 3,
    axial: false,
    make(g, at, out, to) {
      for (let k = 0; k < 3; k++) out[to + k] = g[at + k];
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
};

const offered: [operator: string, role: RunField['role']][] = [
  ['gradient', 'temperature'],
  ['gradient', 'pressure'],
  ['divergence', 'velocity'],
  ['curl', 'velocity'],
];

/** `m/s` over `m` is `1/s`. */
function unitOver(unit: string | null, length: string | null): string | null {
  if (!unit || !length) return null;
  return unit.startsWith(`${length}/`) ? `1${unit.slice(length.length)}` : `${unit}/${length}`;
}

function fieldOf(run: RunDescription, prefix: string, inner: RunField | null): RunField | null {
  const operator = operators[prefix];
  if (!inner || inner.components !== operator.of) return null;
  const plain = inner.name.replace(/\s*\[[^\]]*\]\s*$/, '');
  return madeField(run, {
    key: `${prefix}:${inner.key}`,
    name: `${prefix} of ${plain}`,
    location: 'point',
    components: operator.components,
    unit: unitOver(inner.unit, run.lengthUnit),
  });
}

/** Values at points: fields of cells are averaged to them first. */
const atPoints = ({ location, data, components }: MeshField, { mesh }: SourceInput): ArrayLike<number> =>
  location === 'point' ? data : replayAll(cellsToPoints(mesh), data, components);

/** Gradient, divergence and curl of other quantities: `curl:point:velocity`. */
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
    const { of } = operators[prefix];
    const field = find.field(name, run);
    return field?.components === of
      ? null
      : `${prefix} of ${field?.name ?? name}: it takes ${of === 1 ? 'one number' : 'three components'} at each place`;
  },
  origin({ step }, name, prefix, at, find) {
    const inner = find.origin({ field: name, step }, at);
    const { of, components, axial } = operators[prefix];
    if (!inner || inner.components !== of) return null;
    const id = `${prefix} ${inner.id}`;
    return {
      source: 'operator',
      id,
      location: 'point',
      components,
      axial,
      arrays: [],
      of: [inner],
      options: prefix,
    };
  },
  compute({ options, components }, input) {
    const { of, make } = operators[options as string];
    const g = gradientAtPoints(input.mesh, atPoints(input.of[0], input), of);
    const n = g.length / (3 * of);
    const out = new Float32Array(components * n);
    for (let i = 0; i < n; i++) make(g, 3 * of * i, out, components * i);
    return out;
  },
};
