import { expect, it } from 'vitest';
import { componentNames } from './component-names.ts';

it('names that are components come together', () => {
  const said = (names: string[]) =>
    componentNames(names).map((g) => [g.name, g.columns.map((c) => names[c])]);
  expect(said(['DISPX', 'DISPY', 'DISPZ', 'T'])).toEqual([
    ['DISP', ['DISPX', 'DISPY', 'DISPZ']],
    ['T', ['T']],
  ]);
  expect(said(['s_zx', 's_xx', 's_yy', 's_zz', 's_xy', 's_yz'])[1]).toBeUndefined();
  expect(said(['VelocityX', 'VelocityY', 'Index'])).toEqual([
    ['Velocity', ['VelocityX', 'VelocityY']],
    ['Index', ['Index']],
  ]);
});
