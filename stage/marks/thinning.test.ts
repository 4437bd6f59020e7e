import type { DataTexture, RawShaderMaterial } from 'three';
import { describe, expect, it } from 'vitest';
import { shuffled } from '#core/model/random-numbers.ts';
import { dotPainter } from './dot.ts';
import { PartLook } from './look.ts';
import type { PaintedMark } from './painter.ts';
import { spherePainter } from './sphere.ts';

const n = 40_000;
const all = Uint32Array.from({ length: n }, (_, i) => i);
// Along a line, so that a part of the list would be a part of the line.
const positions = Float32Array.from({ length: 3 * n }, (_, i) => (i % 3 === 0 ? i / (3 * n) : 0));
const spheres = spherePainter.paint(
  { kind: 'sphere', positions, spheres: all, radius: 0.01, radii: null, onPicture: false },
  new PartLook(),
  {},
);

/** Where the middles lie that are drawn, as the tables on the card tell it. */
function middles(mark: PaintedMark): number[] {
  const [{ object, count, narrow }] = mark.drawn;
  narrow(0, count);
  const { uPicks, uPlaces } = (object.material as RawShaderMaterial).uniforms;
  const numbers = ({ value }: { value: DataTexture }) => value.image.data as unknown as ArrayLike<number>;
  const [picks, places] = [numbers(uPicks as never), numbers(uPlaces as never)];
  return Array.from({ length: count }, (_, i) => places[4 * picks[i]]);
}

describe('things of which some stand for all', () => {
  it('are taken from all over, and all come back', () => {
    spheres.thin!(0.2);
    const some = middles(spheres);
    expect(some.length / n).toBeCloseTo(0.2, 5);
    expect(spheres.casters.map((c) => c.count)).toEqual([some.length]);
    // Evenly by chance over ten stretches of the line: each count within five standard deviations.
    const counts = new Array(10).fill(0);
    for (const x of some) counts[Math.floor(10 * x)]++;
    for (const count of counts)
      expect(Math.abs(count - some.length / 10)).toBeLessThan(5 * Math.sqrt(some.length / 10));
    spheres.thin!(1);
    const back = middles(spheres).sort((a, b) => a - b);
    expect(back).toHaveLength(n);
    expect(new Set(back).size).toBe(n);
  });
  it('leave something of everything, however little time there is', () => {
    spheres.thin!(1e-9);
    expect(middles(spheres).length).toBeGreaterThan(100);
  });
  it('are dots too, but few are all drawn', () => {
    const dots = (count: number): PaintedMark =>
      dotPainter.paint({ kind: 'dot', positions, dots: all.subarray(0, count) }, new PartLook(), {});
    const [many, few] = [dots(n), dots(100)];
    for (const mark of [many, few]) mark.thin!(0.25);
    expect(many.drawn[0].count).toBe(n / 4);
    expect(few.drawn[0].count).toBe(100);
  });
  it('are the same ones every time', () => {
    expect(shuffled(all)).toEqual(shuffled(all));
    expect(shuffled(all)).not.toEqual(all);
    expect([...shuffled(all)].sort((a, b) => a - b)).toEqual([...all]);
  });
});
