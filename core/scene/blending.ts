import { hexToRgb, type Lab, labToRgb, rgbToHex, rgbToLab } from '../colour/cielab.ts';
import type { Levels } from '../model/levels.ts';
import { lengthOf, times, unit, type Vector } from '../model/vectors.ts';
import type { OptionControl } from '../ops/chain/operation.ts';
import { angleBetween, turned } from './camera-moves.ts';

/**
 * How a value goes from one key of a film to the next:
 * - `hold`: it stays as it was and changes at the second key
 * - `number`, `whole`, `numbers`: evenly, also beyond their ends; whole ones from one to the next
 * - `angle`: the short way round, in degrees
 * - `colour`: evenly in CIE L*a*b*, so that it looks as far on as it is
 * - `direction`: along the shortest arc
 * - `levels`: evenly, where both are of the same kind and number
 */
export type Blend = 'hold' | 'number' | 'whole' | 'numbers' | 'angle' | 'colour' | 'direction' | 'levels';

/** How each kind of option blends: it follows from what edits it. */
export function blendOf(control: OptionControl<Record<string, unknown>>): Blend {
  switch (control.kind) {
    case 'number':
      if (control.round) return 'angle';
      return control.whole ? 'whole' : 'number';
    case 'share':
    case 'span':
    case 'focal length':
      return 'number';
    case 'place':
    case 'places':
    case 'curve':
      return 'numbers';
    case 'direction':
    case 'plane':
      return 'direction';
    case 'colour':
      return 'colour';
    case 'levels':
      return 'levels';
    default:
      return 'hold';
  }
}

/** Only numbers go beyond the two they are between, where the way there does. */
const GOES_BEYOND: ReadonlySet<Blend> = new Set(['number', 'whole', 'numbers']);

const mix = (a: number, b: number, share: number): number => a + share * (b - a);

/** What is finer than such a share of the way from key to key is not seen, but would be read: sentences tell these numbers. */
const FINEST = 1e-6;

/** The same as a number with no more digits than are seen. */
function mixedNumber(a: number, b: number, share: number): number {
  const digits = -Math.floor(Math.log10(Math.abs(b - a) * FINEST));
  const exact = mix(a, b, share);
  return digits >= 0 && digits <= 100 ? Number(exact.toFixed(digits)) : exact;
}

/**
 * A value on its way from one to another. Where the two cannot be blended it is held until the end.
 *
 * @param share 0 at `a`, 1 at `b`; below and above where the way goes beyond them
 */
export function blended(blend: Blend, a: unknown, b: unknown, share: number): unknown {
  if (share === 0) return a;
  if (share === 1) return b;
  const within = Math.min(1, Math.max(0, share));
  if (!GOES_BEYOND.has(blend) && within !== share) return within === 0 ? a : b;
  switch (blend) {
    case 'number':
      return typeof a === 'number' && typeof b === 'number' ? mixedNumber(a, b, share) : a;
    case 'whole':
      return typeof a === 'number' && typeof b === 'number' ? Math.round(mix(a, b, share)) : a;
    case 'angle':
      return typeof a === 'number' && typeof b === 'number' ? angleBetween(a, b, share) : a;
    case 'numbers':
      return mixedNumbers(a, b, share) ?? a;
    case 'colour':
      return typeof a === 'string' && typeof b === 'string' ? mixedColour(a, b, share) : a;
    case 'direction': {
      const [from, to] = [a as Vector, b as Vector];
      const length = mix(lengthOf(from), lengthOf(to), share);
      return times(turned(unit(from), unit(to), share), length);
    }
    case 'levels':
      return mixedLevels(a as Levels | null, b as Levels | null, share) ?? a;
    default:
      return a;
  }
}

/** Numbers, or lists of them of the same shape; null where they are not. */
function mixedNumbers(a: unknown, b: unknown, share: number): unknown {
  if (typeof a === 'number' && typeof b === 'number') return mix(a, b, share);
  if (!Array.isArray(a) || !Array.isArray(b) || a.length !== b.length) return null;
  const out = a.map((v, i) => mixedNumbers(v, b[i], share));
  return out.includes(null) ? null : out;
}

function mixedColour(a: string, b: string, share: number): string {
  const [from, to] = [rgbToLab(hexToRgb(a)), rgbToLab(hexToRgb(b))];
  return rgbToHex(labToRgb([0, 1, 2].map((k) => mix(from[k], to[k], share)) as Lab));
}

function mixedLevels(a: Levels | null, b: Levels | null, share: number): Levels | null {
  if (!a || !b) return null;
  if (a.kind === 'list' && b.kind === 'list') {
    const values = mixedNumbers(a.values, b.values, share);
    return values ? { kind: 'list', values: values as number[] } : null;
  }
  if ((a.kind === 'count' || a.kind === 'log') && a.kind === b.kind && 'low' in b && a.count === b.count) {
    if (a.low === null || a.high === null || b.low === null || b.high === null) return null;
    return { ...a, low: mix(a.low, b.low, share), high: mix(a.high, b.high, share) };
  }
  return null;
}
