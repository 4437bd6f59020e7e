import { describe, expect, it } from 'vitest';
import {
  placeOfTime,
  rulerStep,
  sayFilmTime,
  snapped,
  timeOfPlace,
  timeScale,
  zoomedAt,
} from './time-scale.ts';

const all = { zoom: 1, left: 0 };

describe('the time along the lanes', () => {
  it('shows all of the film with room on both sides, and leads back', () => {
    const scale = timeScale(10, 520, all);
    expect(placeOfTime(scale, 0)).toBeCloseTo(10, 9);
    expect(placeOfTime(scale, 10)).toBeCloseTo(510, 9);
    for (const t of [0, 3.3, 10]) expect(timeOfPlace(scale, placeOfTime(scale, t))).toBeCloseTo(t, 12);
  });
  it('comes nearer to a time, which keeps its place, and never shows beyond the film', () => {
    const at = 6;
    const near = zoomedAt(all, 10, at, 4);
    expect(near.zoom).toBe(4);
    expect(placeOfTime(timeScale(10, 520, near), at)).toBeCloseTo(
      placeOfTime(timeScale(10, 520, all), at),
      9,
    );
    expect(zoomedAt(near, 10, at, 0.01)).toEqual(all);
    const end = zoomedAt({ zoom: 4, left: 7.5 }, 10, 10, 2);
    expect(end.left + 10 / end.zoom).toBeLessThanOrEqual(10 + 1e-9);
    expect(timeScale(10, 520, { zoom: 2, left: 99 }).left).toBeCloseTo(5 - 10 / 100, 9);
  });
  it('has marks at round times, no nearer than asked', () => {
    const step = (seconds: number, zoom = 1) => rulerStep(timeScale(seconds, 520, { zoom, left: 0 }), 60);
    expect(step(10)).toBe(2);
    expect(step(10, 40)).toBe(0.05);
    expect(step(120)).toBe(15);
    expect(step(600)).toBe(120);
  });
  it('is said in seconds, and in minutes from one on', () => {
    expect(sayFilmTime(2.4)).toBe('2.40');
    expect(sayFilmTime(2, 1)).toBe('2');
    expect(sayFilmTime(65, 0.1)).toBe('1:05.0');
    expect(sayFilmTime(125, 5)).toBe('2:05');
  });
  it('snaps to the nearest time that is near enough', () => {
    expect(snapped(2.04, [0, 2, 2.1, 5], 0.1)).toBe(2);
    expect(snapped(2.07, [0, 2, 2.1, 5], 0.1)).toBe(2.1);
    expect(snapped(3, [0, 2, 2.1, 5], 0.1)).toBe(3);
  });
});
