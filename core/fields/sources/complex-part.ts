import type { FieldPair } from '../../model/roles.ts';
import { fieldByKey, type RunDescription, type RunField } from '../../model/run.ts';
import { madeField, type QuantitySource } from './quantity-source.ts';

/** What is made of a complex quantity z, of which the files hold two halves. */
const parts = {
  amplitude: 'amplitude',
  phase: 'phase',
  swing: 'at phase',
} as const;
type Part = keyof typeof parts;

const DEGREES = 180 / Math.PI;

/** `30:point:E_re`: an angle and a key, or a key alone. */
function readName(name: string, part: string): { angle: number; key: string } | null {
  if (part !== 'swing') return { angle: 0, key: name };
  const [, angle, key] = /^(-?[\d.]+):(.+)$/.exec(name) ?? [];
  return key ? { angle: Number(angle), key } : null;
}

/** The pair of which a field is the first half: the real one, or the amplitude. */
function pairOf(key: string, run: RunDescription): { field: RunField; pair: FieldPair } | null {
  const field = fieldByKey(run, key);
  const pair = field?.pair;
  if (!field || !pair || (pair.half !== 'real' && pair.half !== 'amplitude')) return null;
  return fieldByKey(run, pair.other) ? { field, pair } : null;
}

function fieldOf(run: RunDescription, name: string, part: string): RunField | null {
  const said = readName(name, part);
  const found = said && pairOf(said.key, run);
  if (!said || !found) return null;
  const { field, pair } = found;
  const { location, components, unit } = field;
  const phase = part === 'phase';
  return madeField(run, {
    key: `${part}:${name}`,
    name: `${pair.of} ${parts[part as Part]}${part === 'swing' ? ` ${said.angle}°` : ''}`,
    location,
    components,
    unit: phase ? '°' : unit,
    role: phase ? 'other' : field.role,
  });
}

/**
 * Amplitude, phase and momentary value of complex quantities, component by component. With time running as e^(iωt), the
 * value at phase φ is the real part of z e^(iφ): the convention of engineers; common practice, no source.
 */
export const complexPart: QuantitySource = {
  id: 'complex part',
  prefixes: Object.keys(parts),
  usual: false,
  changes: true,
  needsMesh: false,
  offers: (run) =>
    run.fields.flatMap(({ key, pair }) =>
      pair?.half === 'real' ? ['amplitude', 'phase'].flatMap((part) => fieldOf(run, key, part) ?? []) : [],
    ),
  field: (name, prefix, run) => fieldOf(run, name, prefix),
  lacking: (name, prefix, run) =>
    fieldOf(run, name, prefix) ? null : `complex quantity "${readName(name, prefix)?.key ?? name}"`,
  origin({ step }, name, prefix, at, find) {
    const said = readName(name, prefix);
    const found = said && pairOf(said.key, at.run);
    if (!said || !found) return null;
    const first = find.origin({ field: said.key, step }, at);
    const second = find.origin({ field: found.pair.other, step }, at);
    if (!first || !second) return null;
    const { location, components, axial } = first;
    const options = { part: prefix, angle: said.angle, polar: found.pair.half === 'amplitude' };
    const id = `${prefix} ${said.angle} ${first.id},${second.id}`;
    return {
      source: 'complex part',
      id,
      location,
      components,
      axial,
      arrays: [],
      of: [first, second],
      options,
    };
  },
  compute({ options }, { of: [{ data: a }, { data: b }] }) {
    const { part, angle, polar } = options as { part: Part; angle: number; polar: boolean };
    const out = new Float32Array(a.length);
    const turn = angle / DEGREES;
    for (let i = 0; i < out.length; i++) {
      // Phases of the files are in degrees.
      const re = polar ? a[i] * Math.cos(b[i] / DEGREES) : a[i];
      const im = polar ? a[i] * Math.sin(b[i] / DEGREES) : b[i];
      if (part === 'amplitude') out[i] = Math.hypot(re, im);
      else if (part === 'phase') out[i] = DEGREES * Math.atan2(im, re);
      else out[i] = re * Math.cos(turn) - im * Math.sin(turn);
    }
    return out;
  },
};
