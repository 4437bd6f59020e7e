import { expect, test } from 'vitest';
import type { RunStep } from '../model/run.ts';
import { likeStep } from './like-step.ts';

const steps = (times: number[], kind: RunStep['kind'] = 'time') => ({
  timeUnit: 's' as string | null,
  steps: times.map((time, index) => ({ index, time, kind, number: index + 1 })),
});

test('the nearest in time, whatever the unit', () => {
  const [seconds, minutes] = [steps([0, 30, 60, 90]), { ...steps([0, 1, 2]), timeUnit: 'min' }];
  expect([0, 1, 2, 3].map((i) => likeStep(seconds, i, minutes))).toEqual([0, 0, 1, 1]);
  expect([0, 1, 2].map((i) => likeStep(minutes, i, seconds))).toEqual([0, 2, 3]);
  expect(likeStep({ ...seconds, timeUnit: null }, 3, steps([0, 89, 200]))).toBe(1);
});

test('without times that of the same place in order, and none from a single state', () => {
  expect(likeStep(steps([1, 2, 3], 'load case'), 2, steps([1, 2], 'load case'))).toBe(1);
  expect(likeStep(steps([5]), 0, steps([0, 5]))).toBeNull();
});
