import { describe, expect, it } from 'vitest';
import type { Mark } from '../model/mark.ts';
import { randomNumbers } from '../model/random-numbers.ts';
import { POINT_FIGURES, pointsCsv, pointsOfMarks } from './points-over-time.ts';

const positions = new Float32Array(30);
const dots = (...dots: number[]): Mark => ({ kind: 'dot', positions, dots: Uint32Array.from(dots) });
const balls = (...spheres: number[]): Mark => ({
  kind: 'sphere',
  positions,
  spheres: Uint32Array.from(spheres),
  radius: 1,
  radii: null,
  onPicture: false,
});

describe('the points of a line', () => {
  it('are counted and summed as a plain loop does, over all marks, each point once', () => {
    const number = randomNumbers(3);
    const [first, second] = [1, 2].map(() => Float32Array.from({ length: 10 }, () => 100 * number() - 20));
    const chosen = [0, 2, 3, 7, 9];
    const { points, values } = pointsOfMarks([dots(...chosen), balls(1, 4)], [first, second]);
    let [sum, low, high] = [0, Infinity, -Infinity];
    for (const v of [...chosen.map((i) => first[i]), second[1], second[4]]) {
      sum += v;
      low = Math.min(low, v);
      high = Math.max(high, v);
    }
    expect(points).toBe(7);
    expect(values!.sum).toBeCloseTo(sum, 9);
    expect(values).toMatchObject({ min: low, max: high, count: 7, nanCount: 0 });
    const row = { step: 0, points, values };
    expect(POINT_FIGURES.map(({ id, of }) => [id, of(row)])).toEqual([
      ['points', 7],
      ['sum', values!.sum],
      ['mean', values!.sum / 7],
      ['lowest', low],
      ['highest', high],
    ]);
  });
  it('count where they have no value, and without one have no mean', () => {
    const none = Float32Array.from({ length: 10 }, () => Number.NaN);
    const { points, values } = pointsOfMarks([balls(0, 1, 2)], [none]);
    expect([points, values!.nanCount, values!.sum]).toEqual([3, 3, 0]);
    expect(POINT_FIGURES[2].of({ step: 0, points, values })).toBeNull();
    expect(pointsOfMarks([balls(0, 1)], [null])).toEqual({ points: 2, values: null });
    expect(pointsOfMarks([], [])).toEqual({ points: 0, values: null });
  });
  it('are written as a table that other programs read', () => {
    const values = { min: 1, max: 3, sum: 6, count: 3, nanCount: 0 };
    const rows = [
      { step: 0, points: 3, values },
      { step: 1, points: 0, values: { ...values, sum: 0, count: 0 } },
    ];
    const time = { name: 'time', unit: 's', values: [0, 0.5] };
    expect(pointsCsv(rows, { name: 'mass, wet', unit: 'kg' }, time)).toBe(
      'step,time (s),points,"sum of mass, wet (kg)","mean of mass, wet (kg)","lowest of mass, wet (kg)","highest of mass, wet (kg)"\r\n' +
        '1,0,3,6,2,1,3\r\n2,0.5,0,0,,,\r\n',
    );
    expect(pointsCsv(rows, null, { ...time, unit: null })).toBe('step,time,points\r\n1,0,3\r\n2,0.5,0\r\n');
    expect(pointsCsv(rows, null, { name: 'step', unit: null, values: [1, 2] })).toBe(
      'step,points\r\n1,3\r\n2,0\r\n',
    );
  });
});
