import { quantityName } from '../../model/quantity.ts';
import type { FieldPair } from '../../model/roles.ts';
import { fieldByKey, type RunDescription, type RunField } from '../../model/run.ts';
import { type FieldStatistics, fieldStatistics, isVector, joinStatistics } from '../../model/statistics.ts';
import { type FieldOrigin, madeField, type QuantitySource, type SourceInput } from './quantity-source.ts';

/**
 * What is made of a complex quantity z, of which the files hold two halves, component by component where it is a vector.
 * With time running as e^(iωt), the value at phase φ = ωt is the real part of z e^(iφ); with e^(-iωt) that of z e^(-iφ).
 * Both are in use: engineers write the first, physicists the second. Common practice, no source.
 */
interface MadePart {
  name(of: string): string;
  /** Whether it is one number where the quantity is a vector; it then needs a vector. */
  length?: boolean;
  /** Offered beside halves of these kinds, not only beside real and imaginary ones. */
  beside: readonly FieldPair['half'][];
  /** @param out one number for each of `re`, or for each vector of `components` */
  make(re: Float32Array, im: Float32Array, components: number, out: Float32Array): void;
}

const DEGREES = 180 / Math.PI;
const cartesian = ['real'] as const;
const either = ['real', 'amplitude'] as const;

const eachNumber =
  (of: (re: number, im: number) => number): MadePart['make'] =>
  (re, im, _, out) => {
    for (let i = 0; i < out.length; i++) out[i] = of(re[i], im[i]);
  };

const eachVector =
  (of: (squares: number, productRe: number, productIm: number) => number): MadePart['make'] =>
  (re, im, components, out) => {
    for (let v = 0; v < out.length; v++) {
      let [squares, productRe, productIm] = [0, 0, 0];
      for (let i = v * components; i < (v + 1) * components; i++) {
        squares += re[i] * re[i] + im[i] * im[i];
        productRe += re[i] * re[i] - im[i] * im[i];
        productIm += 2 * re[i] * im[i];
      }
      out[v] = of(squares, productRe, productIm);
    }
  };

/** √(z·z*), the length of the vector of amplitudes. */
const hermitian = eachVector((squares) => Math.sqrt(squares));

/**
 * Half the long axis of the ellipse that the tip of the vector runs around: √((z·z* + |z·z|) / 2). Closed form of the
 * ellipse of polarization (Born and Wolf, Principles of Optics, from memory).
 */
const largestOverCycle = eachVector((squares, re, im) => Math.sqrt((squares + Math.hypot(re, im)) / 2));

const parts: Record<string, MadePart> = {
  amplitude: { name: (of) => `${of} amplitude`, beside: cartesian, make: eachNumber(Math.hypot) },
  phase: {
    name: (of) => `${of} phase`,
    beside: cartesian,
    make: eachNumber((re, im) => DEGREES * Math.atan2(im, re)),
  },
  real: { name: (of) => `${of} real part`, beside: ['amplitude'], make: eachNumber((re) => re) },
  imaginary: { name: (of) => `${of} imaginary part`, beside: ['amplitude'], make: eachNumber((_, im) => im) },
  rms: {
    name: (of) => `${of} rms`,
    beside: either,
    make: eachNumber((re, im) => Math.hypot(re, im) / Math.SQRT2),
  },
  largest: {
    name: (of) => `largest ${of} over the cycle`,
    length: true,
    beside: either,
    make: largestOverCycle,
  },
  hermitian: { name: (of) => `Hermitian length of ${of}`, length: true, beside: either, make: hermitian },
};

const SWING = 'swing';

/** `30:point:E_re`: an angle and a key, or a key alone, which takes the phase of the scene. */
function readName(name: string, prefix: string): { angle: number | null; key: string } {
  const [, angle, key] = (prefix === SWING && /^(-?[\d.]+):(.+)$/.exec(name)) || [];
  return key ? { angle: Number(angle), key } : { angle: null, key: name };
}

interface Halves {
  first: RunField;
  /** Null where the quantity is real, as the shapes of modes are. */
  second: RunField | null;
  of: string;
  polar: boolean;
}

/** What a key stands for: a field with its other half, or one alone, which is real. */
function halvesOf(key: string, run: RunDescription): Halves | null {
  const first = fieldByKey(run, key);
  if (!first) return null;
  const { pair } = first;
  if (!pair) return { first, second: null, of: quantityName(first, 'magnitude'), polar: false };
  if (pair.half !== 'real' && pair.half !== 'amplitude') return null;
  const second = fieldByKey(run, pair.other);
  return second && { first, second, of: pair.of, polar: pair.half === 'amplitude' };
}

function fieldOf(run: RunDescription, name: string, prefix: string): RunField | null {
  const { angle, key } = readName(name, prefix);
  const halves = halvesOf(key, run);
  if (!halves) return null;
  const { first, second, of } = halves;
  const { location, components, unit, role } = first;
  const made = { key: `${prefix}:${name}`, location, components, unit, role };
  if (prefix === SWING)
    return madeField(run, { ...made, name: angle === null ? `swinging ${of}` : `${of} at phase ${angle}°` });
  const part = parts[prefix];
  if (!second || (part.length && !isVector(components))) return null;
  if (prefix === 'phase') return madeField(run, { ...made, name: part.name(of), unit: '°', role: 'other' });
  return madeField(run, {
    ...made,
    name: part.name(of),
    components: part.length ? 1 : components,
    role: part.length ? 'other' : role,
  });
}

/** What is offered of a field: everything of the first half of a pair, swinging of the shape of a mode. */
function offersOf(run: RunDescription, { key, pair, role, components }: RunField): RunField[] {
  if (!pair) {
    const isShape = role === 'displacement' && isVector(components);
    const isMode = run.steps.length > 0 && run.steps.every((s) => s.kind === 'mode');
    return isShape && isMode ? [fieldOf(run, key, SWING)!] : [];
  }
  const offered = Object.keys(parts).filter((p) => parts[p].beside.includes(pair.half));
  return [...(pair.half === 'real' || pair.half === 'amplitude' ? [SWING] : []), ...offered].flatMap(
    (prefix) => fieldOf(run, key, prefix) ?? [],
  );
}

/** A complex quantity, and each of the ways in which it is shown. */
export interface ComplexQuantity {
  of: string;
  forms: { says: string; field: RunField }[];
}

/** How the forms are called beside each other; the halves of the files are called as what is made of others. */
const formSays: Record<string, string> = {
  [SWING]: 'swinging',
  amplitude: 'amplitude',
  phase: 'phase',
  real: 'real part',
  imaginary: 'imaginary part',
  rms: 'rms',
  largest: 'largest over the cycle',
  hermitian: 'Hermitian length',
};

/** The complex quantities of a run, its files' halves among their forms. */
export const complexQuantities = (run: RunDescription): ComplexQuantity[] =>
  run.fields.flatMap((first): ComplexQuantity[] => {
    const { pair, key } = first;
    const second = pair && fieldByKey(run, pair.other);
    if (!pair || !second?.pair || (pair.half !== 'real' && pair.half !== 'amplitude')) return [];
    const made = [SWING, ...Object.keys(parts)].flatMap((prefix) => {
      const field = fieldByKey(run, `${prefix}:${key}`);
      return field ? [{ says: formSays[prefix], field }] : [];
    });
    const stored = [first, second].map((field) => ({ says: formSays[field.pair!.half], field }));
    return [{ of: pair.of, forms: [...made.slice(0, 1), ...stored, ...made.slice(1)] }];
  });

/** The key of a quantity as it swings with the scene. */
export const swingingKey = (key: string): string => `${SWING}:${key}`;

interface Options {
  part: string;
  /** What it is turned by, in radians. */
  turn: number;
  polar: boolean;
  /** Whether the second half is in radians, not in degrees. */
  radians: boolean;
}

/** Real and imaginary halves of what was read. */
function cartesianHalves({ polar, radians }: Options, of: SourceInput['of']): [Float32Array, Float32Array] {
  const [{ data: a }, second] = of;
  const b = second?.data ?? new Float32Array(a.length);
  if (!polar) return [Float32Array.from(a), Float32Array.from(b)];
  const unit = radians ? 1 : DEGREES;
  return [
    Float32Array.from(a, (v, i) => v * Math.cos(b[i] / unit)),
    Float32Array.from(a, (v, i) => v * Math.sin(b[i] / unit)),
  ];
}

/** The extremes over the whole cycle: each component swings between plus and minus its amplitude. */
function overTheCycle({ options }: FieldOrigin, { of }: SourceInput): FieldStatistics {
  const [re, im] = cartesianHalves(options as Options, of);
  const { components } = of[0];
  const amplitude = Float32Array.from(re, (v, i) => Math.hypot(v, im[i]));
  const there = fieldStatistics(amplitude, components);
  const back = fieldStatistics(
    amplitude.map((v) => -v),
    components,
  );
  const largest = new Float32Array(isVector(components) ? re.length / components : 0);
  largestOverCycle(re, im, components, largest);
  return {
    components: there.components.map((s, k) => joinStatistics(s, back.components[k])),
    magnitude: there.magnitude && { ...fieldStatistics(largest, 1).components[0], min: 0 },
  };
}

/** Amplitude, phase, momentary value and more of complex quantities. */
export const complexPart: QuantitySource = {
  id: 'complex part',
  prefixes: [SWING, ...Object.keys(parts)],
  usual: false,
  changes: true,
  needsMesh: false,
  offers: (run) => run.fields.flatMap((field) => offersOf(run, field)),
  field: (name, prefix, run) => fieldOf(run, name, prefix),
  lacking(name, prefix, run) {
    if (fieldOf(run, name, prefix)) return null;
    const { key } = readName(name, prefix);
    return `complex quantity "${key}": that takes two fields, such as E_re and E_im, or E_amplitude and E_phase`;
  },
  origin({ step }, name, prefix, at, find) {
    const { angle, key } = readName(name, prefix);
    const halves = halvesOf(key, at.run);
    const made = fieldOf(at.run, name, prefix);
    const first = halves && find.origin({ field: key, step }, at);
    const second = halves?.second && find.origin({ field: halves.second.key, step }, at);
    if (!made || !first || (halves.second && !second)) return null;
    const turn = angle === null ? (at.turn ?? 0) : angle / DEGREES;
    const options: Options = {
      part: prefix,
      turn: prefix === SWING ? turn : 0,
      polar: halves.polar,
      radians: halves.second?.unit === 'rad',
    };
    return {
      source: 'complex part',
      id: `${prefix} ${options.turn} ${first.id},${second?.id ?? ''}`,
      location: first.location,
      components: made.components,
      axial: first.axial && made.components === first.components,
      arrays: [],
      of: second ? [first, second] : [first],
      options,
    };
  },
  compute({ options, components }, { of }) {
    const { part, turn } = options as Options;
    const [re, im] = cartesianHalves(options as Options, of);
    const of3 = of[0].components;
    const out = new Float32Array((re.length / of3) * components);
    if (part === SWING) {
      const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
      eachNumber((a, b) => a * cos - b * sin)(re, im, of3, out);
    } else parts[part].make(re, im, of3, out);
    return out;
  },
  followsCycle: (name, prefix) => prefix === SWING && readName(name, prefix).angle === null,
  overTheCycle,
};
