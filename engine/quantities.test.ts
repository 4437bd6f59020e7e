import { beforeAll, describe, expect, it } from 'vitest';
import {
  absentQuantity,
  isUsual,
  lackingQuantity,
  needsMesh,
  originOf,
  ownName,
  quantityField,
  unmeasured,
  withOfferedQuantities,
  withQuantities,
} from '#core/fields/quantity-sources.ts';
import { type FieldToWrite, writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { fieldByKey, type RunDescription } from '#core/model/run.ts';
import { quantitiesOf } from '#core/scene/setting.ts';
import { importSteps, type MemoryStore, temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { answerQuestion } from './answer-question.ts';
import { ArraySource } from './array-source.ts';
import { arraysOfOrigin, quantityValues } from './quantity-values.ts';
import { Ranges } from './ranges.ts';
import { measureRange, measureShares } from './run-ranges.ts';
import { readStoredMesh } from './stored-mesh.ts';

let run: RunDescription;
let store: MemoryStore;
let arrays: ArraySource;

/** An oven block with a rotation as its velocity, and an electric field given by its halves. */
beforeAll(async () => {
  const mesh = hexBlock(4);
  const n = mesh.points.length / 3;
  const field = (
    name: string,
    components: number,
    of: (x: number, y: number, z: number, k: number) => number,
  ): FieldToWrite => ({
    name,
    location: 'point',
    components,
    unit: null,
    data: Float32Array.from({ length: components * n }, (_, i) => {
      const at = 3 * Math.floor(i / components);
      return of(mesh.points[at], mesh.points[at + 1], mesh.points[at + 2], i % components);
    }),
  });
  const load: FieldToWrite = {
    name: 'load',
    location: 'cell',
    components: 1,
    unit: null,
    data: Float32Array.from({ length: 64 }, (_, c) => c),
  };
  const steps = [0, 1].map((step) => ({
    time: step,
    parts: {
      oven: writeVtu(
        mesh,
        [
          temperature(mesh, (x, y, z) => 20 + 10 * step + x + 2 * y + 3 * z),
          field('velocity', 3, (x, y, _z, k) => [-2 * y, 2 * x, 5][k]),
          field('E_re', 3, (_x, _y, _z, k) => [3, 0, -1][k]),
          field('E_im', 3, (_x, _y, _z, k) => [4, 2, 0][k]),
          load,
        ],
        step,
        { length: 'm' },
      ),
    },
  }));
  const imported = await importSteps(steps);
  run = withOfferedQuantities(imported.run);
  store = imported.store;
  arrays = new ArraySource(store.load);
});

async function values(key: string, step = 0) {
  const [part] = run.parts;
  const shown = part.steps[step]!;
  const origin = originOf({ field: key }, { run, part, step })!;
  const on = {
    part: part.name,
    origin: run.origin,
    mesh: () => readStoredMesh(part.meshes[shown.mesh], arrays),
  };
  return quantityValues(JSON.parse(JSON.stringify(origin)), on, arrays);
}

const allNear = (data: ArrayLike<number>, wanted: number[]): void => {
  for (let i = 0; i < data.length; i++) expect(data[i]).toBeCloseTo(wanted[i % wanted.length], 4);
};

describe('quantities that no file states', () => {
  it('are offered by name, with their unit, and are not for newcomers', () => {
    const names = run.fields.map((f) => f.name);
    for (const wanted of [
      'E amplitude',
      'E phase',
      'gradient of temperature',
      'curl of velocity',
      'divergence of velocity',
    ])
      expect(names).toContain(wanted);
    const gradient = run.fields.find((f) => f.name === 'gradient of temperature')!;
    expect(gradient).toMatchObject({ unit: '°C/m', components: 3, location: 'point' });
    expect(isUsual(gradient.key)).toBe(false);
    expect(quantitiesOf(run).map((q) => q.name)).toContain('curl of velocity z');
  });
  it('gradient, curl and divergence are those of the closed formulas', async () => {
    allNear((await values('gradient:point:temperature')).data, [1, 2, 3]);
    // A body that turns at ω has the curl 2 ω and no divergence.
    const curl = await values('curl:point:velocity');
    allNear(curl.data, [0, 0, 4]);
    expect(curl.axial).toBe(true);
    allNear((await values('divergence:point:velocity')).data, [0]);
    // Of a field per cell it is taken at points.
    expect((await values('gradient:cell:load')).location).toBe('point');
  });
  it('of a complex quantity are amplitude, phase and the value at a phase', async () => {
    allNear((await values('amplitude:point:E_re')).data, [5, 2, 1]);
    const degrees = (Math.atan2(4, 3) * 180) / Math.PI;
    allNear((await values('phase:point:E_re')).data, [degrees, 90, 180]);
    // At its own phase backwards the value is the amplitude; a quarter turn on it is minus the imaginary part.
    expect((await values(`swing:${-degrees}:point:E_re`)).data[0]).toBeCloseTo(5, 4);
    allNear((await values('swing:90:point:E_re')).data, [-4, -2, 0]);
    allNear((await values('swing:0:point:E_re')).data, [3, 0, -1]);
    expect(quantityField('swing:30:point:E_re', run)?.name).toBe('E at phase 30°');
  });
  it('by a formula lie where what they are made from lies, and follow the step', async () => {
    const warm = await values('formula:temperature - 20', 1);
    expect(warm.location).toBe('point');
    expect(Math.min(...Array.from(warm.data))).toBeCloseTo(10, 4);
    expect((await values('formula:load * 2')).location).toBe('cell');
    expect((await values('formula:load + temperature')).data).toHaveLength(64);
    const speed = await values('formula:sqrt(velocity.x ^ 2 + velocity.y ^ 2)');
    const far = await values('formula:2 * sqrt(x ^ 2 + y ^ 2)');
    for (let i = 0; i < speed.data.length; i++) expect(speed.data[i]).toBeCloseTo(far.data[i], 4);
  });
  it('of a flow that turns are no strain, and its gradient says how it turns', async () => {
    allNear((await values('gradient:point:velocity')).data, [0, -2, 0, 2, 0, 0, 0, 0, 0]);
    allNear((await values('strain-rate:point:velocity')).data, [0]);
    // A shear of 3 along x by y: half of it on both sides of the diagonal.
    const shear = 'formula:vector(3 * y, 0, 0)';
    allNear((await values(`strain-rate:${shear}`)).data, [0, 0, 0, 1.5, 0, 0]);
    allNear(
      (
        await values(
          'formula:sqrt(2 * dot(strain_rate(vector(3 * y, 0, 0)), strain_rate(vector(3 * y, 0, 0))))',
        )
      ).data,
      [3],
    );
    allNear((await values('formula:symmetric(gradient(velocity)).xy')).data, [0]);
  });
  it('of other steps stand beside those of the step on show', async () => {
    allNear((await values('formula:temperature - first(temperature)', 1)).data, [10]);
    allNear((await values('formula:temperature - previous(temperature)', 1)).data, [10]);
    for (const step of [0, 1])
      allNear((await values('formula:temperature - at_step(2, temperature)', step)).data, [10 * (step - 1)]);
    allNear((await values('formula:last(temperature) - temperature')).data, [10]);
    // Nothing was before the first.
    const [part] = run.parts;
    const at = { run, part, step: 0 };
    expect(originOf({ field: 'previous:point:temperature' }, at)).toBeNull();
    const difference = 'formula:temperature - previous(temperature)';
    expect(absentQuantity({ field: difference }, at)).toBe('There is no step before the first one.');
    expect(absentQuantity({ field: difference }, { ...at, step: 1 })).toBeNull();
    // Steps are counted from 1, as they are shown.
    expect(quantityField('step:2:point:temperature', run)?.name).toBe('temperature at step 2');
    expect(lackingQuantity('formula:at_step(90, temperature)', run)).toMatch(
      new RegExp(`quantity at step 90: it has ${run.steps.length} steps`),
    );
    for (const wrong of ['at_step(0, temperature)', 'at_step(1.5, temperature)', 'at_step(temperature)'])
      expect(lackingQuantity(`formula:${wrong}`, run)).toMatch(/takes the number of a step, from 1/);
  });
  it('of the first step above a value are its time, and nothing where there is none', async () => {
    const arrival = await values('formula:time_min(temperature > first(temperature) + 5 K ? time : none)');
    allNear(arrival.data, [run.steps[1].time]);
    const never = await values('formula:time_min(temperature > 5000 ? time : none)');
    expect([...(never.data as Float32Array)].every(Number.isNaN)).toBe(true);
  });
  it('that are smoothed keep what is even, and straight lines within', async () => {
    allNear((await values('formula:smooth(temperature * 0 + 7)')).data, [7]);
    const { data } = await values('formula:smooth(x) - x');
    const inner = (
      await values('formula:min(x, 1 - x) > 0.3 and min(y, 1 - y) > 0.3 and min(z, 1 - z) > 0.3')
    ).data;
    for (let i = 0; i < inner.length; i++) if (inner[i] > 0) expect(data[i]).toBeCloseTo(0, 5);
  });
  it('along the principal directions of a tensor carry its principal values', async () => {
    // Pulled by 5 along (1, 1, 0), pressed by 3 along (1, -1, 0).
    const tensor = 'tensor(1, 1, 0, 4, 0, 0)';
    const half = Math.SQRT1_2;
    allNear((await values(`formula:principal_direction1(${tensor})`)).data, [5 * half, 5 * half, 0]);
    allNear((await values(`formula:principal_direction3(${tensor})`)).data, [3 * half, -3 * half, 0]);
    allNear((await values(`formula:length(principal_direction2(${tensor}))`)).data, [0]);
    allNear((await values(`formula:principal1(${tensor})`)).data, [5]);
  });
  it('know the time, the step and what the run was made with', async () => {
    allNear((await values('formula:time', 1)).data, [run.steps[1].time]);
    allNear((await values('formula:step * 10', 1)).data, [20]);
    expect(quantityField('formula:temperature * time', run)).toMatchObject({ components: 1 });
  });

  it('are made from each other', async () => {
    allNear((await values('gradient:formula:3 * temperature')).data, [3, 6, 9]);
    allNear((await values('formula:[gradient of temperature] ^ 2')).data, [14]);
  });
  it('say what a run lacks for them', () => {
    expect(lackingQuantity('formula:pressure * 2', run)).toMatch(/formula "pressure \* 2"/);
    expect(lackingQuantity('formula:2 +', run)).toMatch(/Not understood/);
    expect(lackingQuantity('curl:point:temperature', run)).toMatch(/it takes three components/);
    expect(lackingQuantity('formula:time', run)).toBeNull();
    expect(lackingQuantity('formula:time_min(temperature > 5000 ? time : none)', run)).toBeNull();
    expect(lackingQuantity('curl:point:heat', run)).toBe('point field "heat"');
    expect(lackingQuantity('amplitude:point:temperature', run)).toMatch(/complex quantity/);
    expect(lackingQuantity('fog:point:x', run)).toBe('quantity "fog:point:x"');
    for (const key of ['formula:temperature', 'gradient:point:temperature', 'swing:10:point:E_re'])
      expect(lackingQuantity(key, run)).toBeNull();
    expect(quantityField('curl:point:temperature', run)).toBeNull();
    expect(originOf({ field: 'amplitude:point:heat' }, { run, part: run.parts[0], step: 0 })).toBeNull();
    expect(ownName('formula:a:b')).toBe('a:b');
  });
  it('look at the mesh only when they must', () => {
    const at = { run, part: run.parts[0], step: 0 };
    const needs = (field: string): boolean => needsMesh(originOf({ field }, at)!);
    expect(
      ['point:temperature', 'amplitude:point:E_re', 'gradient:point:temperature', 'mesh:size'].map(needs),
    ).toEqual([false, false, true, true]);
  });
});

describe('ranges over the whole run', () => {
  it('serve one component over all steps or at one, of what files state and of what is made', async () => {
    const ranges = new Ranges(run, (question) => answerQuestion(run, question, arrays));
    expect(await ranges.rangeOf('point:temperature', 0, 1)).toMatchObject({ min: 30 });
    expect(await ranges.rangeOf('formula:temperature - 20', 0, 'all')).toMatchObject({ min: 0 });
    expect(await ranges.rangeOf('formula:temperature - 20', 0, 1)).toMatchObject({ min: 10 });
    const length = await ranges.rangeOf('gradient:point:temperature', 'magnitude', 'all');
    expect(length!.max).toBeCloseTo(Math.sqrt(14), 4);
    expect(await ranges.rangeOf('point:heat', 0, 'all')).toBeNull();
    expect(unmeasured(['formula:temperature - 20'], ranges.run)).toEqual([]);
  });
  it('give up when they are cancelled, and begin anew when asked again', async () => {
    let asked = 0;
    const ranges = new Ranges(run, async (question, signal) => {
      asked++;
      await new Promise((r) => setTimeout(r, 5));
      signal.throwIfAborted();
      return answerQuestion(run, question, arrays);
    });
    const cancel = new AbortController();
    const coming = ranges.rangeOf('mesh:size', 0, 'all', cancel.signal);
    cancel.abort(new Error('no longer wanted'));
    await expect(coming).rejects.toThrow('no longer wanted');
    expect(await ranges.rangeOf('mesh:size', 0, 'all')).not.toBeNull();
    expect(asked).toBe(2);
  });
  it('without somebody to ask leave unknown what no file states', async () => {
    const ranges = new Ranges(run, null);
    expect((await ranges.rangeOf('mesh:size', 0, 'all'))!.count).toBe(0);
    expect(await ranges.sharesOf('point:temperature#0')).toBeNull();
  });
  it('of equal shares are quantiles: below the k-th of a hundred lie k hundredths of all values', async () => {
    const found = await measureShares(run, 'cell:load', 0, arrays);
    expect(found).toHaveLength(101);
    const all = Array.from({ length: 64 }, (_, c) => c);
    for (const k of [10, 25, 50, 90]) {
      const below = all.filter((v) => v <= found[k]).length / 64;
      expect(Math.abs(below - k / 100)).toBeLessThan(1.01 / 64);
    }
    expect(found[0]).toBe(0);
    expect(found[100]).toBe(63);
    const ranges = new Ranges(run, (question) => answerQuestion(run, question, arrays));
    expect(await ranges.sharesOf('cell:load#0')).toEqual(found);
    expect(await measureShares(run, 'mesh:size', 0, arrays)).toHaveLength(2);
    expect(await measureShares(run, 'point:heat', 0, arrays)).toEqual([0, 1]);
  });
  it('tell how far they are', async () => {
    const told: number[] = [];
    await measureRange(run, 'formula:temperature', arrays, (p) => told.push(p));
    await measureShares(run, 'point:velocity', 'magnitude', arrays, (p) => told.push(p));
    expect(told[1]).toBe(1);
    expect(told.at(-1)).toBe(1);
    expect(told.slice(2)).toEqual([...told.slice(2)].sort((a, b) => a - b));
  });
  it('are those of quantities by key that a scene asks for', () => {
    const keys = ['formula:temperature * 2', 'formula:nonsense +', 'point:temperature'];
    expect(withQuantities(run, keys).fields).toHaveLength(run.fields.length + 1);
  });
});

describe('quantities over the steps', () => {
  // The temperature of the block rises by 10 from one step to the next, its velocity stays.
  it('are the mean, the extremes, the sum, the mean so far and the rate of each place', async () => {
    const plain = Array.from((await values('point:temperature')).data);
    const shifted = (by: number, times = 1): number[] => plain.map((v) => times * v + by);
    const near = async (key: string, step: number, wanted: number[]): Promise<void> =>
      allNear((await values(key, step)).data, wanted);
    await near('time-mean:point:temperature', 0, shifted(5));
    await near('time-maximum:point:temperature', 0, shifted(10));
    await near('time-minimum:point:temperature', 1, shifted(0));
    await near('step-sum:point:temperature', 0, shifted(10, 2));
    await near('running-mean:point:temperature', 0, shifted(0));
    await near('running-mean:point:temperature', 1, shifted(5));
    await near('time-rate:point:temperature', 0, [10]);
    await near(
      'time-rms:cell:load',
      0,
      Array.from({ length: 64 }, (_, c) => c),
    );
  });

  it('are of vectors their parts, and of extremes their length', async () => {
    expect((await values('time-mean:point:velocity')).components).toBe(3);
    const most = await values('time-maximum:point:velocity');
    const velocity = await values('point:velocity');
    expect(most.components).toBe(1);
    allNear(
      most.data,
      Array.from({ length: most.data.length }, (_, i) =>
        Math.hypot(velocity.data[3 * i], velocity.data[3 * i + 1], velocity.data[3 * i + 2]),
      ),
    );
  });

  it('are offered with their names and units, and have their ranges', async () => {
    const names = run.fields.map((f) => f.name);
    expect(names).toContain('time mean of temperature');
    expect(names).toContain('time rate of temperature');
    expect(fieldByKey(run, 'time-rate:point:temperature')?.components).toBe(1);
    const range = await measureRange(run, 'time-mean:point:temperature', arrays);
    expect(range.overall?.components[0]).toMatchObject({ min: 25, max: 31 });
    expect(lackingQuantity('time-mean:point:nothing', run)).toBe('point field "nothing"');
    const still = { ...run, steps: run.steps.slice(0, 1) };
    expect(lackingQuantity('time-mean:point:temperature', still)).toBe(
      'time mean of it: it has no more than one step of a kind',
    );
    expect(lackingQuantity('time-rate:point:temperature', still)).toBe(
      'time rate of it: it has no steps in time',
    );
  });

  it('are over load cases, modes and frequencies as well, each counted alike', async () => {
    const steps = [3, 50].map((time, i) => ({ index: i, time, kind: 'load case' as const, number: i + 1 }));
    const cases = withOfferedQuantities({
      ...run,
      steps,
      fields: run.fields.filter((f) => /^(?:point|cell):/.test(f.key)),
    });
    const names = cases.fields.map((f) => f.name);
    expect(names).toContain('maximum over load cases of temperature');
    expect(names).not.toContain('time rate of temperature');
    expect(lackingQuantity('time-rate:point:temperature', cases)).toMatch(/no steps in time/);
    const [part] = cases.parts;
    const on = { part: part.name, origin: run.origin, mesh: () => readStoredMesh(part.meshes[0], arrays) };
    const plain = (await values('point:temperature')).data;
    for (const [kind, by] of [
      ['time-maximum', 10],
      ['time-mean', 5],
    ] as const) {
      const origin = originOf({ field: `${kind}:point:temperature` }, { run: cases, part, step: 1 })!;
      const { data } = await quantityValues(origin, on, arrays);
      allNear(
        data,
        Array.from(plain, (v) => v + by),
      );
    }
    const modes = { ...cases, steps: steps.map((s) => ({ ...s, kind: 'mode' as const })) };
    expect(quantityField('time-maximum:point:temperature', modes)?.name).toBe(
      'maximum over modes of temperature',
    );
  });

  it('are the same at every step where they look at all of them, and computed once', () => {
    const [part] = run.parts;
    const idOf = (key: string, step: number): string => originOf({ field: key }, { run, part, step })!.id;
    for (const kind of ['time-mean', 'time-maximum', 'step-sum'])
      expect(idOf(`${kind}:point:temperature`, 0)).toBe(idOf(`${kind}:point:temperature`, 1));
    for (const kind of ['running-mean', 'time-rate'])
      expect(idOf(`${kind}:point:temperature`, 0)).not.toBe(idOf(`${kind}:point:temperature`, 1));
  });

  it('read one step after the other, and nothing ahead', async () => {
    const [part] = run.parts;
    const origin = originOf({ field: 'time-mean:point:temperature' }, { run, part, step: 0 })!;
    expect(origin.of).toHaveLength(2);
    expect([...arraysOfOrigin(origin)]).toEqual([]);
    let [held, most] = [0, 0];
    const counted = new ArraySource(async (ref) => {
      most = Math.max(most, ++held);
      await Promise.resolve();
      held--;
      return store.load(ref);
    });
    await quantityValues(
      origin,
      { part: part.name, origin: run.origin, mesh: async () => null as never },
      counted,
    );
    expect(most).toBe(1);
  });
});
