import { expect, it } from 'vitest';
import { likelyName } from './likely-name.ts';

it.each([
  ['csp', ['id', 'type', 'c_csp', 'x'], 'c_csp'],
  ['Wall Shear', ['wall_shear', 'p'], 'wall_shear'],
  ['temperature', ['temp', 'T'], 'temp'],
  // Two that are alike are told by nobody.
  ['press', ['pressure', 'pressure_total'], null],
  // Single letters are within nearly everything.
  ['pressure', ['p', 'e'], null],
  ['steam', ['velocity'], null],
] as const)('a name that is not there may mean another: "%s" of %j', (name, others, likely) => {
  expect(likelyName(name, others)).toBe(likely);
});
