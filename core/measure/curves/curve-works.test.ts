import { fft as libraryFft } from 'mathjs';
import { PolynomialRegression } from 'ml-regression-polynomial';
import { linearRegression, linearRegressionLine, rSquared } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { channelSection } from './crash-filter.ts';
import { type CurveData, curveAt, curveFrom, curvesCsv } from './curve-data.ts';
import { fourier } from './fourier.ts';
import { filtered, filteredBothWays, filterSections, responseOf } from './recursive-filter.ts';
import { curveWorks, worked } from './registry.ts';
import { windowWeights } from './spectrum.ts';

const seconds = { name: 'time', unit: 's' };
const metres = { name: 'place', unit: 'm' };
const curve = (x: number[], of: (x: number) => number): CurveData =>
  curveFrom(seconds, metres, x, x.map(of), true);
const even = (n: number, step: number): number[] => Array.from({ length: n }, (_, i) => i * step);
const nothing = { curve: () => null };
const done = (data: CurveData, op: string, options: object = {}, beside = nothing): CurveData => {
  const work = curveWorks.find((w) => w.id === op)!;
  const whole = { ...work.defaults(data), ...options };
  return worked(data, [{ id: 'a', op, options: whole, off: false }], beside);
};
// A generator of pseudo-random numbers, so that a failure can be met again.
const noise = (seed: number) => (): number => {
  seed = (seed * 1664525 + 1013904223) % 4294967296;
  return seed / 4294967296 - 0.5;
};

describe('a curve', () => {
  it('stands in order, is known between its places, and is a table', () => {
    const made = curveFrom(seconds, metres, [2, 0, Number.NaN, 1], [20, 0, 5, 10], true);
    expect([...made.x]).toEqual([0, 1, 2]);
    expect(curveAt(made, 1.5)).toBe(15);
    expect(curveAt(made, 2.1)).toBeNaN();
    const other = curveFrom(seconds, metres, [0, 1, 2], [1, Number.NaN, 3], true);
    const table = curvesCsv([
      { name: 'a, first', data: made },
      { name: 'b', data: other },
    ]);
    expect(table).toBe('time [s],"a, first [m]",b [m]\n0,0,1\n1,10,\n2,20,3\n');
  });
});

describe('slopes and sums', () => {
  it('are exact for parabolas on uneven places, with their units', () => {
    const x = [0, 0.3, 1, 1.2, 2, 3.5];
    const slope = done(
      curve(x, (t) => 2 * t * t - 3 * t + 1),
      'derivative',
    );
    for (const [i, t] of x.entries()) expect(slope.y[i]).toBeCloseTo(4 * t - 3, 10);
    expect(slope.up.unit).toBe('m/s');
    const area = done(
      curve(x, (t) => 3 * t),
      'integral',
    );
    for (const [i, t] of x.entries()) expect(area.y[i]).toBeCloseTo(1.5 * t * t, 10);
  });

  it('bring the force back from the impulse that is its sum', () => {
    const x = even(400, 0.001);
    const force = curve(x, (t) => 500 * Math.sin(40 * t) ** 2);
    const back = done(done(force, 'integral'), 'derivative');
    for (let i = 2; i < 398; i++) expect(Math.abs(back.y[i] - force.y[i])).toBeLessThan(0.5);
  });
});

describe('filters', () => {
  // |H|^2 = 1 / (1 + (tan(pi f) / tan(pi fc))^(2n)): the published response of a Butterworth filter after the bilinear
  // transform (Oppenheim, Schafer, chapter 7; from memory).
  it.each([1, 2, 3, 4, 7])('Butterworth of order %i passes as published', (order) => {
    for (const pass of ['low', 'high'] as const) {
      const sections = filterSections({ kind: 'butterworth', pass, order, cutoff: 0.1, ripple: 1 });
      for (const f of [0.01, 0.05, 0.1, 0.2, 0.4]) {
        const ratio = Math.tan(Math.PI * f) / Math.tan(Math.PI * 0.1);
        const power = (pass === 'low' ? ratio : 1 / ratio) ** (2 * order);
        expect(responseOf(sections, f)).toBeCloseTo(1 / Math.sqrt(1 + power), 8);
      }
    }
  });

  // |H|^2 = 1 / (1 + e^2 T_n(w)^2), T_n the Chebyshev polynomial, e^2 = 10^(ripple/10) - 1 (as above).
  it.each([2, 3, 4, 5])('Chebyshev of order %i passes as published', (order) => {
    const ripple = 0.5;
    const e2 = 10 ** (ripple / 10) - 1;
    for (const pass of ['low', 'high'] as const) {
      const sections = filterSections({ kind: 'chebyshev', pass, order, cutoff: 0.15, ripple });
      for (const f of [0.02, 0.08, 0.149, 0.25, 0.45]) {
        const ratio = Math.tan(Math.PI * f) / Math.tan(Math.PI * 0.15);
        const w = pass === 'low' ? ratio : 1 / ratio;
        const t = w <= 1 ? Math.cos(order * Math.acos(w)) : Math.cosh(order * Math.acosh(w));
        expect(responseOf(sections, f)).toBeCloseTo(1 / Math.sqrt(1 + e2 * t * t), 7);
      }
    }
  });

  it('made of a wave give what the response says, without delay when gone both ways', () => {
    const sections = filterSections({ kind: 'butterworth', pass: 'low', order: 4, cutoff: 0.05, ripple: 1 });
    const wave = Float64Array.from({ length: 4000 }, (_, i) => Math.sin(2 * Math.PI * 0.04 * i));
    const both = filteredBothWays(wave, sections);
    const share = responseOf(sections, 0.04) ** 2;
    for (let i = 1000; i < 3000; i++) expect(both[i]).toBeCloseTo(share * wave[i], 4);
    const once = filtered(wave, sections).slice(1000, 3000);
    expect(Math.max(...once)).toBeCloseTo(Math.sqrt(share), 2);
  });

  it('leave what does not change as it is', () => {
    const sections = filterSections({ kind: 'chebyshev', pass: 'low', order: 3, cutoff: 0.02, ripple: 0.5 });
    for (const v of filtered(new Float64Array(50).fill(7), sections)) expect(v).toBeCloseTo(7, 9);
  });

  // SAE J211-1: within the corridor, down by 4 dB at 1.65 times the class, as both ways count (from memory: a channel of
  // class C is flat up to C Hz within 0.5 to -1 dB and has fallen by 3 dB at 1.65 C, within 0.5 dB).
  it.each([60, 180, 600, 1000])(
    'CFC %i is flat up to its class and has fallen by 3 dB at 1.65 of it',
    (channel) => {
      const rate = 1e-5;
      const section = [channelSection(channel, rate)];
      const decibels = (hertz: number): number => 40 * Math.log10(responseOf(section, hertz * rate));
      expect(decibels(0.1 * channel)).toBeCloseTo(0, 2);
      expect(decibels(channel)).toBeGreaterThan(-1);
      expect(Math.abs(decibels(1.65 * channel) + 3)).toBeLessThan(0.5);
    },
  );

  it('refuse what they cannot, and tell what they did', () => {
    expect(() => done(curve(even(20, 0.1), Math.sin), 'filter', { cutoff: 6 })).toThrow(/beyond half/);
    expect(() => done(curve([0, 1], Math.sin), 'filter')).toThrow(/at least 4/);
    const uneven = done(curve([0, 1, 2, 4, 5, 6, 9, 10], Math.sin), 'filter', { cutoff: 0.1 });
    expect(uneven.notes).toEqual(['Its places were uneven and were taken evenly.']);
    expect(() => done(curve(even(50, 0.01), Math.sin), 'channel class', { class: 1000 })).toThrow(
      /too far apart/,
    );
  });
});

describe('spectra', () => {
  // mathjs, a general library.
  it.each([8, 64, 7, 60, 97])('transform %i samples as a general library does', (n) => {
    const random = noise(n);
    const samples = Array.from({ length: n }, random);
    const found = fourier(samples);
    const known = libraryFft(samples) as unknown as { re: number; im: number }[];
    for (let k = 0; k < found.real.length; k++) {
      expect(found.real[k]).toBeCloseTo(known[k].re, 9);
      expect(found.imaginary[k]).toBeCloseTo(known[k].im, 9);
    }
  });

  it.each(['rectangular', 'Hann', 'Hamming', 'Blackman', 'flat top'])(
    'of a wave stand at its frequency with its amplitude, with a %s window',
    (window) => {
      const wave = curve(even(1000, 0.002), (t) => 4 + 3 * Math.sin(2 * Math.PI * 50 * t + 1));
      const found = done(wave, 'spectrum', { what: 'amplitude', window });
      const at = found.y.indexOf(Math.max(...found.y));
      expect(found.x[at]).toBeCloseTo(50, 9);
      expect(found.y[at]).toBeCloseTo(3, 6);
      expect(found.along).toEqual({ name: 'frequency', unit: 'Hz' });
    },
  );

  // Parseval's theorem.
  it('of power have the variance as the area beneath', () => {
    const random = noise(5);
    const x = even(1001, 0.01);
    const rough = curve(x, random);
    const found = done(rough, 'spectrum', { what: 'power density', window: 'rectangular' });
    const area = found.y.reduce((a, b) => a + b, 0) * found.x[1];
    const mean = rough.y.reduce((a, b) => a + b, 0) / x.length;
    const variance = rough.y.reduce((s, v) => s + (v - mean) ** 2, 0) / x.length;
    expect(area).toBeCloseTo(variance, 10);
    expect(found.up.unit).toBe('m²·s');
  });

  // Harris 1978, table 1: coherent gains 1, 0.5, 0.54, 0.42 (from memory).
  it('weigh with the gains that are published', () => {
    const gain = (name: Parameters<typeof windowWeights>[0]): number =>
      windowWeights(name, 256).reduce((a, b) => a + b, 0) / 256;
    expect(
      [gain('rectangular'), gain('Hann'), gain('Hamming'), gain('Blackman')].map((v) => +v.toFixed(6)),
    ).toEqual([1, 0.5, 0.54, 0.42]);
  });
});

describe('fits', () => {
  const random = noise(11);
  const x = even(60, 0.5);
  const rough = curve(x, (t) => 2 - 0.7 * t + random());

  // simple-statistics, a general library.
  it('by a line are those of a general library', () => {
    const pairs = x.map((t, i) => [t, rough.y[i]]);
    const { m, b } = linearRegression(pairs);
    const found = done(rough, 'fit');
    for (const [i, t] of x.entries()) expect(found.y[i]).toBeCloseTo(m * t + b, 9);
    const r2 = rSquared(pairs, linearRegressionLine({ m, b }));
    expect(found.notes![1]).toContain(`R² ${Number(r2.toPrecision(5))}`);
    expect(found.notes![0]).toMatch(/^Slope −0\.\d+ ± 0\.\d+ m\/s, /);
  });

  // ml-regression-polynomial, a general library.
  it('by a polynomial are those of a general library', () => {
    const known = new PolynomialRegression(x, [...rough.y], 4);
    const found = done(rough, 'fit', { kind: 'polynomial', degree: 4 });
    for (const [i, t] of x.entries()) expect(found.y[i]).toBeCloseTo(known.predict(t), 5);
  });

  it('find the numbers of exponentials and of any formula', () => {
    const cooling = done(
      curve(even(50, 0.2), (t) => 20 + 80 * Math.exp(-0.5 * t)),
      'fit',
      { kind: 'exponential' },
    );
    expect(cooling.notes![0]).toBe('80 exp(−0.5 x) + 20.');
    const wave = done(
      curve(even(50, 0.1), (t) => 2 * Math.sin(1.3 * t + 0.4)),
      'fit',
      { kind: 'formula', formula: 'a * sin(b * x + c)' },
    );
    expect(wave.notes![0]).toBe('a = 2, b = 1.3, c = 0.4.');
  });

  it('pass over a stretch, and refuse what says nothing', () => {
    const bumped = curve(x, (t) => (t > 10 && t < 15 ? 100 : 3 * t));
    const fitted = done(bumped, 'fit', { without: [10, 15] });
    for (const [i, t] of x.entries()) expect(fitted.y[i]).toBeCloseTo(3 * t, 9);
    expect(() => done(bumped, 'fit', { from: 1, to: 1.2 })).toThrow(/too few/);
    expect(() => done(bumped, 'fit', { kind: 'formula', formula: '3 *' })).toThrow(/not understood/);
    expect(() => done(bumped, 'fit', { kind: 'formula', formula: '3 * x' })).toThrow(/no letters/);
  });
});

describe('other work', () => {
  it('takes means over neighbours, of fewer towards the ends', () => {
    const means = done(
      curve([0, 1, 2, 3, 4], (t) => t * t),
      'smoothing',
      { places: 3 },
    );
    expect([...means.y].map((v) => +v.toFixed(9))).toEqual([0, 1.666666667, 4.666666667, 9.666666667, 16]);
  });

  it('takes another curve away that stands at other places and in another unit', () => {
    const other = curveFrom(
      { name: 'time', unit: 'ms' },
      { name: 'w', unit: 'mm' },
      [0, 4000],
      [0, 4000],
      true,
    );
    const less = done(
      curve([0, 1, 2, 5], (t) => 3 * t),
      'difference',
      { other: 'b' },
      { curve: () => other } as never,
    );
    expect([...less.y.slice(0, 3)]).toEqual([0, 2, 4]);
    expect(less.y[3]).toBeNaN();
    const force = { ...other, up: { name: 'force', unit: 'N' } };
    expect(() =>
      done(curve([0, 1], Math.sin), 'difference', { other: 'b' }, { curve: () => force } as never),
    ).toThrow(/force is in N, this one in m/);
    expect(() => done(curve([0, 1], Math.sin), 'difference')).toThrow(/Choose the curve/);
  });

  it('resamples, shifts, scales and finds envelopes', () => {
    const line = curve([0, 1, 3], (t) => 2 * t);
    expect([...done(line, 'resample', { count: 4 }).y]).toEqual([0, 2, 4, 6]);
    expect([...done(line, 'shift', { along: 1, up: -1 }).x]).toEqual([1, 2, 4]);
    expect([...done(line, 'scale', { along: -1, up: -1 }).y]).toEqual([-6, -2, -0]);
    const wave = curve(even(200, 0.05), (t) => Math.sin(2 * Math.PI * t) * Math.exp(-0.1 * t));
    const upper = done(wave, 'envelope', { side: 'upper', reach: 8 });
    for (let i = 10; i < 180; i++) expect(upper.y[i]).toBeGreaterThanOrEqual(wave.y[i] - 1e-9);
    expect(upper.y[100]).toBeCloseTo(Math.exp(-0.5), 2);
  });
});
