import { beforeAll, describe, expect, it } from 'vitest';
import { originOf, quantityField, withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { complexQuantities } from '#core/fields/sources/complex-part.ts';
import { type FieldToWrite, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { RunDescription } from '#core/model/run.ts';
import { cyclePhases } from '#core/motion/cycle-pictures.ts';
import { turnOfCycle } from '#core/scene/things/cycle.ts';
import { importSteps, type MemoryStore } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { quantityValues } from './quantity-values.ts';
import { measureRange, measureShares } from './run-ranges.ts';
import { readStoredMesh } from './stored-mesh.ts';

const LIGHT_SPEED = 299_792_458;
const EPSILON = 8.8541878128e-12;
const MU = 4e-7 * Math.PI;
const SIDE = 1;
/** V/m. */
const PEAK = 1000;
/**
 * Modes TE10p of a closed box with conducting walls: Ey = E0 sin(πx/a) sin(pπz/d), H a quarter turn behind, frequency
 * c/2 √((1/a)² + (p/d)²) (Pozar, Microwave Engineering, from memory). With e^(iωt), ∇×E = -iωμH.
 */
const frequency = (p: number): number => (LIGHT_SPEED / 2) * Math.hypot(1 / SIDE, p / SIDE);

function modeAt(p: number, x: number, z: number) {
  const [kx, kz] = [Math.PI / SIDE, (p * Math.PI) / SIDE];
  const omega = 2 * Math.PI * frequency(p);
  return {
    electric: [0, PEAK * Math.sin(kx * x) * Math.sin(kz * z), 0],
    /** Imaginary parts of H: from H = (i / ωμ) ∇×E. */
    magnetic: [
      (-PEAK * kz * Math.sin(kx * x) * Math.cos(kz * z)) / (omega * MU),
      0,
      (PEAK * kx * Math.cos(kx * x) * Math.sin(kz * z)) / (omega * MU),
    ],
  };
}

let run: RunDescription;
let store: MemoryStore;
let arrays: ArraySource;
const mesh = hexBlock(8, SIDE);
const n = mesh.points.length / 3;
const placeOf = (i: number): [number, number] => [mesh.points[3 * i], mesh.points[3 * i + 2]];
const field = (name: string, components: number, of: (i: number, k: number) => number): FieldToWrite => ({
  name,
  location: 'point',
  components,
  unit: null,
  data: Float32Array.from({ length: components * n }, (_, j) =>
    of(Math.floor(j / components), j % components),
  ),
});

beforeAll(async () => {
  const steps = [1, 2].map((p) => {
    const of = (i: number) => modeAt(p, ...placeOf(i));
    return {
      time: frequency(p),
      parts: {
        cavity: writeVtu(
          mesh,
          [
            field('E_re', 3, (i, k) => of(i).electric[k]),
            field('E_im', 3, () => 0),
            field('H_re', 3, () => 0),
            field('H_im', 3, (i, k) => of(i).magnetic[k]),
            // A vector that turns in a circle, one on a slanted ellipse, and a wave told by amplitude and phase.
            field('R_re', 3, (_, k) => [2, 0, 0][k]),
            field('R_im', 3, (_, k) => [0, 2, 0][k]),
            field('S_re', 3, (_, k) => [3, 1, -1][k]),
            field('S_im', 3, (_, k) => [0.5, 2, 1][k]),
            field('wave_amplitude', 1, (i) => 1 + placeOf(i)[0]),
            field('wave_phase', 1, (i) => 360 * placeOf(i)[1]),
            field('lone_phase', 1, () => 12),
            field('displacement', 3, (i, k) => [0, 0, placeOf(i)[0]][k]),
          ],
          p,
          { length: 'm' },
        ),
      },
    };
  });
  const imported = await importSteps(steps);
  run = withOfferedQuantities({
    ...imported.run,
    steps: imported.run.steps.map((s) => ({ ...s, kind: 'mode' as const })),
  });
  store = imported.store;
  arrays = new ArraySource(store.load);
});

/** Values of a quantity at a phase in degrees. */
async function values(key: string, phase = 0, step = 0, convention: 'plus' | 'minus' = 'plus') {
  const [part] = run.parts;
  const shown = part.steps[step]!;
  const turn = turnOfCycle({ phase, seconds: 4, convention });
  const origin = originOf({ field: key }, { run, part, step, turn })!;
  const on = {
    part: part.name,
    origin: run.origin,
    mesh: () => readStoredMesh(part.meshes[shown.mesh], arrays),
  };
  return quantityValues(JSON.parse(JSON.stringify(origin)), on, arrays);
}

describe('the modes of a box', () => {
  it('have the field of the closed form at any phase', async () => {
    for (const [step, p] of [1, 2].entries())
      for (const phase of [0, 30, 90, 200.5, 315]) {
        const [e, h] = await Promise.all(
          ['swing:point:E_re', 'swing:point:H_re'].map((key) => values(key, phase, step)),
        );
        const [cos, sin] = [Math.cos((phase * Math.PI) / 180), Math.sin((phase * Math.PI) / 180)];
        for (let i = 0; i < n; i++) {
          const { electric, magnetic } = modeAt(p, ...placeOf(i));
          for (let k = 0; k < 3; k++) {
            expect(Math.abs(e.data[3 * i + k] - electric[k] * cos)).toBeLessThan(1e-3);
            expect(Math.abs(h.data[3 * i + k] + magnetic[k] * sin)).toBeLessThan(1e-5);
          }
        }
      }
  });
  it('keep their energy: what the electric field loses the magnetic one gains', async () => {
    const energy = async (phase: number): Promise<number> => {
      const [e, h] = await Promise.all(
        ['swing:point:E_re', 'swing:point:H_re'].map((key) => values(key, phase)),
      );
      // Squares of sines and cosines over whole half waves: the trapezoidal sum over even nodes is exact.
      let sum = 0;
      for (let i = 0; i < n; i++) {
        let weight = 1;
        for (let k = 0; k < 3; k++) {
          const v = mesh.points[3 * i + k];
          if (v < 1e-6 || v > SIDE - 1e-6) weight /= 2;
        }
        for (let k = 0; k < 3; k++)
          sum += (weight * (EPSILON * e.data[3 * i + k] ** 2 + MU * h.data[3 * i + k] ** 2)) / 2;
      }
      return sum;
    };
    const first = await energy(0);
    for (const phase of [20, 45, 90, 133, 270])
      expect(Math.abs((await energy(phase)) / first - 1)).toBeLessThan(1e-5);
  });
});

describe('a vector that swings', () => {
  it('is largest where all its phases are tried, which its Hermitian length is not', async () => {
    const brute = async (name: string): Promise<number> => {
      let largest = 0;
      for (let phase = 0; phase < 180; phase += 0.25) {
        const { data } = await values(`swing:point:${name}_re`, phase);
        largest = Math.max(largest, Math.hypot(data[0], data[1], data[2]));
      }
      return largest;
    };
    for (const name of ['R', 'S']) {
      const [largest, hermitian, rms] = await Promise.all(
        ['largest', 'hermitian', 'rms'].map((form) => values(`${form}:point:${name}_re`)),
      );
      expect([largest.components, hermitian.components, rms.components]).toEqual([1, 1, 3]);
      expect(largest.data[0]).toBeCloseTo(await brute(name), 4);
      expect(Math.hypot(rms.data[0], rms.data[1], rms.data[2])).toBeCloseTo(
        hermitian.data[0] / Math.SQRT2,
        5,
      );
    }
    // Turning in a circle of radius 2 it is never longer than 2; the length of its amplitudes is √8.
    expect((await values('largest:point:R_re')).data[0]).toBeCloseTo(2, 6);
    expect((await values('hermitian:point:R_re')).data[0]).toBeCloseTo(Math.sqrt(8), 6);
  });
  it('turns the other way where time runs as e^(-iωt)', async () => {
    const [plus, minus] = [
      await values('swing:point:R_re', 90),
      await values('swing:point:R_re', 90, 0, 'minus'),
    ];
    // Re((2, 2i, 0) e^(iπ/2)) = (0, -2, 0).
    for (const [k, wanted] of [0, -2, 0].entries()) {
      expect(plus.data[k]).toBeCloseTo(wanted, 6);
      expect(minus.data[k]).toBeCloseTo(-wanted, 6);
    }
  });
  it('has the range of its whole cycle', async () => {
    const { overall } = await measureRange(run, 'swing:point:S_re', arrays);
    const amplitudes = [Math.hypot(3, 0.5), Math.hypot(1, 2), Math.hypot(-1, 1)];
    for (const [k, amplitude] of amplitudes.entries()) {
      expect(overall!.components[k].max).toBeCloseTo(amplitude, 5);
      expect(overall!.components[k].min).toBeCloseTo(-amplitude, 5);
    }
    const largest = (await values('largest:point:S_re')).data[0];
    expect(overall!.magnitude).toMatchObject({ min: 0 });
    expect(overall!.magnitude!.max).toBeCloseTo(largest, 5);
    // Quantiles tell of more than the one phase on show.
    const shares = await measureShares(run, 'swing:point:R_re', 0, arrays);
    expect(shares[0]).toBeCloseTo(-2, 4);
    expect(shares[100]).toBeCloseTo(2, 4);
    expect(Math.abs(shares[50])).toBeLessThan(0.8);
  });
});

describe('halves', () => {
  it('by amplitude and phase swing as those by real and imaginary part', async () => {
    const wave = await values('swing:point:wave_amplitude', 60);
    for (let i = 0; i < n; i += 17) {
      const [x, z] = placeOf(i);
      expect(wave.data[i]).toBeCloseTo((1 + x) * Math.cos(2 * Math.PI * z + Math.PI / 3), 4);
    }
    const [re, im] = [
      await values('real:point:wave_amplitude'),
      await values('imaginary:point:wave_amplitude'),
    ];
    expect(Math.hypot(re.data[40], im.data[40])).toBeCloseTo(1 + placeOf(40)[0], 5);
  });
  it('are one quantity with its forms; the shape of a mode swings alone', () => {
    const said = complexQuantities(run).map(({ of, forms }) => [of, forms.map((f) => f.says)]);
    expect(said.map(([of]) => of)).toEqual(['E', 'H', 'R', 'S', 'wave']);
    expect(said[0][1]).toEqual([
      'swinging',
      'real part',
      'imaginary part',
      'amplitude',
      'phase',
      'rms',
      'largest over the cycle',
      'Hermitian length',
    ]);
    expect(said[4][1]).toEqual(['swinging', 'amplitude', 'phase', 'real part', 'imaginary part', 'rms']);
    expect(quantityField('swing:point:displacement', run)?.name).toBe('swinging displacement');
    expect(run.fields.some((f) => f.key === 'swing:point:displacement')).toBe(true);
  });
  it('without the other half are told of', () => {
    expect(run.notes.join('; ')).toContain('no amplitude beside lone_phase (such as lone_amplitude');
    expect(quantityField('amplitude:point:lone_phase', run)).toBeNull();
  });
});

describe('the pictures of a cycle', () => {
  it('lead from the last to the first as from any to the next', async () => {
    const phases = cyclePhases(24, true);
    const tips = await Promise.all(phases.map((phase) => values('swing:point:R_re', phase)));
    const between = tips.map(({ data }, i) => {
      const next = tips[(i + 1) % tips.length].data;
      return Math.hypot(next[0] - data[0], next[1] - data[1]);
    });
    for (const step of between) expect(step).toBeCloseTo(between[0], 5);
    expect(between[0]).toBeCloseTo(4 * Math.sin(Math.PI / 24), 5);
  });
  it('of a sweep end at its end', () => {
    expect(cyclePhases(5, false)).toEqual([0, 90, 180, 270, 360]);
    expect(cyclePhases(4, true)).toEqual([0, 90, 180, 270]);
    expect(cyclePhases(1, false)).toEqual([0]);
  });
});
