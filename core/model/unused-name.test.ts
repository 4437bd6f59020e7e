import { expect, it } from 'vitest';
import { unusedName } from './unused-name.ts';

const among =
  (...names: string[]) =>
  (name: string) =>
    names.includes(name);

it('a name that nothing has yet is the wanted one, or that with the first free number', () => {
  expect(unusedName('fan', among())).toBe('fan');
  expect(unusedName('fan', among('fan', 'fan 3'))).toBe('fan 2');
  expect(unusedName('fan', among('fan', 'fan 2', 'fan 3'))).toBe('fan 4');
  expect(unusedName('a.vtu', among('a.vtu'), (n) => `a (${n}).vtu`)).toBe('a (2).vtu');
});
