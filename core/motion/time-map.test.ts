import { describe, expect, it } from 'vitest';
import type { StepKind } from '../model/run.ts';
import { placeOf, placesOf, stateAt } from './time-map.ts';

const run = (kind: StepKind, ...times: number[]) => ({
  timeUnit: 's',
  steps: times.map((time, index) => ({ index, kind, time, number: index + 1 })),
});

describe('the time of a film leads to the steps of a run', () => {
  const places = placesOf(run('time', 0, 10, 15, 40));
  it.each([
    // place, step, share of the way on, and what is held
    [-5, 0, 0],
    [0, 0, 0],
    [2.5, 0, 0.25],
    [10, 1, 0],
    [12, 1, 0.4],
    [15, 2, 0],
    [39.75, 2, 0.99],
    [40, 3, 0],
    [99, 3, 0],
  ])('%s s is step %s and %s on', (place, step, onward) => {
    const made = stateAt(places, place, 'made');
    expect(made.step).toBe(step);
    expect(made.onward).toBeCloseTo(onward, 12);
    expect(stateAt(places, place, 'held')).toEqual({ step, onward: 0 });
    if (place >= 0 && place <= 40) expect(placeOf(places, made)).toBeCloseTo(place, 12);
  });
  it('without a remainder of rounding: what is at a step is there', () => {
    expect(stateAt(places, 15 - 1e-12, 'made')).toEqual({ step: 2, onward: 0 });
    expect(stateAt(places, 10 + 1e-12, 'held')).toEqual({ step: 1, onward: 0 });
    expect(stateAt(places, 10 - 1e-12, 'held')).toEqual({ step: 1, onward: 0 });
  });
  it('by their numbers where they have no times; between modes and load cases there is nothing', () => {
    const modes = placesOf(run('mode', 102, 8059, 9000));
    expect(modes).toEqual({ values: [1, 2, 3], unit: null, ofTime: false, blends: false });
    expect(stateAt(modes, 1.7, 'made')).toEqual({ step: 0, onward: 0 });
    const frames = placesOf(run('frame', 0, 1, 2));
    expect(stateAt(frames, 1.75, 'made')).toEqual({ step: 0, onward: 0.75 });
  });
});
