import { describe, expect, it } from 'vitest';
import { type CurveData, curveFrom, curvesCsv } from './curve-data.ts';
import { isSheet, rangeOfSheet, sheetAt, sheetOf } from './sheet.ts';

const time = { name: 'time', unit: 's' };
const way = { name: 'way along it', unit: 'm' };
const heat = { name: 'T', unit: 'K' };

const curve = (x: number[], of: (v: number) => number): CurveData =>
  curveFrom(way, heat, x, x.map(of), false);

const steps = [0, 1, 4];
const places = [0, 0.1, 0.5, 1];
/** 3 t + 2 s - t s: straight over steps and places, so that it is met exactly between them. */
const value = (t: number, s: number): number => 3 * t + 2 * s - t * s;
const made = sheetOf(
  steps.map((t) => curve(places, (s) => value(t, s))),
  time,
  steps,
);

describe('pictures over the steps', () => {
  it('keep the numbers of curves with the same places as they are', () => {
    expect(isSheet(made)).toBe(true);
    expect([...made.sheet.places]).toEqual(places);
    expect([...made.sheet.values]).toEqual(steps.flatMap((t) => places.map((s) => value(t, s))));
    expect([made.along, made.up, made.sheet.of]).toEqual([time, way, heat]);
    expect(rangeOfSheet(made.sheet)).toEqual([0, 12]);
  });

  it('are met straight between steps and places, and nowhere beyond', () => {
    for (const [t, s] of [
      [0, 0],
      [0.25, 0.3],
      [2.5, 0.75],
      [4, 1],
    ])
      expect(sheetAt(made, t, s)).toBeCloseTo(value(t, s), 12);
    for (const [t, s] of [
      [-0.1, 0.5],
      [4.1, 0.5],
      [1, -0.01],
      [1, 1.01],
      [Number.NaN, 0.5],
    ])
      expect(sheetAt(made, t, s)).toBeNaN();
  });

  it('put curves with places of their own onto common ones, as fine as the finest', () => {
    const own = sheetOf(
      [curve([0, 0.5, 2], (s) => s), curve([0.5, 1, 1.5, 2, 3], (s) => 2 * s)],
      time,
      [0, 1],
    );
    const all = [...own.sheet.places];
    expect([all.length, all[0], all.at(-1)]).toEqual([5, 0, 3]);
    expect(sheetAt(own, 0, 1.5)).toBeCloseTo(1.5, 12);
    expect(sheetAt(own, 1, 1.5)).toBeCloseTo(3, 12);
    // One curve ends at 2, the other begins at 0.5.
    expect(sheetAt(own, 0, 2.5)).toBeNaN();
    expect(sheetAt(own, 1, 0.25)).toBeNaN();
  });

  it('come in the order of their steps, with gaps where a step has no curve', () => {
    const mixed = sheetOf([curve([0, 1], () => 7), null, curve([0, 1], () => 5)], time, [2, 1, 0]);
    expect([...mixed.x]).toEqual([0, 1, 2]);
    expect([...mixed.sheet.values]).toEqual([5, 5, Number.NaN, Number.NaN, 7, 7]);
    expect(sheetAt(mixed, 0, 0.5)).toBe(5);
    expect(sheetAt(mixed, 0.5, 0.5)).toBeNaN();
    expect(sheetAt(mixed, 2, 0.5)).toBe(7);
  });

  it('say what they cannot be made of', () => {
    expect(() => sheetOf([null, null], time, [0, 1])).toThrow('no step with a curve');
    expect(() => sheetOf([curve([1], () => 1)], time, [0])).toThrow('needs curves');
  });

  it('are written as a table of their places, a column a step, beside other curves', () => {
    const own = sheetOf([curve([0, 1], () => 1), curve([0, 1], (s) => s)], time, [0, 2]);
    const beside = curveFrom(time, { name: 'a', unit: null }, [0, 2], [8, 9], true);
    expect(
      curvesCsv([
        { name: 'T', data: own },
        { name: 'a', data: beside },
      ]),
    ).toBe('time [s],a,way along it [m],T at time 0 s [K],T at time 2 s [K]\n0,8,0,1,0\n2,9,1,1,1\n');
  });
});
