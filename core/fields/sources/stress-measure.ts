import { nameWithoutUnit } from '../../model/quantity.ts';
import type { RunDescription, RunField } from '../../model/run.ts';
import { principalValues } from '../principal-values.ts';
import { tensorPlaces } from '../tensor-places.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

/** A number made of a symmetric tensor at each place. */
interface StressMeasure {
  said: string;
  /** Whether it is a ratio, without the unit of the tensor. */
  ratio?: boolean;
  /** Of the principal values, from the largest to the least. */
  make(s: Float64Array): number;
}

/** The root of half the sum of the squared differences of the principal values (von Mises 1913). */
const vonMises = ([a, b, c]: Float64Array): number =>
  Math.sqrt(((a - b) ** 2 + (b - c) ** 2 + (c - a) ** 2) / 2);

const mean = ([a, b, c]: Float64Array): number => (a + b + c) / 3;

const measures: Record<string, StressMeasure> = {
  mises: { said: 'von Mises of', make: vonMises },
  tresca: { said: 'Tresca of', make: (s) => s[0] - s[2] },
  maxshear: { said: 'maximum shear of', make: (s) => (s[0] - s[2]) / 2 },
  principal1: { said: 'largest principal of', make: (s) => s[0] },
  principal2: { said: 'middle principal of', make: (s) => s[1] },
  principal3: { said: 'least principal of', make: (s) => s[2] },
  hydrostatic: { said: 'mean of normal parts of', make: mean },
  // Mean over von Mises: how much a place is pulled from all sides (Rice, Tracey 1969; from memory).
  triaxiality: { said: 'triaxiality of', ratio: true, make: (s) => mean(s) / vonMises(s) },
};

const isTensor = (field: RunField | null): field is RunField =>
  field !== null && field.components in tensorPlaces;

function fieldOf(run: RunDescription, prefix: string, inner: RunField | null): RunField | null {
  if (!isTensor(inner)) return null;
  const { said, ratio } = measures[prefix];
  return madeField(run, {
    key: `${prefix}:${inner.key}`,
    name: `${said} ${nameWithoutUnit(inner.name)}`,
    location: inner.location,
    components: 1,
    unit: ratio ? null : inner.unit,
  });
}

/** Von Mises, Tresca, principal values and others of stresses: `mises:point:stress`. */
export const stressMeasure: QuantitySource = {
  id: 'stress measure',
  prefixes: Object.keys(measures),
  usual: false,
  changes: true,
  needsMesh: false,
  offers: (run) =>
    run.fields
      .filter((f) => f.role === 'stress' && isTensor(f))
      .flatMap((f) => Object.keys(measures).flatMap((prefix) => fieldOf(run, prefix, f) ?? [])),
  field: (name, prefix, run, find) => fieldOf(run, prefix, find.field(name, run)),
  lacking(name, prefix, run, find) {
    const lacking = find.lacking(name, run);
    if (lacking) return lacking;
    const field = find.field(name, run);
    if (fieldOf(run, prefix, field)) return null;
    return `${measures[prefix].said} ${field?.name ?? name}: it takes a tensor of six or nine components`;
  },
  origin({ step }, name, prefix, at, find) {
    const inner = find.origin({ field: name, step }, at);
    if (!inner || !(inner.components in tensorPlaces)) return null;
    return {
      source: 'stress measure',
      id: `${prefix} ${inner.id}`,
      location: inner.location,
      components: 1,
      axial: false,
      arrays: [],
      of: [inner],
      options: prefix,
    };
  },
  compute({ options }, { of: [{ data, components }] }) {
    const { make } = measures[options as string];
    const [xx, yy, zz, xy, yz, xz] = tensorPlaces[components];
    const out = new Float32Array(data.length / components);
    const principal = new Float64Array(3);
    for (let i = 0; i < out.length; i++) {
      const at = components * i;
      const [a, b, c] = [data[at + xx], data[at + yy], data[at + zz]];
      const [d, e, f] = [data[at + xy], data[at + yz], data[at + xz]];
      out[i] = make(principalValues(a, b, c, d, e, f, principal));
    }
    return out;
  },
};
