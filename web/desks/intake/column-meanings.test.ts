import { describe, expect, it } from 'vitest';
import type { PointsReading } from '#core/model/table-reading.ts';
import { meaningOf, meanings, startOf, withMeaning } from './column-meanings.ts';

const points: PointsReading = {
  as: 'points',
  x: 0,
  y: 1,
  z: 2,
  vectors: [{ name: 'velocity', columns: [3, 4, 5] }],
  diameter: 6,
  step: 7,
  id: null,
};
const all = (reading: Parameters<typeof meaningOf>[0], columns: number) =>
  Array.from({ length: columns }, (_, i) => meaningOf(reading, i));

describe('what columns mean', () => {
  it('is said for each, in words that are offered', () => {
    const said = all(points, 9);
    expect(said).toEqual([
      'x',
      'y',
      'z',
      'velocity x',
      'velocity y',
      'velocity z',
      'diameter',
      'step',
      'field',
    ]);
    for (const word of said) expect(meanings(points)).toContain(word);
  });
  it('changes one column at a time; axes that are needed change places', () => {
    expect(all(withMeaning(points, 1, 'x'), 3)).toEqual(['y', 'x', 'z']);
    expect(all(withMeaning(points, 8, 'z'), 9)).toEqual([
      'x',
      'y',
      'field',
      'velocity x',
      'velocity y',
      'velocity z',
      'diameter',
      'step',
      'z',
    ]);
    expect(meaningOf(withMeaning(points, 8, 'number'), 8)).toBe('number');
    expect(withMeaning(points, 6, 'field')).toMatchObject({ diameter: null });
    expect(withMeaning(points, 7, 'diameter')).toMatchObject({ diameter: 7, step: null });
  });
  it('takes vectors apart and puts others together', () => {
    expect(withMeaning(points, 4, 'field')).toMatchObject({ vectors: [] });
    expect(withMeaning(points, 5, 'field')).toMatchObject({
      vectors: [{ name: 'velocity', columns: [3, 4, null] }],
    });
    let next = withMeaning(points, 8, 'vector x');
    next = withMeaning(next, 9, 'vector y');
    next = withMeaning(next, 10, 'vector z');
    expect(next).toMatchObject({ vectors: [{ name: 'velocity' }, { name: 'vector', columns: [8, 9, 10] }] });
  });
  it('of histories and tables of runs is one column', () => {
    const columns = [{ numeric: false }, { numeric: true }, { numeric: true }];
    expect(startOf('history', columns)).toEqual({ as: 'history', time: 1 });
    expect(withMeaning({ as: 'history', time: 1 }, 2, 'time')).toEqual({ as: 'history', time: 2 });
    expect(startOf('runs', columns)).toEqual({ as: 'runs', file: 0 });
    expect(all(withMeaning({ as: 'runs', file: 0 }, 0, 'parameter'), 2)).toEqual(['parameter', 'parameter']);
    expect(startOf('points', columns)).toMatchObject({ x: 1, y: 2, z: null });
  });
});
