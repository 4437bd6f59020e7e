import { describe, expect, it } from 'vitest';
import { z } from './schema.ts';

describe('a schema', () => {
  const schema = z.object({
    name: z.string().max(5),
    size: z.number().int(),
    place: z.tuple([z.number(), z.number()]),
    open: z.boolean(),
    way: z.union([z.literal('up'), z.object({ by: z.number() })]),
  });
  const fits = { name: 'tin', size: 1, place: [0, 0], open: true, way: 'up' };
  const said = (more: object) => schema.safeParse({ ...fits, ...more }).error!.issues.map((i) => i.message);

  it('says in plain words what does not fit', () => {
    expect(schema.safeParse(fits).success).toBe(true);
    expect(said({ name: undefined })).toEqual(['it is missing']);
    expect(said({ name: 4 })).toEqual(['a text is expected here']);
    expect(said({ size: 'x', open: null })).toEqual([
      'a number is expected here',
      'yes or no is expected here',
    ]);
    expect(said({ size: 0.5 })).toEqual(['a whole number is expected here']);
    expect(said({ place: 'x' })).toEqual(['a list is expected here']);
    expect(said({ way: 'down' })).toEqual(['it fits none of the forms that are possible here']);
  });

  it('names no words of an engine for anything that a request can hold', () => {
    const values = [null, 4, 'x', [], {}, true, -1e300, [undefined], { by: undefined }];
    for (const key of Object.keys(fits))
      for (const value of values) {
        const result = schema.safeParse({ ...fits, [key]: value });
        for (const { message } of result.error?.issues ?? [])
          expect(message).not.toMatch(/undefined|NaN|function|prototype/);
      }
  });

  it('makes no code out of text', () => {
    const made = globalThis.Function;
    globalThis.Function = class {
      constructor() {
        throw new Error('code was made');
      }
    } as never;
    try {
      const fresh = z.object({ a: z.string(), b: z.array(z.number()) });
      expect(fresh.parse({ a: 'x', b: [1] })).toEqual({ a: 'x', b: [1] });
    } finally {
      globalThis.Function = made;
    }
  });
});
