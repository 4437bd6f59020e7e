import { describe, expect, it } from 'vitest';
import { fieldsOfCondition } from '../condition.ts';
import { type Column, FormulaError, parseFormula } from './parse-formula.ts';

const columns: Record<string, Column> = {
  a: [1, 2, 3, 4],
  b: [4, 3, 2, 1],
  'wall shear': [0, 1, 0, 1],
  v: { data: [-1, 2, 2, 0, 0, 3, 1, 1, 0, 2, -2, 1], components: 3 },
  flat: { data: [3, 4, 0, 1, 6, 8, 0, 0], components: 2 },
  t: {
    data: [1, 2, 3, 4, 5, 6, 0, 0, 0, 1, 0, 0, 2, 2, 2, 0, 0, 0, 1, 1, 1, 1, 1, 1],
    components: 6,
  },
  type: ['tetra', 'wedge', 'tetra', 'voxel'],
};
const run = (text: string) =>
  // Zero has no sign here.
  Array.from(
    parseFormula(text, ['wall shear']).evaluate(4, (name) => columns[name] ?? null),
    (v) => v + 0,
  );

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
    ['wall shear * 2', [0, 2, 0, 2]],
    ['2 · a² − 1', [1, 7, 17, 31]],
    ['a > 2 ? a : -a', [-1, -2, 3, 4]],
    ['if(a > 2, v, -v).x', [1, 0, 1, 2]],
    ['v.magnitude + length(flat)', [8, 4, Math.SQRT2 + 10, 3]],
    ['v < 3', [0, 0, 1, 0]],
    ['dot(v, vector(1, 10, 100))', [219, 300, 11, 82]],
    ['cross(v, vector(0, 0, 1)).y', [1, 0, -1, -2]],
    ['(t * vector(1, 0, 0)).y', [4, 1, 0, 1]],
    ['trace(t) + t.yx', [10, 1, 6, 4]],
    ['dot(t, t)', [168, 2, 12, 9]],
    ['direction(v * 5).z', [2 / 3, 1, 0, 1 / 3]],
    ['log10(1000) + sign(-2)', [2, 2, 2, 2]],
    ['min(a, b, 2)', [1, 2, 2, 1]],
    ['1 / (a - 2)', [-1, Number.NaN, 1, 0.5]],
  ])('%s', (text, wanted) => expect(run(text)).toEqual(wanted.map(Math.fround)));

  it.each([
    ['', /Nothing stands here/],
    ['a >', /Not understood/],
    ['a > 1, b > 2', /One formula/],
    ['sin(a', /Not understood/],
    ['melt(a)', /no function "melt"/],
    ['a && b', /use "and" and "or"/],
    ['this.constructor', /not understood|not known/],
    ['constructor(a)', /no function/],
    ['[1, 2]', /not known/],
    ['v * v', /a vector.*dot\(v, v\) or cross\(v, v\)/],
    ['sqrt(v)', /length\(v\) or v\.x/],
    ['v + a', /a vector.*a number: they cannot be added/],
    ['v.xx', /has no .xx; it has .x .y .z/],
    ['type + 1', /a text.*a number/],
    ['type > 1', /a text can only be/],
    ['if(a, 1)', /takes 3, not 2/],
    ['gradient(a, b)', /takes one quantity/],
    ['f(x) = 2', /no function "f"/],
    ['a; b', /One formula/],
    ['{a: 1}', /One formula/],
    ['a || b', /use "and" and "or"/],
    ['a["constructor"]', /not understood/],
    ['true', /neither a number/],
    ['5!', /Not understood/],
    ['1:3', /One formula/],
    ['a to b', /not understood/],
    ['import("x")', /no function/],
  ])('refuses %s with a reason', (text, reason) => {
    expect(() => run(text)).toThrow(FormulaError);
    expect(() => run(text)).toThrow(reason);
  });

  it('find their fields by name, component and part set, and name what is known', () => {
    const fields = [
      { key: 'point:velocity', name: 'velocity', components: 3, unit: 'm/s' },
      { key: 'point:T [K]', name: 'T [K]', components: 1 },
    ];
    const found = fieldsOfCondition('velocity.y > 1 and velocity < 3 and T > x and tins = 1', fields, [
      'tins',
    ]);
    expect(Object.fromEntries(found)).toEqual({
      velocity: { need: { field: 'point:velocity' }, unit: 'm/s' },
      T: { need: { field: 'point:T [K]' }, unit: null },
      tins: { need: { field: 'set:tins' }, unit: '' },
    });
    expect(() => fieldsOfCondition('pressure > 1', fields, [])).toThrow(
      /"pressure" is not known here. Known are velocity, T/,
    );
    const more = [...fields, { key: 'point:c_csp', name: 'c_csp', components: 1 }];
    expect(() => fieldsOfCondition('csp > 3', more, [])).toThrow(
      /"csp" is not known here; "c_csp" may be meant. Known are/,
    );
  });
});
