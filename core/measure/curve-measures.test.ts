import { describe, expect, it } from 'vitest';
import { hexBlockBetween } from '../../tests/made-solids.ts';
import { cubesOfEveryKind } from '../../tests/mesh-checks.ts';
import type { MeshField } from '../model/field.ts';
import type { Mesh } from '../model/mesh.ts';
import { runChain, sourceOf } from '../ops/chain/chain.ts';
import { probeCircle } from '../ops/probe-circle.ts';
import { probeLine } from '../ops/probe-line.ts';
import { histogram } from './histogram.ts';
import { type Answer, isLacking } from './measure.ts';
import { profile } from './profile.ts';
import type { AnyMeasure } from './registry.ts';
import { scatter } from './scatter.ts';

type Of = (x: number, y: number, z: number) => number;

const pointField = (mesh: Mesh, of: Of): MeshField => ({
  location: 'point',
  components: 1,
  axial: false,
  data: Float64Array.from({ length: mesh.points.length / 3 }, (_, i) =>
    of(mesh.points[3 * i], mesh.points[3 * i + 1], mesh.points[3 * i + 2]),
  ),
});

const on = (mesh: Mesh, fields: Record<string, Of>, origin: [number, number, number] = [0, 0, 0]) =>
  sourceOf(mesh, {
    origin,
    part: '',
    fields: new Map(Object.entries(fields).map(([name, of]) => [name, pointField(mesh, of)])),
  });

function asked(measure: AnyMeasure, input: ReturnType<typeof on>, options: object): Answer {
  const whole = measure.schema.parse({ field: 'f', component: 0, ...options });
  const part = measure.ofPart(input, whole);
  if (isLacking(part)) throw new Error(part.lacking);
  const answer = measure.answer(part, whole);
  if (isLacking(answer)) throw new Error(answer.lacking);
  return answer;
}

const along = (input: ReturnType<typeof on>, places: number[][], count = 21) =>
  runChain(input, [{ op: probeLine.id, options: { places, count }, off: false, id: 'a' }]);

const linear: Of = (x, y, z) => 1 + 2 * x - 3 * y + 5 * z;

describe('profiles along probe lines', () => {
  // A linear field is met exactly wherever the line goes, in cells of every type.
  it.each(Object.entries(cubesOfEveryKind()))('meet a linear field as it is in a %s', (_, mesh) => {
    const line = along(on(mesh, { f: linear }), [
      [0.05, 0.1, 0.2],
      [0.9, 0.8, 0.7],
    ]);
    const { curve, value } = asked(profile, line, {});
    expect(value).toBeCloseTo(Math.hypot(0.85, 0.7, 0.5), 4);
    expect(curve!.x).toHaveLength(21);
    for (const [i, v] of curve!.y.entries()) {
      const t = i / 20;
      expect(v).toBeCloseTo(linear(0.05 + 0.85 * t, 0.1 + 0.7 * t, 0.2 + 0.5 * t), 4);
    }
  });

  it('go around corners, over a coordinate, where the run has an origin', () => {
    const bent = along(on(hexBlockBetween(4, 0, 1), { f: linear }, [10, 0, 0]), [
      [10.1, 0.5, 0.5],
      [10.9, 0.5, 0.5],
      [10.9, 0.9, 0.5],
    ]);
    const over = asked(profile, bent, { by: 'x' });
    expect(over.value).toBeCloseTo(1.2, 4);
    expect(over.curve!.x[0]).toBeCloseTo(10.1, 5);
    expect(Math.max(...over.curve!.x)).toBeCloseTo(10.9, 5);
    expect(asked(profile, bent, {}).curve!.x.at(-1)).toBeCloseTo(1.2, 4);
  });

  it('go around a circle, from part to part of a field as it is', () => {
    const radius = 0.3;
    const circle = runChain(on(hexBlockBetween(6, 0, 1), { f: linear }, [10, 0, 0]), [
      {
        op: probeCircle.id,
        options: { centre: [10.5, 0.5, 0.5], radius, normal: [0, 0, 2], count: 90 },
        off: false,
        id: 'a',
      },
    ]);
    const { curve, value } = asked(profile, circle, {});
    // By hand: the perimeter of a polygon of 90 sides; over it x and y go as cosine and sine, in some order of the turn.
    expect(value).toBeCloseTo(90 * 2 * radius * Math.sin(Math.PI / 90), 4);
    const middle = linear(0.5, 0.5, 0.5);
    const most = radius * Math.hypot(2, 3);
    expect(Math.max(...curve!.y)).toBeCloseTo(middle + most, 2);
    expect(Math.min(...curve!.y)).toBeCloseTo(middle - most, 2);
    // It ends where it began.
    expect(curve!.y.at(-1)).toBeCloseTo(curve!.y[0], 5);
    // Over the angle it rises from one end to the other, from +x towards +y.
    const over = asked(profile, circle, { by: 'angle' }).curve!;
    expect(over.x).toHaveLength(91);
    expect(over.x[90] - over.x[0]).toBeCloseTo(360, 3);
    for (const [i, degrees] of over.x.entries()) {
      if (i > 0) expect(degrees - over.x[i - 1]).toBeCloseTo(4, 2);
      const angle = (degrees * Math.PI) / 180;
      const [x, y] = [0.5 + radius * Math.cos(angle), 0.5 + radius * Math.sin(angle)];
      expect(over.y[i]).toBeCloseTo(linear(x, y, 0.5), 2);
    }
  });

  it('over the angle are those of an arc as well, around any axis, and of nothing on what is straight', () => {
    // An arc of half a turn around −y leaves the block at both ends.
    const arc = runChain(on(hexBlockBetween(6, 0, 1), { f: linear }), [
      {
        op: probeCircle.id,
        options: { centre: [0.5, 0.5, 0], radius: 0.3, normal: [0, -1, 0], count: 72 },
        off: false,
        id: 'a',
      },
    ]);
    const { x, y } = asked(profile, arc, { by: 'angle' }).curve!;
    const seen = x.filter((_, i) => !Number.isNaN(y[i]));
    expect(seen.every((v, i) => i === 0 || v >= seen[i - 1])).toBe(true);
    for (const [i, degrees] of x.entries()) {
      if (Number.isNaN(y[i])) continue;
      // Around +y from +x towards −z.
      const angle = (degrees * Math.PI) / 180;
      const [px, pz] = [0.5 + 0.3 * Math.cos(angle), -0.3 * Math.sin(angle)];
      expect(y[i]).toBeCloseTo(linear(px, 0.5, pz), 2);
    }
    const straight = along(on(hexBlockBetween(2, 0, 1), { f: linear }), [
      [0.1, 0.5, 0.5],
      [0.9, 0.5, 0.5],
    ]);
    expect(asked(profile, straight, { by: 'angle' }).curve!.x.every(Number.isNaN)).toBe(true);
  });

  it('leave a gap where there is no cell, and say where there is no line', () => {
    const out = along(on(hexBlockBetween(2, 0, 1), { f: linear }), [
      [-0.5, 0.5, 0.5],
      [1.5, 0.5, 0.5],
    ]);
    expect(asked(profile, out, {}).value).toBeCloseTo(1, 4);
    expect(out.report()).toMatchObject({ kept: 11, of: 21, what: 'points' });
    const nowhere = along(on(hexBlockBetween(2, 0, 1), { f: linear }), [
      [5, 5, 5],
      [6, 5, 5],
    ]);
    expect(() => asked(profile, nowhere, {})).toThrow('line there');
    expect(() => asked(profile, on(hexBlockBetween(2, 0, 1), { f: linear }), {})).toThrow(/line to go along/);
  });
});

describe('histograms', () => {
  it('sum to the volume, and are even for what rises evenly', () => {
    const { value, curve } = asked(histogram, on(hexBlockBetween(10, 0, 1), { f: (x) => x }), { bins: 5 });
    expect(value).toBeCloseTo(1, 5);
    expect(curve!.x.map((v) => +v.toFixed(6))).toEqual([0, 0.2, 0.4, 0.6, 0.8, 1]);
    expect(curve!.y.slice(0, 5).reduce((a, b) => a + b)).toBeCloseTo(1, 5);
    expect(curve!.bars).toBe(true);
  });

  it('of one value have it in one bar', () => {
    const { curve } = asked(histogram, on(hexBlockBetween(2, 0, 1), { f: () => 3 }), { bins: 4 });
    expect(curve!.y.filter((v) => v > 0)).toHaveLength(1);
  });
});

describe('scatters', () => {
  it('have a dot for each point, and of very many some', () => {
    const both = on(hexBlockBetween(3, 0, 1), { f: linear, g: (x) => x * x });
    const { value, curve } = asked(scatter, both, { over: { field: 'g', component: 0 } });
    expect(value).toBe(64);
    expect(curve).toMatchObject({ scattered: true });
    for (const [i, x] of curve!.x.entries()) expect(x).toBeGreaterThanOrEqual(0 * i);
    const many = on(hexBlockBetween(22, 0, 1), { f: linear, g: linear });
    const thin = asked(scatter, many, { over: { field: 'g', component: 0 } });
    expect(thin.value).toBe(23 ** 3);
    expect(thin.curve!.x).toHaveLength(8000);
    expect(thin.curve!.x).toEqual(thin.curve!.y);
  });

  it('say what is lacking', () => {
    const part = scatter.ofPart(
      on(hexBlockBetween(1, 0, 1), { f: linear }),
      scatter.schema.parse({ field: 'f', component: 0, over: { field: 'point:g', component: 0 } }),
    );
    expect(part).toEqual({ lacking: 'g' });
  });
});
