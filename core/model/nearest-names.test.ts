import { describe, expect, it } from 'vitest';
import { nearestNames } from './nearest-names.ts';

const names = ['temperature', 'wall temperature', 'velocity', 'velocity x', 'T', 'the', 'part', 'p'];

describe('names that may be meant', () => {
  it('are those that differ by a few letters, the nearest first', () => {
    expect(nearestNames('temprature', names)).toEqual(['temperature']);
    // Words of two letters are like too many others.
    expect(nearestNames('of iron', ['(off)', 'oven'])).toEqual([]);
    expect(nearestNames('velocty over everything', names)).toEqual(['velocity', 'velocity x']);
    expect(nearestNames('Velocityx', names)).toEqual(['velocity', 'velocity x']);
    expect(nearestNames('wall temprature over tins', names)[0]).toBe('wall temperature');
    expect(nearestNames('parts', names)).toEqual(['part']);
  });
  it('are none where too much is different, and never those of one or two letters', () => {
    expect(nearestNames('pressure', names)).toEqual([]);
    expect(nearestNames('q', names)).toEqual([]);
    expect(nearestNames('', names)).toEqual([]);
  });
});
