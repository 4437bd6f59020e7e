import { scaleLog, scaleSymlog } from 'd3-scale';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hexToRgb } from './cielab.ts';
import { CompiledScale, MISSING, type ScaleColours, TABLE_SIZE } from './compiled-scale.ts';
import { colourMapById } from './maps/registry.ts';

const plain: ScaleColours = { map: 'heat', reversed: false, bands: null, low: 20, high: 220 };
const made = (more: Partial<ScaleColours>): CompiledScale => CompiledScale.of({ ...plain, ...more });

describe('spacing', () => {
  it('by logarithm and through zero is that of d3-scale', () => {
    const log = made({ low: 0.01, high: 1000, spacing: { kind: 'log' } });
    const ofD3 = scaleLog([0.01, 1000], [0, 1]);
    for (const v of [0.01, 0.2, 1, 37, 999, 1000]) expect(log.fraction(v)).toBeCloseTo(ofD3(v), 12);
    const zero = made({ low: -50, high: 2000, spacing: { kind: 'symlog', linear: 0.5 } });
    const symlog = scaleSymlog([-50, 2000], [0, 1]).constant(0.5);
    for (const v of [-50, -3, 0, 0.1, 12, 2000]) expect(zero.fraction(v)).toBeCloseTo(symlog(v), 12);
  });
  it('leads back to the value, whatever it is', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-6, max: 1e6, noNaN: true }),
        fc.double({ min: 1.01, max: 1e4, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.constantFrom('linear', 'log', 'symlog'),
        (low, ratio, t, kind) => {
          const spacing =
            kind === 'symlog' ? ({ kind, linear: low } as const) : ({ kind } as { kind: 'log' });
          const scale = made({ low, high: low * ratio, spacing });
          expect(scale.fraction(scale.value(t))).toBeCloseTo(t, 6);
        },
      ),
    );
  });
  it('by logarithm has no place for zero and below', () => {
    const log = made({ low: 1, high: 100, spacing: { kind: 'log' } });
    for (const v of [0, -5]) {
      expect(log.knows(v)).toBe(false);
      expect(log.colour(v)).toEqual(MISSING);
    }
    expect(made({ low: 1, high: 100, spacing: { kind: 'log' }, missing: 'hidden' }).hides(-1)).toBe(true);
  });
  it('parts bands evenly along the scale', () => {
    const bands = { kind: 'count', count: 3, low: null, high: null } as const;
    const { edges } = made({ low: 1, high: 1000, spacing: { kind: 'log' }, bands });
    for (const [i, v] of [1, 10, 100, 1000].entries()) expect(edges[i]).toBeCloseTo(v, 9);
  });
});

describe('what lies beyond', () => {
  it('has the colour of the end, or one of its own', () => {
    const { colours } = colourMapById('heat');
    expect(made({}).colour(500)).toEqual(colours[255]);
    const own = made({ below: '#2b3a67', above: '#7a1f5c' });
    expect(own.colour(19.9)).toEqual(hexToRgb('#2b3a67'));
    expect(own.colour(220.1)).toEqual(hexToRgb('#7a1f5c'));
    expect(own.colour(220)).toEqual(colours[255]);
  });
  it('is hidden apart from the range of colours', () => {
    const cut = made({ shownFrom: 50, shownTo: 180 });
    expect([49.9, 50, 180, 180.1].map((v) => cut.hides(v))).toEqual([true, false, false, true]);
    expect(cut.mayHide).toBe(true);
    expect(made({}).mayHide).toBe(false);
    expect(cut.colour(60)).toEqual(made({}).colour(60));
  });
});

describe('names of values', () => {
  const categories = [
    { value: 1, name: 'dough', colour: null },
    { value: 2, name: 'tin', colour: '#112233' },
    { value: 7, name: 'air', colour: null },
  ];
  const named = made({ map: 'told-apart', categories });
  it('have colours of their own, half way to their neighbours', () => {
    const own = colourMapById('told-apart').colours;
    expect(named.colour(1)).toEqual(own[0]);
    expect(named.colour(2)).toEqual(hexToRgb('#112233'));
    expect(named.colour(7)).toEqual(own[2]);
    expect(named.colour(4.49)).toEqual(named.colour(2));
    expect(named.colour(4.51)).toEqual(named.colour(7));
    expect(named.ticks()).toEqual([1, 2, 7]);
  });
  it('lie as wide as each other along the scale', () => {
    // 1 and 7 in the middle of theirs; 2 nearer to 1 than to 7.
    for (const [value, at] of [
      [1, 0.5 / 3],
      [2, 1.5 / 3 - 1 / 9],
      [7, 2.5 / 3],
    ])
      expect(named.fraction(value)).toBeCloseTo(at, 9);
    for (const t of [0.1, 0.5, 0.9]) expect(named.fraction(named.value(t))).toBeCloseTo(t, 9);
  });
  it('take the colours of a map again where it has too few', () => {
    const many = Array.from({ length: 12 }, (_, i) => ({ value: i, name: `${i}`, colour: null }));
    const scale = made({ map: 'told-apart', categories: many });
    expect(scale.colour(9)).toEqual(scale.colour(1));
  });
});

describe('numbers in another unit', () => {
  const kelvin = { factor: 1, shift: -273.15 };
  it('are round where they are shown', () => {
    const scale = made({ low: 290, high: 500, unit: kelvin });
    expect(scale.ticks().map((v) => scale.shownNumber(v))).toEqual([50, 100, 150, 200]);
    const bands = { kind: 'every', step: 50 } as const;
    const banded = made({ low: 290, high: 500, unit: kelvin, bands });
    expect(banded.edges.slice(1, -1).map((v) => banded.shownNumber(v))).toEqual([50, 100, 150, 200]);
  });
  it('lead back to those stored', () => {
    const scale = made({ unit: { factor: 1e-5, shift: 0 } });
    expect(scale.storedNumber(scale.shownNumber(123456))).toBeCloseTo(123456, 6);
  });
});

describe('the table of the card', () => {
  it('holds the colours of bands, their edges and the levels', () => {
    const scale = made({ bands: { kind: 'list', values: [50, 100] } });
    const { table } = scale;
    expect(table).toHaveLength(12 * TABLE_SIZE);
    const row = (n: number, count: number): number[] =>
      Array.from({ length: count }, (_, i) => table[4 * (n * TABLE_SIZE + i)]);
    expect(row(1, 4)).toEqual([20, 50, 100, 220]);
    expect(row(2, 2)).toEqual([50, 100]);
  });
  it('holds how opaque the scale is along itself', () => {
    const scale = made({
      opacity: [
        [0, 0.2],
        [0.5, 1],
        [1, 0.6],
      ],
    });
    expect(scale.isSeenThrough).toBe(true);
    expect(scale.opacityOf(20)).toBeCloseTo(0.2, 9);
    expect(scale.opacityOf(70)).toBeCloseTo(0.6, 9);
    expect(scale.table[3]).toBeCloseTo(0.2, 6);
    expect(scale.table[4 * (TABLE_SIZE - 1) + 3]).toBeCloseTo(0.6, 6);
  });
});

describe('the part of a map that is used', () => {
  it('is cropped, reversed and turned around', () => {
    const at = (more: Partial<ScaleColours>, value: number) => made(more).colour(value);
    for (const [a, b] of [
      [at({ crop: [0.25, 0.75] }, 20), at({}, 70)],
      [at({ crop: [0.25, 0.75], reversed: true }, 20), at({}, 170)],
      [at({ map: 'dial', rotate: 0.25 }, 20), at({ map: 'dial' }, 70)],
    ])
      for (let k = 0; k < 3; k++) expect(a[k]).toBeCloseTo(b[k], 2);
  });
});
