import { describe, expect, it } from 'vitest';
import { stepsOfStretch, stretchAround, stretchOfSteps } from './stretch.ts';

const places = [0, 1, 2, 4, 8, 16];
const whole = { from: 1, to: null };

describe('the stretch of the steps', () => {
  it('is all of them unless it is set, and goes on with a longer run', () => {
    expect(stepsOfStretch(whole, 6)).toEqual({ first: 0, last: 5 });
    expect(stretchOfSteps(2, 5, 6)).toEqual({ from: 3, to: null });
    expect(stepsOfStretch({ from: 3, to: null }, 9)).toEqual({ first: 2, last: 8 });
    expect(stepsOfStretch(stretchOfSteps(1, 3, 6), 6)).toEqual({ first: 1, last: 3 });
  });

  it('is cut to a shorter run, and all of one it lies beyond', () => {
    expect(stepsOfStretch({ from: 2, to: 9 }, 4)).toEqual({ first: 1, last: 3 });
    expect(stepsOfStretch({ from: 7, to: 9 }, 4)).toEqual({ first: 0, last: 3 });
  });

  it('is drawn in around a place, and out to all of the steps', () => {
    let now = stretchAround(whole, places, 2, 0.5);
    expect(stepsOfStretch(now, 6)).toEqual({ first: 1, last: 4 });
    now = stretchAround(now, places, 2, 0.5);
    expect(stepsOfStretch(now, 6)).toEqual({ first: 1, last: 3 });
    for (let i = 0; i < 20; i++) now = stretchAround(now, places, 2, 0.5);
    const { first, last } = stepsOfStretch(now, 6);
    expect(last - first).toBe(1);
    // Hardly at all is by one step, at the end that is farther away.
    expect(stretchAround(whole, places, 2, 0.99)).toEqual({ from: 1, to: 5 });
    for (let i = 0; i < 20; i++) now = stretchAround(now, places, 2, 1.1);
    expect(now).toEqual(whole);
  });
});
