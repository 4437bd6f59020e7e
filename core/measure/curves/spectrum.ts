import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { unitProduct } from '../../model/unit-products.ts';
import type { CurveWork } from './curve-work.ts';
import { evenPlaces, sayEven } from './even-places.ts';
import { fourier } from './fourier.ts';

/**
 * Windows, as sums of cosines (Harris: On the use of windows for harmonic analysis with the discrete Fourier transform, Proc.
 * IEEE 66 (1978); from memory).
 */
const windows = {
  rectangular: [1],
  Hann: [0.5, 0.5],
  Hamming: [0.54, 0.46],
  Blackman: [0.42, 0.5, 0.08],
  'flat top': [0.21557895, 0.41663158, 0.277263158, 0.083578947, 0.006947368],
} as const;

export type WindowName = keyof typeof windows;
const names = Object.keys(windows) as WindowName[];

export interface SpectrumOptions {
  what: 'amplitude' | 'power density';
  window: WindowName;
}

/** The weights of a window for so many samples, as one that goes on for ever has them. */
export function windowWeights(name: WindowName, n: number): Float64Array {
  const terms: readonly number[] = windows[name];
  return Float64Array.from({ length: n }, (_, i) =>
    terms.reduce((sum, a, k) => sum + (k % 2 === 0 ? a : -a) * Math.cos((2 * Math.PI * k * i) / n), 0),
  );
}

const p = phrasesOf<SpectrumOptions>();

/**
 * The waves a curve is made of, without its mean: how far each swings, or how its mean square is spread over frequencies
 * (one side, so that the area beneath is the variance).
 */
export const spectrum: CurveWork<SpectrumOptions> = {
  id: 'spectrum',
  name: 'Spectrum',
  purpose: 'the waves it is made of',
  schema: z.object({ what: z.enum(['amplitude', 'power density']), window: z.enum(names as [WindowName]) }),
  defaults: () => ({ what: 'amplitude', window: 'Hann' }),
  phrase: p.row(
    p.choice('what', [
      { text: 'amplitude spectrum', value: 'amplitude' },
      { text: 'power density', value: 'power density' },
    ]),
    p.text(' with a '),
    p.choice(
      'window',
      names.map((value) => ({ text: value, value })),
    ),
    p.text(' window'),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'what',
      label: 'Shows',
      choices: [
        { value: 'amplitude', label: 'amplitudes' },
        { value: 'power density', label: 'power density' },
      ],
    },
    {
      kind: 'choice',
      key: 'window',
      label: 'Window',
      choices: names.map((value) => ({ value, label: value })),
    },
  ],
  apply(curve, { what, window }) {
    const even = evenPlaces(curve);
    const n = even.y.length;
    const mean = even.y.reduce((a, b) => a + b, 0) / n;
    const weights = windowWeights(window, n);
    const { real, imaginary } = fourier(even.y.map((v, i) => (v - mean) * weights[i]));
    const sum = weights.reduce((a, w) => a + w, 0);
    const squares = weights.reduce((a, w) => a + w * w, 0);
    const y = real.map((re, k) => {
      const power = re * re + imaginary[k] * imaginary[k];
      // The other half of the waves is the same again, but for the mean and the fastest of an even number.
      const sides = k === 0 || 2 * k === n ? 1 : 2;
      return what === 'amplitude' ? (sides * Math.sqrt(power)) / sum : (sides * power * even.step) / squares;
    });
    const { along, up } = curve;
    const perAlong = unitProduct([along.unit, -1]);
    return {
      along: {
        name: along.unit === 's' ? 'frequency' : `waves to one ${along.unit ?? along.name}`,
        unit: along.unit === 's' ? 'Hz' : perAlong,
      },
      up: {
        name: `${what === 'amplitude' ? 'amplitude' : 'power density'} of ${up.name}`,
        unit: what === 'amplitude' ? up.unit : unitProduct([up.unit, 2], [along.unit, 1]),
      },
      x: Float64Array.from(y, (_, k) => k / (n * even.step)),
      y,
      overSteps: false,
      notes: sayEven(even),
    };
  },
};
