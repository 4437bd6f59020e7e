import { expect, test } from 'vitest';
import { roundStep } from './round-step.ts';

test('a step is one, two or five of a power of ten, and never smaller than asked', () => {
  expect([0.3, 1, 1.1, 2, 3, 5, 5.1, 9.9, 10, 430].map(roundStep)).toEqual([
    0.5, 1, 2, 2, 5, 5, 10, 10, 10, 500,
  ]);
});
