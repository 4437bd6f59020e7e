import { describe, expect, it } from 'vitest';
import { fileName } from './file-name.ts';

describe('a name that every file system takes', () => {
  it.each([
    ['Warm oven', 'Warm-oven'],
    ['T at y = 0.4 m', 'T-at-y-0.4-m'],
    ['a/b\\c:d*e?"f<g>|h', 'a-b-c-d-e-f-g-h'],
    ['  spaced   out  ', 'spaced-out'],
    ['Öfen für Brötchen', 'Öfen-für-Brötchen'],
    ['パン', 'パン'],
    ['..', 'picture'],
    ['../../etc', 'etc'],
    ['.hidden', 'hidden'],
    ['ends with a dot.', 'ends-with-a-dot'],
    ['_kept_', '_kept'],
    ['NUL', 'NUL-'],
    ['com1', 'com1-'],
    ['console', 'console'],
    ['', 'picture'],
    ['🔥', 'picture'],
  ])('of "%s"', (name, file) => expect(fileName(name)).toBe(file));

  it('is no longer than systems take, and is not cut within a letter', () => {
    expect(fileName('x'.repeat(500))).toHaveLength(200);
    const long = fileName('パ'.repeat(200));
    expect(new TextEncoder().encode(long).length).toBeLessThanOrEqual(200);
    expect(long).toMatch(/^パ+$/);
    // Composed and decomposed letters make the same name.
    expect(fileName('O\u0308fen')).toBe(fileName('Öfen'));
  });
});
