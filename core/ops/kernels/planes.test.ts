import { describe, expect, it } from 'vitest';
import { hexBlock } from '../../../tests/vtu-builder.ts';
import { SentenceReader } from '../../language/sentence-reader.ts';
import type { Mesh } from '../../model/mesh.ts';
import { dot, unit, type Vector } from '../../model/vectors.ts';
import { sourceOf } from '../chain/chain.ts';
import type { Operation } from '../chain/operation.ts';
import { currentStep } from '../chain/step.ts';
import { plainContext } from '../chain/workpiece.ts';
import { clip } from '../clip.ts';
import { mirror } from '../mirror.ts';
import { section } from '../section.ts';
import { distanceAlong, movingRange, planeOfPoints, planeRange } from './planes.ts';

const setting = { lengthUnit: 'm', quantities: [] };

/** Reads the words after the name of the source. */
function read<O>({ phrase, schema }: Operation<O>, text: string): O {
  const into = {};
  const reader = new SentenceReader(text);
  expect(phrase.read(reader, into, setting) && reader.done, `${text}: ${reader.failure.expected}`).toBe(true);
  return schema.parse(into);
}

/** Distances of the points of a mesh from the origin along a direction: the smallest and the largest. */
function reach({ points }: Mesh, normal: readonly number[]): [number, number] {
  const n = unit(normal);
  const heights = Array.from({ length: points.length / 3 }, (_, i) =>
    dot(n, [points[3 * i], points[3 * i + 1], points[3 * i + 2]]),
  );
  return [Math.min(...heights), Math.max(...heights)];
}

const cube = () => sourceOf(hexBlock(3) as Mesh, plainContext([0, 0, 0]));

describe('a plane given by a direction of any length', () => {
  it.each([[[1, 1, 0]], [[0.5, 0.5, 0]], [[30, 30, 0]]])('%j lies at its distance', (normal) => {
    const options = section.schema.parse({ normal, offset: 0.5 });
    const [low, high] = reach(section.run(cube(), options).mesh, [1, 1, 0]);
    expect(low).toBeCloseTo(0.5, 6);
    expect(high).toBeCloseTo(0.5, 6);
  });
  it('keeps planes and slabs apart by their distance, too', () => {
    const two = section.schema.parse({ normal: [3, 0, 4], offset: 0.3, count: 2, spacing: 0.4 });
    const [low, high] = reach(section.run(cube(), two).mesh, [3, 0, 4]);
    expect([low, high].map((v) => Number(v.toFixed(6)))).toEqual([0.3, 0.7]);
    const slab = clip.schema.parse({ shape: 'slab', normal: [0, 0, 5], offset: 0.2, thickness: 0.35 });
    const between = reach(clip.run(cube(), slab).mesh, [0, 0, 1]);
    expect(between[0]).toBeCloseTo(0.2, 6);
    expect(between[1]).toBeCloseTo(0.55, 6);
    const image = mirror.schema.parse({ normal: [0, 2, 0], offset: 1.5, both: false });
    expect(reach(mirror.run(cube(), image).mesh, [0, 1, 0])).toEqual([2, 3]);
  });
  it('meets a box between its nearest and its farthest corner', () => {
    const [low, high] = planeRange([0, 2, 0, 2, 0, 2], [5, 5, 5]);
    expect(low).toBeCloseTo(0, 12);
    expect(high).toBeCloseTo(2 * Math.sqrt(3), 12);
  });
});

describe('the limits of moving a plane', () => {
  const options = { normal: [0, 0, 2], least: 0.5, most: null as number | null };
  it('hold where there are some, and else the box', () => {
    expect(movingRange([0, 1, 0, 1, 0, 2], options.normal, { low: 'least', high: 'most' }, options)).toEqual([
      0.5, 2,
    ]);
    expect(movingRange([0, 1, 0, 1, 0, 2], options.normal, {}, options)).toEqual([0, 2]);
  });
});

describe('the sentence of a plane', () => {
  it('keeps the direction as it is typed, and takes a point in place of the distance', () => {
    expect(read(section, ' across (1, 1, 0) at 0.212 m')).toMatchObject({ normal: [1, 1, 0], offset: 0.212 });
    const through = read(section, ' across (1, 1, 0) through (0.3, 0.1, 7) m');
    expect(through.normal).toEqual([1, 1, 0]);
    expect(through.offset).toBeCloseTo(0.4 / Math.SQRT2, 12);
    expect(read(mirror, ' at (0, 3, 4) through (9, 1, 1)').offset).toBeCloseTo(1.4, 12);
  });
  it('is said by the distance', () => {
    const options = read(section, ' across (1, 1, 0) through (0.5, 0.5, 0) m');
    const said = section.phrase.say(options, setting)!.map((piece) => piece.text);
    expect(said.join('')).toBe(' across (1, 1, 0) at 0.7071 m');
  });
});

describe('planes stored in the first form, with lengths counted in those of their normals', () => {
  const stored = (op: string, options: object) => ({
    op,
    options: options as Record<string, unknown>,
    off: false,
  });
  it('stay where they were', () => {
    for (const op of ['section', 'clip', 'mirror']) {
      const step = currentStep(stored(op, { normal: [1, 1, 0], offset: 0.6, spacing: 2 }));
      expect((step.options.offset as number) * Math.SQRT2).toBeCloseTo(0.6, 12);
      expect(step.options.normal).toEqual([1, 1, 0]);
    }
  });
  it('across an axis are the same numbers', () => {
    const step = currentStep(stored('section', { normal: [0, 0, 1], offset: 0.4, spacing: 0.1 }));
    expect(step.options).toMatchObject({ normal: [0, 0, 1], offset: 0.4, spacing: 0.1 });
  });
});

it('a plane of three points holds all of them', () => {
  const points: Vector[] = [
    [1, 0, 0],
    [0, 2, 0],
    [0, 0, 3],
  ];
  const plane = planeOfPoints(points[0], points[1], points[2])!;
  for (const point of points) expect(distanceAlong(plane.normal, point)).toBeCloseTo(plane.offset, 12);
  expect(planeOfPoints([0, 0, 0], [1, 1, 1], [2, 2, 2])).toBeNull();
});
