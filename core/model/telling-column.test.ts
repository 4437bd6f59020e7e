import { describe, expect, it } from 'vitest';
import { tellingColumn } from './telling-column.ts';

describe('the column that tells most', () => {
  it('is what came out of designs, not what was set', () => {
    const slots = [6, 6, 10, 10, 16, 16];
    const width = Float32Array.of(2, 4, 2, 4, 2, 4);
    const power = [11.2, 9.8, 14.1, 12.2, 19.7, 15.3];
    expect(tellingColumn([slots, width, power, power.map((p) => 2 * p)])).toBe(2);
  });
  it('is the first where all differ, and does not fail where there is none', () => {
    expect(tellingColumn([Float64Array.of(0, 1, 2), [5, 4, 3]])).toBe(0);
    expect(tellingColumn([])).toBe(0);
  });
});
