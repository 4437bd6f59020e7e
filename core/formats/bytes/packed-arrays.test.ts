import { describe, expect, it } from 'vitest';
import { ArrayShelf, packArrays, unpackArrays } from './packed-arrays.ts';

describe('packed arrays', () => {
  const value = {
    name: 'Ofen 🍞 λ',
    none: null,
    parts: [
      { at: Float32Array.of(0.1, -0, Number.NaN, Number.POSITIVE_INFINITY), of: Uint16Array.of(1, 65535, 3) },
      { at: Float64Array.of(Math.PI), of: new Uint32Array(0), turned: Int16Array.of(-32768) },
    ],
  };

  it('come back as they were, to the last bit', () => {
    const back = unpackArrays<typeof value>(packArrays(value));
    expect(back).toEqual(value);
    expect(Object.is(back.parts[0].at[1], -0)).toBe(true);
    expect(back.parts[1].at).toBeInstanceOf(Float64Array);
  });

  it('come back from the middle of other bytes', () => {
    const packed = packArrays(value);
    const within = new Uint8Array(packed.length + 3);
    within.set(packed, 3);
    expect(unpackArrays(within.subarray(3))).toEqual(value);
  });

  it('that are alike stand there once, and are one when they come back', () => {
    const shelf = new ArrayShelf();
    const places = [
      Float32Array.of(1, 2),
      Float32Array.of(1, 2),
      Float32Array.of(1, 3),
      // The same bytes as other numbers.
      new Uint32Array(Float32Array.of(1, 2).buffer),
    ].map((a) => shelf.put(a));
    expect(places).toEqual([0, 0, 1, 2]);
    expect(shelf.bytes).toBe(24);
    const back = unpackArrays<Float32Array[]>(packArrays([new Float32Array(100), new Float32Array(100)]));
    expect(back[0]).toBe(back[1]);
  });

  it('keep a part of a larger array only', () => {
    const large = Float32Array.from({ length: 1000 }, (_, i) => i);
    const packed = packArrays(large.subarray(10, 12));
    expect(packed.length).toBeLessThan(100);
    expect(Array.from(unpackArrays<Float32Array>(packed))).toEqual([10, 11]);
  });
});
