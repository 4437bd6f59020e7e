import { describe, expect, it } from 'vitest';
import { operationById } from '../registry.ts';
import { currentStep, newStep } from './step.ts';
import { understood, understoodSteps, whyNotUnderstood } from './understood.ts';

describe('a step of a chain', () => {
  /** An operation whose options were once one number, then a length in millimetres, and are metres now. */
  const grown = {
    ...operationById('section'),
    id: 'grown',
    version: 3,
    migrations: {
      1: (old: Record<string, unknown>) => ({ millimetres: old.at }),
      2: ({ millimetres }: Record<string, unknown>) => ({ metres: (millimetres as number) / 1000 }),
    },
  };
  it('is brought to the form of now from any older one, once', () => {
    const now = { op: 'grown', options: { metres: 0.4 }, off: true, version: 3 };
    expect(currentStep({ op: 'grown', options: { at: 400 }, off: true }, [grown])).toEqual(now);
    expect(
      currentStep({ op: 'grown', options: { millimetres: 400 }, off: true, version: 2 }, [grown]),
    ).toEqual(now);
    expect(currentStep(now, [grown])).toBe(now);
  });
  it('has options that came later at their usual values', () => {
    const old = { op: 'spheres', options: { radius: 0.2 }, off: false };
    expect(currentStep(old).options).toEqual({
      radius: 0.2,
      measured: 'model',
      share: 0.004,
      field: '',
      component: 0,
      scale: 'largest',
      factor: 1,
    });
    expect(currentStep(currentStep(old))).toEqual(currentStep(old));
    const unfit = { op: 'spheres', options: { radius: -1 }, off: false };
    expect(currentStep(unfit)).toBe(unfit);
    expect(understoodSteps([{ ...old, id: 'a' }])[0].options).toMatchObject({ field: '' });
  });
  it('of a newer version, or of an operation nobody knows, stays as it is', () => {
    for (const step of [
      { op: 'grown', options: { miles: 1 }, version: 4 },
      { op: 'melt', options: { at: 1 } },
    ])
      expect(currentStep(step, [grown])).toBe(step);
    const newer = { ...newStep(operationById('section'), { normal: [0, 0, 1], offset: 0 }), version: 9 };
    expect(understood(newer)).toBeNull();
    expect(whyNotUnderstood(newer)).toBe('“Section” was written by a newer version.');
  });
  it('is written with its form from the second form on', () => {
    expect(newStep(grown, {})).toEqual({ op: 'grown', options: {}, off: false, version: 3 });
    expect(newStep(operationById('surface'), {})).toEqual({ op: 'surface', options: {}, off: false });
  });
});
