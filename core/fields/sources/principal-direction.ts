import { nameWithoutUnit } from '../../model/quantity.ts';
import type { RunDescription, RunField } from '../../model/run.ts';
import { principalAxes } from '../principal-axes.ts';
import { tensorPlaces } from '../tensor-places.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

/** Which of the principal values, the largest first. */
const ranks: Record<string, { rank: number; says: string }> = {
  direction1: { rank: 0, says: 'largest' },
  direction2: { rank: 1, says: 'middle' },
  direction3: { rank: 2, says: 'least' },
};

function fieldOf(run: RunDescription, prefix: string, inner: RunField | null): RunField | null {
  if (!inner || !(inner.components in tensorPlaces)) return null;
  const name = `direction of ${ranks[prefix].says} principal of ${nameWithoutUnit(inner.name)}`;
  const key = `${prefix}:${inner.key}`;
  return madeField(run, { key, name, location: inner.location, components: 3, unit: inner.unit });
}

/**
 * Vectors along the principal directions of symmetric tensors, as long as the principal value is large: pulled or pressed along
 * them. They have no sense by nature; they are turned so that the largest of their components is above zero.
 */
export const principalDirection: QuantitySource = {
  id: 'principal direction',
  prefixes: Object.keys(ranks),
  usual: false,
  changes: true,
  needsMesh: false,
  offers: (run) =>
    run.fields
      .filter((f) => f.role === 'stress')
      .flatMap((f) => Object.keys(ranks).flatMap((prefix) => fieldOf(run, prefix, f) ?? [])),
  field: (name, prefix, run, find) => fieldOf(run, prefix, find.field(name, run)),
  lacking(name, prefix, run, find) {
    const lacking = find.lacking(name, run);
    if (lacking) return lacking;
    const field = find.field(name, run);
    return fieldOf(run, prefix, field)
      ? null
      : `principal directions of ${field?.name ?? name}: they are of a tensor of six or nine components`;
  },
  origin({ step }, name, prefix, at, find) {
    const inner = find.origin({ field: name, step }, at);
    if (!inner || !(inner.components in tensorPlaces)) return null;
    const { location } = inner;
    const id = `${prefix} ${inner.id}`;
    return {
      source: 'principal direction',
      id,
      location,
      components: 3,
      axial: false,
      arrays: [],
      of: [inner],
      options: prefix,
    };
  },
  compute({ options }, { of: [{ data, components }] }) {
    const { rank } = ranks[options as string];
    const [xx, yy, zz, xy, yz, xz] = tensorPlaces[components];
    const n = data.length / components;
    const out = new Float32Array(3 * n);
    const matrix = new Float64Array(9);
    const axes = new Float64Array(9);
    for (let i = 0; i < n; i++) {
      const at = components * i;
      const [d, e, f] = [data[at + xy], data[at + yz], data[at + xz]];
      matrix.set([data[at + xx], d, f, d, data[at + yy], e, f, e, data[at + zz]]);
      principalAxes(matrix, axes);
      const values = [matrix[0], matrix[4], matrix[8]];
      const column = [0, 1, 2].sort((a, b) => values[b] - values[a])[rank];
      const along = [axes[column], axes[3 + column], axes[6 + column]];
      const largest = along.reduce((a, b) => (Math.abs(b) > Math.abs(a) * (1 + 1e-6) ? b : a));
      const size = Math.abs(values[column]) * Math.sign(largest || 1);
      for (let k = 0; k < 3; k++) out[3 * i + k] = size * along[k];
    }
    return out;
  },
};
