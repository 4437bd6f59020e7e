import { describe, expect, it } from 'vitest';
import { fieldsOfCondition } from './condition.ts';
import { FormulaError, parseFormula } from './formula.ts';

const columns: Record<string, number[] | string[] | number> = {
  a: [1, 2, 3, 4],
  b: [4, 3, 2, 1],
  'wall shear': [0, 1, 0, 1],
  'v.x': [-1, 0, 1, 2],
  type: ['tetra', 'wedge', 'tetra', 'voxel'],
};
const run = (text: string) => Array.from(parseFormula(text).evaluate(4, (name) => columns[name] ?? null));

describe('formulas', () => {
  it.each([
    ['a + 2 * b ^ 2 - 1', [32, 19, 10, 5]],
    ['a > 1 and b > 1', [0, 1, 1, 0]],
    ['not (a > 1 and b > 1) or a = 2', [1, 1, 0, 1]],
    ['[wall shear] = 1', [0, 1, 0, 1]],
    ['v.x >= 0', [0, 1, 1, 1]],
    ['type == "tetra"', [1, 0, 1, 0]],
    ['type ≠ `tetra`', [0, 1, 0, 1]],
    ['max(a, b) - min(a, b)', [3, 1, 1, 3]],
    ['abs(-a) / sqrt(4) ≤ 1', [1, 1, 0, 0]],
    ['2 ^ 3 ^ 2 = 512 and -2 ^ 2 = -4', [1, 1, 1, 1]],
    ['1 < a <= 3', [0, 1, 1, 0]],
    ['2 a + 3(b - 1)', [11, 10, 9, 8]],
    ['!(a > 2)', [1, 1, 0, 0]],
    ['type = "te=tra" or a != 1', [0, 1, 1, 1]],
    ['-5 % 3', [-2, -2, -2, -2]],
    ['sin(pi / 2) + cos(0) - exp(0)', [1, 1, 1, 1]],
  ])('%s', (text, wanted) => expect(run(text)).toEqual(wanted));

  it.each([
    ['', /no condition yet/],
    ['a >', /Not understood/],
    ['a > 1, b > 2', /One condition/],
    ['sin(a', /Not understood/],
    ['melt(a)', /no function "melt"/],
    ['a && b', /use "and" and "or"/],
    ['this.constructor', /One condition|not known/],
    ['constructor(a)', /no function/],
    ['[1, 2]', /not known/],
    ['a ? 1 : 2', /One condition/],
    ['f(x) = 2', /no function "f"/],
    ['a; b', /One condition/],
    ['{a: 1}', /One condition/],
    ['a || b', /use "and" and "or"/],
    ['a["constructor"]', /One condition|not known|Not understood/],
    ['true', /neither a number/],
    ['5!', /Not understood/],
    ['1:3', /One condition/],
    ['a to b', /not understood/],
    ['import("x")', /no function/],
  ])('refuses %s with a reason', (text, reason) => {
    expect(() => run(text)).toThrow(FormulaError);
    expect(() => run(text)).toThrow(reason);
  });

  it('find their fields by name, component and part set, and name what is known', () => {
    const fields = [
      { key: 'point:velocity', name: 'velocity', components: 3 },
      { key: 'point:T [K]', name: 'T [K]', components: 1 },
    ];
    const found = fieldsOfCondition(
      parseFormula('velocity.y > 1 and velocity < 3 and T > x and tins = 1'),
      fields,
      ['tins'],
    );
    expect(Object.fromEntries(found)).toEqual({
      'velocity.y': { need: { field: 'point:velocity' }, component: 1 },
      velocity: { need: { field: 'point:velocity' }, component: 'magnitude' },
      T: { need: { field: 'point:T [K]' }, component: 0 },
      tins: { need: { field: 'set:tins' }, component: 0 },
    });
    expect(() => fieldsOfCondition(parseFormula('pressure > 1'), fields, [])).toThrow(
      /"pressure" is not known here. Known are velocity, T/,
    );
    const more = [...fields, { key: 'point:c_csp', name: 'c_csp', components: 1 }];
    expect(() => fieldsOfCondition(parseFormula('csp > 3'), more, [])).toThrow(
      /"csp" is not known here; "c_csp" may be meant. Known are/,
    );
  });
});
