import { describe, expect, it } from 'vitest';
import { cleanName, cleanText, cleanUnit, storable, UniqueNames } from './clean-text.ts';

describe('texts from files', () => {
  it('lose what cannot be read and keep the rest', () => {
    expect(cleanText('Wärme\0 Ø 温度')).toBe('Wärme Ø 温度');
    expect(cleanText('a\u202egnp.exe')).toBe('a gnp.exe');
    expect(cleanText('line\nbreak\tand\u001b[31m red')).toBe('line break and [31m red');
    expect(cleanText('\ud800half')).toBe('\ufffdhalf');
    expect(cleanText('whole 😀')).toBe('whole 😀');
  });
  it('have an end, which cuts no character in two', () => {
    expect(cleanText('x'.repeat(5000))).toHaveLength(200);
    expect(cleanText(`${'x'.repeat(198)}😀😀`, 200).endsWith('…')).toBe(true);
    expect(cleanText(`${'x'.repeat(198)}😀😀`, 200)).not.toMatch(/[\ud800-\udbff](?![\udc00-\udfff])/);
    expect(cleanUnit('u'.repeat(99))).toHaveLength(40);
    expect(cleanUnit('\0')).toBeNull();
  });
  it('give every thing a name of its own', () => {
    const names = new UniqueNames();
    expect(['T', 'T\0', 'T', '\0', ''].map((n) => names.of(n, 'field'))).toEqual([
      'T',
      'T (2)',
      'T',
      'field',
      'field (2)',
    ]);
    expect(cleanName('\u200b', 'part')).toBe('part');
  });
  it('can be kept by a database wherever they stand', () => {
    expect(storable({ 'k\0': ['a\0b', { '\ud800': 1 }], n: 2, d: null })).toEqual({
      k: ['ab', { '\ufffd': 1 }],
      n: 2,
      d: null,
    });
  });
});
