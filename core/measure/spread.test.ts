import { describe, expect, it } from 'vitest';
import { hexBlockBetween, seeded } from '../../tests/made-solids.ts';
import { VERTEX } from '../model/cell-types.ts';
import type { MeshField } from '../model/field.ts';
import type { Mesh } from '../model/mesh.ts';
import { sourceOf } from '../ops/chain/chain.ts';
import { isLacking } from './measure.ts';
import type { AnyMeasure } from './registry.ts';
import { deviation, percentile } from './spread.ts';

const grains = (count: number): Mesh => ({
  points: new Float32Array(3 * count),
  types: new Uint8Array(count).fill(VERTEX),
  offsets: Uint32Array.from({ length: count + 1 }, (_, i) => i),
  connectivity: Uint32Array.from({ length: count }, (_, i) => i),
});

function asked(
  measure: AnyMeasure,
  mesh: Mesh,
  location: 'point' | 'cell',
  values: number[],
  options: object,
) {
  const field: MeshField = { location, components: 1, axial: false, data: Float64Array.from(values) };
  const on = sourceOf(mesh, { origin: [0, 0, 0], part: '', fields: new Map([['f', field]]) });
  const whole = measure.schema.parse({ field: 'f', component: 0, ...options });
  const part = measure.ofPart(on, whole);
  const answer = isLacking(part) ? part : measure.answer(part, whole);
  return isLacking(answer) ? answer.lacking : answer.value;
}

describe('how values are spread', () => {
  it('over points is what a plain loop finds', () => {
    const random = seeded(4);
    const values = Array.from({ length: 200 }, () => 10 * random());
    const mean = values.reduce((a, b) => a + b, 0) / 200;
    const variance = values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / 200;
    expect(asked(deviation, grains(200), 'point', values, { what: 'variance' })).toBeCloseTo(variance, 9);
    expect(asked(deviation, grains(200), 'point', values, { what: 'deviation' })).toBeCloseTo(
      Math.sqrt(variance),
      9,
    );
  });

  it('percentiles of 1 to 10 are those of the definition', () => {
    // Hyndman and Fan, definition 5: the k-th of n values is the (k - 0.5) / n quantile.
    const values = [3, 1, 2, 5, 4, 7, 6, 10, 9, 8];
    const at = (percent: number) => asked(percentile, grains(10), 'point', values, { percent });
    expect([0, 5, 15, 50, 52, 95, 100].map(at)).toEqual([1, 1, 2, 5.5, expect.closeTo(5.7, 9), 10, 10]);
  });

  it('over cells goes by their size', () => {
    // A cell of one part and one of seven: an eighth of the volume is at 20.
    const small = hexBlockBetween(2, 0, 2);
    const values = Array.from(small.types, (_, c) => (c === 0 ? 20 : 60));
    expect(asked(deviation, small, 'cell', values, { what: 'variance' })).toBeCloseTo((7 / 64) * 40 ** 2, 4);
    expect(asked(percentile, small, 'cell', values, { percent: 50 })).toBe(60);
  });

  it('leaves out what has no value, and says where there is none', () => {
    const values = [1, Number.NaN, 3];
    expect(asked(deviation, grains(3), 'point', values, { what: 'deviation' })).toBe(1);
    const none = values.map(() => Number.NaN);
    expect(asked(percentile, grains(3), 'point', none, { percent: 50 })).toBe('value anywhere');
    expect(asked(deviation, grains(3), 'point', none, { what: 'variance' })).toBe('value anywhere');
  });
});
