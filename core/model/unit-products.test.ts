import { unit as libraryUnit } from 'mathjs';
import { describe, expect, it } from 'vitest';
import { unitProduct } from './unit-products.ts';

describe('units of products', () => {
  it.each([
    [
      'm³/s',
      [
        ['m/s', 1],
        ['m', 2],
      ],
    ],
    [
      '°C·m³',
      [
        ['°C', 1],
        ['m', 3],
      ],
    ],
    ['m²', [['m', 2]]],
    [
      'kg/s',
      [
        ['kg/m³', 1],
        ['m/s', 1],
        ['m', 2],
      ],
    ],
    [
      'kg/(m·s)',
      [
        ['kg/m^3', 1],
        ['m/s', 1],
        ['m', 1],
      ],
    ],
    [
      'W',
      [
        ['W/m²', 1],
        ['m', 2],
      ],
    ],
    ['J/(kg·K)', [['J/(kg·K)', 1]]],
    ['N·m', [['N m', 1]]],
    [
      '1/s',
      [
        ['m/s', 1],
        ['m', -1],
      ],
    ],
    [
      '',
      [
        ['m', 1],
        ['m', -1],
      ],
    ],
  ] as [string, [string, number][]][])('%s', (product, terms) => {
    expect(unitProduct(...terms)).toBe(product);
  });

  it('measure what a units library says they do', () => {
    const terms: [string, number][] = [
      ['kg/m^3', 1],
      ['m/s', 2],
      ['m', 2],
    ];
    const found = unitProduct(...terms)!;
    expect(found).toBe('kg·m/s²');
    // mathjs, a general library: a density times a speed squared times an area is a force.
    const library = libraryUnit(1, found.replace('·', ' ').replace('²', '^2'));
    expect(library.toNumber('N')).toBeCloseTo(1, 12);
  });

  it('are not known where a factor is not', () => {
    expect(unitProduct([null, 1], ['m', 3])).toBeNull();
    expect(unitProduct(['Pa', 1], [null, 2])).toBeNull();
    expect(unitProduct(['3 pints', 1])).toBeNull();
  });
});
