import type { DataTexture, Mesh, RawShaderMaterial } from 'three';
import { describe, expect, it, vi } from 'vitest';
import { shuffled } from '#core/model/random-numbers.ts';
import { dotPainter } from './dot.ts';
import { PartLook } from './look.ts';
import type { PaintedMark } from './painter.ts';
import { spherePainter } from './sphere.ts';
import { surfacePainter } from './surface.ts';

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

describe('a large surface', () => {
  /** A flat sheet of two triangles for each of n x n squares. */
  const sheet = (n: number): PaintedMark => {
    const places = Float32Array.from({ length: 3 * (n + 1) ** 2 }, (_, i) => {
      const [vertex, axis] = [Math.floor(i / 3), i % 3];
      return axis === 0 ? vertex % (n + 1) : axis === 1 ? Math.floor(vertex / (n + 1)) : 0;
    });
    const triangles = new Uint32Array(6 * n ** 2);
    for (let j = 0, t = 0; j < n; j++)
      for (let i = 0; i < n; i++, t += 6) {
        const [a, b] = [j * (n + 1) + i, (j + 1) * (n + 1) + i];
        triangles.set([a, a + 1, b + 1, a, b + 1, b], t);
      }
    const mark = {
      kind: 'surface',
      positions: places,
      normals: new Float32Array(places.length),
      triangles,
      shades: null,
      edges: new Uint32Array(),
    } as unknown as Parameters<typeof surfacePainter.paint>[0];
    return surfacePainter.paint(mark, new PartLook(), {});
  };
  const counts = (mark: PaintedMark): number[] => [...mark.drawn, ...mark.casters].map((d) => d.count);

  it('has fewer triangles that stand for it while that is wanted, and all after that', async () => {
    const mark = sheet(500);
    // They have to be made first.
    expect(mark.coarser!(true)).toBe(false);
    expect(mark.drawn[0].count).toBe(500_000);
    await vi.waitFor(() => expect(mark.coarser!(true)).toBe(true), { timeout: 20_000 });
    const [seen] = mark.drawn;
    expect(seen.count).toBeGreaterThan(10_000);
    expect(seen.count).toBeLessThanOrEqual(40_000);
    const { geometry } = seen.object as Mesh;
    expect(geometry.index!.count).toBe(3 * seen.count);
    seen.narrow(10, 30);
    expect(geometry.drawRange).toEqual({ start: 30, count: 60 });
    expect(mark.coarser!(false)).toBe(false);
    expect(new Set(counts(mark))).toEqual(new Set([500_000]));
    // The values are those of the same vertices.
    expect((mark.drawn[0].object as Mesh).geometry.attributes).toEqual(geometry.attributes);
    mark.dispose();
  });
  it('is left as it is where it is not that large', () => {
    expect(sheet(20).coarser).toBeUndefined();
  });
});
