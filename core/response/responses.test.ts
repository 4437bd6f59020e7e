import { PolynomialRegression } from 'ml-regression-polynomial';
import { describe, expect, it } from 'vitest';
import { randomNumbers } from '../model/random-numbers.ts';
import { fitResponse } from './fit-response.ts';
import { gaussianProcess, krige, unlikelihood } from './gaussian-process.ts';
import { leastBySteps } from './least-by-steps.ts';
import { polynomial } from './polynomial.ts';
import type { AnyResponseKind } from './registry.ts';
import type { Samples } from './response.ts';
import { thinPlate } from './thin-plate.ts';

/** Places spread over a square by chance, and what a function says there. */
function sampled(count: number, of: (x: number, y: number) => number, seed = 7): Samples {
  const next = randomNumbers(seed);
  const inputs = Array.from({ length: count }, () => [2 * next() - 1, 2 * next() - 1]);
  return { inputs, outputs: inputs.map(([x, y]) => of(x, y)) };
}

const without = ({ inputs, outputs }: Samples, i: number): Samples => ({
  inputs: inputs.toSpliced(i, 1),
  outputs: outputs.toSpliced(i, 1),
});

const hills = (x: number, y: number): number => Math.sin(3 * x) + y * y - 0.5 * x * y;

describe('what a fit says without a sample', () => {
  const samples = sampled(24, hills);
  it.each<[string, AnyResponseKind, object]>([
    ['polynomials', polynomial, { degree: 2 }],
    ['thin plates', thinPlate, { smoothing: 0 }],
    ['smoothed plates', thinPlate, { smoothing: 0.3 }],
  ])('is what it says when it is fitted anew without it: %s', (_, kind, options) => {
    const { leftOut } = kind.fit(samples, options);
    for (let i = 0; i < samples.outputs.length; i++) {
      const { surface } = kind.fit(without(samples, i), options);
      expect(leftOut[i]).toBeCloseTo(samples.outputs[i] - surface.at(samples.inputs[i]), 6);
    }
  });

  it('is so for a Gaussian process of known correlations, with and without scatter', () => {
    for (const scatter of [1e-6, 0.1]) {
      const correlations = { lengths: [0.6, 0.9], scatter };
      const { leftOut } = krige(samples, correlations);
      for (let i = 0; i < samples.outputs.length; i++) {
        const { surface } = krige(without(samples, i), correlations);
        expect(leftOut[i]).toBeCloseTo(samples.outputs[i] - surface.at(samples.inputs[i]), 5);
      }
    }
  });
});

describe('polynomials', () => {
  it('find what is one, of two inputs', () => {
    const of = (x: number, y: number): number => 3 - 2 * x + 0.5 * y + 4 * x * y - y * y;
    const { surface, leftOut } = polynomial.fit(sampled(12, of), { degree: 2 });
    for (const [x, y] of [
      [0.3, -0.7],
      [1.5, 2],
    ])
      expect(surface.at([x, y])).toBeCloseTo(of(x, y), 10);
    for (const e of leftOut) expect(e).toBeCloseTo(0, 9);
  });

  it('of one input are those of the package ml-regression-polynomial', () => {
    const x = [-1, -0.6, -0.5, 0, 0.3, 0.7, 1];
    const y = [2, 1.1, 0.4, 0.2, 0.9, 1.2, 3];
    const theirs = new PolynomialRegression(x, y, 3);
    const { surface } = polynomial.fit({ inputs: x.map((v) => [v]), outputs: y }, { degree: 3 });
    for (const at of [-0.9, 0.1, 0.8, 1.4]) expect(surface.at([at])).toBeCloseTo(theirs.predict(at), 9);
  });

  it('refuse what the runs do not tell', () => {
    const { inputs, outputs } = sampled(9, hills);
    expect(() => polynomial.fit({ inputs, outputs }, { degree: 3 })).toThrow(/10 terms.*9 runs/);
    const along = inputs.map(([x]) => [x, 2 * x]);
    expect(() => polynomial.fit({ inputs: along, outputs }, { degree: 1 })).toThrow(
      /do not tell all 3 terms/,
    );
  });

  it('have nothing to tell of a run that alone decides a term', () => {
    const inputs = [[-1], [-1], [-1], [1]];
    const { leftOut } = polynomial.fit({ inputs, outputs: [1, 2, 3, 7] }, { degree: 1 });
    expect(leftOut[3]).toBeNaN();
    expect(leftOut[0]).toBeCloseTo(-1.5, 9);
  });
});

describe('thin plates', () => {
  it('go through every sample, and are planes where all lie on one', () => {
    const samples = sampled(20, hills);
    const { surface } = thinPlate.fit(samples, { smoothing: 0 });
    for (const [i, row] of samples.inputs.entries())
      expect(surface.at(row)).toBeCloseTo(samples.outputs[i], 8);
    const plane = thinPlate.fit(
      sampled(20, (x, y) => 2 - x + 3 * y),
      { smoothing: 0 },
    ).surface;
    expect(plane.at([4, -3])).toBeCloseTo(2 - 4 - 9, 7);
  });

  it('of one input are the natural cubic spline: of three points, bent as a beam on three supports', () => {
    // Through (-1, 0), (0, 1), (1, 0): s = 1 - 3/2 x² + 1/2 |x|³ (Timoshenko, Strength of Materials; by hand).
    const { surface } = thinPlate.fit({ inputs: [[-1], [0], [1]], outputs: [0, 1, 0] }, { smoothing: 0 });
    for (const x of [-0.8, -0.3, 0.25, 0.6])
      expect(surface.at([x])).toBeCloseTo(1 - 1.5 * x * x + 0.5 * Math.abs(x) ** 3, 10);
    // Beyond its ends it is straight.
    expect(surface.at([3]) - surface.at([2])).toBeCloseTo(surface.at([2]) - surface.at([1]), 9);
  });

  it('smoothed ever more are the plane of least squares', () => {
    const samples = sampled(20, hills);
    const stiff = thinPlate.fit(samples, { smoothing: 1e7 }).surface;
    const plane = polynomial.fit(samples, { degree: 1 }).surface;
    expect(stiff.at([0.2, -0.4])).toBeCloseTo(plane.at([0.2, -0.4]), 4);
  });

  it('go through the mean of runs at one place; without one of them, through the others', () => {
    const inputs = [
      [-1, -1],
      [1, -1],
      [0, 1],
      [0, 1],
    ];
    const { surface, leftOut } = thinPlate.fit({ inputs, outputs: [0, 0, 2, 4] }, { smoothing: 0 });
    expect(surface.at([0, 1])).toBeCloseTo(3, 9);
    expect(leftOut.slice(2)).toEqual([-2, 2]);
    // Three places are just a plane: without one of them nothing is told.
    expect(leftOut[0]).toBeNaN();
  });

  it('over three inputs interpolate too; over four, or along a line, they are refused', () => {
    const next = randomNumbers(3);
    const inputs = Array.from({ length: 15 }, () => [next(), next(), next()]);
    const outputs = inputs.map(([x, y, z]) => x * y - z * z);
    const { surface } = thinPlate.fit({ inputs, outputs }, { smoothing: 0 });
    expect(surface.at(inputs[4])).toBeCloseTo(outputs[4], 8);
    const four = inputs.map((row) => [...row, row[0] ** 2]);
    expect(() => thinPlate.fit({ inputs: four, outputs }, { smoothing: 0 })).toThrow(/not 4/);
    const line = inputs.map(([x]) => [x, x]);
    expect(() => thinPlate.fit({ inputs: line, outputs }, { smoothing: 0 })).toThrow(/do not span a plane/);
  });
});

describe('Gaussian processes', () => {
  it('of two runs are what one works out by hand', () => {
    // Correlation r between them; their mean is the mean, and the surface there and half way follows by symmetry.
    const samples = { inputs: [[-1], [1]], outputs: [0, 2] };
    const correlations = { lengths: [2], scatter: 0 };
    const { surface } = krige(samples, correlations);
    const r = Math.exp(-0.5);
    const near = (d: number): number => Math.exp(-0.5 * (d / 2) ** 2);
    const at = (x: number): number => 1 + (near(x - 1) - near(x + 1)) / (1 - r);
    for (const x of [-1, -0.4, 0, 0.7, 1, 3]) expect(surface.at([x])).toBeCloseTo(at(x), 10);
    // Away from both, the mean, and all that is not known: the variance and how well the mean is known.
    const variance = 1 / (1 - r);
    expect(surface.at([60])).toBeCloseTo(1, 9);
    expect(surface.deviation!([60])).toBeCloseTo(Math.sqrt(variance * (1 + (1 + r) / 2)), 9);
    expect(surface.deviation!([1])).toBeCloseTo(0, 6);
    // n log of the variance, and log of the determinant 1 - r².
    expect(unlikelihood(samples, correlations)).toBeCloseTo(2 * Math.log(variance) + Math.log(1 - r * r), 9);
  });

  it('go through every run, find how fast each input acts, and tell more where runs are', () => {
    const samples = sampled(40, (x) => Math.sin(4 * x));
    const { surface } = gaussianProcess.fit(samples, { scatter: false });
    for (const [i, row] of samples.inputs.entries())
      expect(surface.at(row)).toBeCloseTo(samples.outputs[i], 3);
    // The second input does nothing.
    expect(surface.at([0.2, 0.9])).toBeCloseTo(surface.at([0.2, -0.9]), 2);
    expect(surface.at([0.35, 0.1])).toBeCloseTo(Math.sin(1.4), 2);
    expect(surface.deviation!([0, 0])).toBeLessThan(surface.deviation!([3, 0]));
  });

  it('find how much runs scatter, and go between them', () => {
    const next = randomNumbers(11);
    const inputs = Array.from({ length: 60 }, (_, i) => [-1 + (2 * i) / 59]);
    const noise = 0.2;
    // Uniform between -a and a: its standard deviation is a / sqrt(3).
    const outputs = inputs.map(([x]) => Math.sin(3 * x) + noise * Math.sqrt(3) * (2 * next() - 1));
    const { surface } = gaussianProcess.fit({ inputs, outputs }, { scatter: true });
    const off = inputs.map(([x]) => surface.at([x]) - Math.sin(3 * x));
    const away = Math.sqrt(off.reduce((sum, e) => sum + e * e, 0) / off.length);
    expect(away).toBeLessThan(noise / 2);
    // It knows how far off it is: all but a few are within three of its deviations, though they are small.
    const bands = inputs.map((row) => surface.deviation!(row));
    expect(off.filter((e, i) => Math.abs(e) < 3 * bands[i]).length).toBeGreaterThanOrEqual(54);
    expect(Math.max(...bands)).toBeLessThan(noise);
  });

  it('refuse runs at one place that do not agree, unless they may scatter', () => {
    const inputs = [[-1], [0], [0], [1]];
    const outputs = [0, 1, 2, 0];
    expect(() => krige({ inputs, outputs }, { lengths: [1], scatter: 0 })).toThrow(/same place/);
    const { surface } = gaussianProcess.fit({ inputs, outputs }, { scatter: true });
    expect(Number.isFinite(surface.at([0]))).toBe(true);
  });
});

describe('a response', () => {
  it('takes inputs as they are, leaves out what does not vary and runs with gaps, and says how well it tells', () => {
    const power = [1500, 1800, 2100, 2400, 1500, 2000, Number.NaN];
    const fan = [0.5, 0.5, 0.5, 0.5, 0.5, 0.5, 0.5];
    const outputs = power.map((p) => 20 + 0.1 * p);
    const fit = fitResponse(polynomial, { degree: 1 }, { inputs: power.map((p, i) => [p, fan[i]]), outputs });
    expect(fit.used).toEqual([0, 1, 2, 3, 4, 5]);
    expect(fit.constant).toEqual([1]);
    expect(fit.surface.at([1000, 0.5])).toBeCloseTo(120, 9);
    expect(fit.quality.explained).toBeCloseTo(1, 12);
    expect(fit.quality.predicted).toBeCloseTo(1, 12);
  });

  it('of a line through three points has the R² and the PRESS one works out by hand', () => {
    // (0, 0), (1, 2), (2, 1): y = 1/2 + x/2; residuals -1/2, 1, -1/2; leverages 5/6, 1/3, 5/6.
    const fit = fitResponse(polynomial, { degree: 1 }, { inputs: [[0], [1], [2]], outputs: [0, 2, 1] });
    expect(fit.residuals[1]).toBeCloseTo(1, 12);
    expect(fit.leftOut.map((e) => Number(e.toFixed(9)))).toEqual([-3, 1.5, -3]);
    expect(fit.quality.explained).toBeCloseTo(0.25, 12);
    expect(fit.quality.predicted).toBeCloseTo(1 - (9 + 2.25 + 9) / 2, 12);
    expect(fit.quality.away).toBeCloseTo(Math.sqrt(0.5), 12);
  });

  it('of an output that is the same everywhere explains nothing, and is that', () => {
    const inputs = [[0.1], [0.2], [0.7], [0.9]];
    const fit = fitResponse(polynomial, { degree: 1 }, { inputs, outputs: [0.1, 0.1, 0.1, 0.1] });
    expect(fit.quality.explained).toBeNull();
    expect(fit.quality.predicted).toBeNull();
    expect(fit.surface.at([5])).toBeCloseTo(0.1, 9);
  });

  it.each([
    [[[1], [1]], [1, 2], /same in all runs/],
    [[[1], [Number.NaN]], [1, 2], /only one run has a value/],
    [[[1]], [Number.NaN], /no run has a value/],
  ])('is refused of %j', (inputs, outputs, said) => {
    expect(() => fitResponse(polynomial, { degree: 1 }, { inputs, outputs })).toThrow(said);
  });
});

describe('the least of a function', () => {
  it('is found in a bent valley, and at a bound', () => {
    // Rosenbrock's, whose least is 0 at (1, 1).
    const valley = ([x, y]: readonly number[]): number => (1 - x) ** 2 + 100 * (y - x * x) ** 2;
    const bounds = [
      [-2, 2],
      [-2, 2],
    ] as const;
    const { at, value } = leastBySteps(valley, [-1.2, 1], bounds);
    expect(value).toBeLessThan(1e-2);
    expect(at[0]).toBeCloseTo(1, 0);
    expect(leastBySteps(([x]) => x, [0.5], [[-3, 3]]).at).toEqual([-3]);
  });
});
