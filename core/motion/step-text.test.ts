import { describe, expect, it } from 'vitest';
import { addSteps } from '../../engine/extend-run.ts';
import { importRun, localHost } from '../../engine/import-run.ts';
import { brickModes } from '../../tests/frd-text.ts';
import { importSteps, MemoryStore } from '../../tests/sample-run.ts';
import { buildVtu, hexBlock } from '../../tests/vtu-builder.ts';
import { openFile } from '../formats/registry.ts';
import { alongSteps } from '../model/along-steps.ts';
import type { ImportChoices, StepKind } from '../model/run.ts';
import { emptyPlan } from '../model/run-plan.ts';
import { sayStep, saySteps } from './step-text.ts';

const stamp = { style: 'decimals', decimals: 1, unit: null } as const;
const step = (kind: StepKind, time: number, number = 1) => ({ index: 0, kind, time, number });

describe('a step is spoken of as what it is', () => {
  it('each kind in its own words', () => {
    expect(sayStep(step('time', 12.5), 's', stamp)).toBe('t = 12.5 s');
    expect(sayStep(step('load case', 1, 2), 's', stamp)).toBe('load case 2');
    expect(sayStep(step('mode', 8059, 8), null, stamp)).toBe('mode 8, 8059 Hz');
    expect(sayStep(step('mode', 50_600, 8), 'rad/s', stamp)).toBe('mode 8, 50600 rad/s');
    expect(sayStep(step('frequency', 2450), 's', stamp)).toBe('2450 Hz');
    expect(sayStep(step('frame', 3, 4), null, stamp)).toBe('frame 4');
  });
  it('and curves over them are drawn along what they are', () => {
    expect(alongSteps([step('time', 0), step('time', 2.5)], 's')).toEqual({
      name: 'time',
      unit: 's',
      values: [0, 2.5],
    });
    expect(alongSteps([step('mode', 102, 1), step('mode', 8059, 2)], null)).toMatchObject({
      name: 'frequency',
      unit: 'Hz',
      values: [102, 8059],
    });
    // As the strip has it: the first frame is 1.
    expect(alongSteps([step('frame', 0, 1), step('frame', 1, 2)], 's')).toEqual({
      name: 'frame',
      unit: null,
      values: [1, 2],
    });
    expect(alongSteps([step('load case', 1, 1), step('mode', 102, 1)], null)).toMatchObject({
      name: 'step',
      values: [1, 2],
    });
  });
  it('and all of a run together', () => {
    expect(saySteps([step('time', 0)], 's')).toBe('one step');
    expect(saySteps([step('time', 0), step('time', 120)], 's')).toBe('2 steps, t = 0 to 120 s');
    expect(saySteps([step('load case', 1), step('mode', 102, 1), step('mode', 8059, 2)], null)).toBe(
      '1 load case, 2 modes, 102 to 8059 Hz',
    );
    expect(saySteps([step('frequency', 50)], null)).toBe('1 frequency, 50 Hz');
    expect(saySteps([step('frame', 0), step('frame', 1, 2)], null)).toBe('2 frames');
    expect(saySteps([], null)).toBe('no steps');
  });
});

describe('what the steps of a run are', () => {
  const modes = async (choices: ImportChoices = {}) => {
    const plan = emptyPlan('bracket');
    const bytes = new TextEncoder().encode(brickModes);
    plan.steps = [1, 3012.5, 8059].map((time, step) => ({
      time,
      files: [{ path: 'a.frd', part: null, piece: null, step }],
    }));
    const host = localHost({ open: () => openFile(bytes, 'a.frd'), sink: new MemoryStore() });
    return (await importRun(plan, choices, host)).run;
  };

  it('is said by structural results: a load case and modes by their numbers', async () => {
    const run = await modes();
    expect(run.steps.map((s) => sayStep(s, run.timeUnit, stamp))).toEqual([
      'load case 1',
      'mode 7, 3012.5 Hz',
      'mode 8, 8059 Hz',
    ]);
    expect(run.warnings.join()).not.toMatch(/times/);
  });
  it('is what the person says where the files do not say it', async () => {
    const run = await modes({ stepKind: 'frequency' });
    expect(run.steps.map((s) => [s.kind, s.number, s.time])).toEqual([
      ['frequency', 1, 1],
      ['frequency', 2, 3012.5],
      ['frequency', 3, 8059],
    ]);
  });
  it('is a frame where no times are stated, and counting goes on when steps are added', async () => {
    const plain = new Uint8Array(
      buildVtu(hexBlock(1), [], { format: 'ascii', header: 4, big: false, zlib: false }),
    );
    const steps = (n: number) => Array.from({ length: n }, () => ({ time: null, parts: { oven: plain } }));
    const { run } = await importSteps(steps(3));
    expect(run.steps.map((s) => sayStep(s, null, stamp))).toEqual(['frame 1', 'frame 2', 'frame 3']);
    expect(run.warnings.join()).toMatch(/counted as frames/);
    const grown = addSteps(run, (await importSteps(steps(1))).run);
    expect(grown.steps.map((s) => [s.index, s.kind, s.number])[3]).toEqual([3, 'frame', 4]);
    expect((await importSteps(steps(1))).run.steps[0].kind).toBe('time');
  });
  it('is not asked to rise but for times', async () => {
    const run = await modes({ stepKind: null });
    expect(run.steps.map((s) => s.time)).toEqual([1, 3012.5, 8059]);
    await expect(importSteps([2, 1].map((time) => ({ time, parts: { oven: vtuAt(time) } })))).rejects.toThrow(
      /do not follow each other in time/,
    );
  });
});

/** Two files that are no copies of each other. */
const vtuAt = (size: number): Uint8Array =>
  new Uint8Array(buildVtu(hexBlock(1, size), [], { format: 'ascii', header: 4, big: false, zlib: false }));
