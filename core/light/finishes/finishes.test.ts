import { describe, expect, it } from 'vitest';
import { finishGroups, finishValuesSchema, textureKinds } from '../finish.ts';
import { finishSchema, nameOfFinish, valuesOf } from '../own-finish.ts';
import { finishById, finishes } from './registry.ts';

describe('finishes', () => {
  it('are thirty at least, each with an id, a name and a kind of its own', () => {
    expect(finishes.length).toBeGreaterThanOrEqual(30);
    for (const key of ['id', 'name'] as const)
      expect(new Set(finishes.map((f) => f[key])).size).toBe(finishes.length);
    for (const f of finishes) {
      expect(finishGroups).toContain(f.group);
      expect(finishValuesSchema.safeParse(f).error, f.name).toBeUndefined();
    }
    expect(
      new Set(finishes.map(({ id: _, name: _n, group: _g, ...values }) => JSON.stringify(values))).size,
    ).toBe(finishes.length);
  });
  it('use every pattern there is', () => {
    expect(new Set(finishes.map((f) => f.texture))).toEqual(new Set(textureKinds));
  });
  it('are taken by their ids, made by hand, or left out', () => {
    const { id: _, group: _g, ...own } = { ...finishById('oak')!, name: 'bread board' };
    for (const good of [null, 'oak', own]) expect(finishSchema.safeParse(good).success).toBe(true);
    for (const bad of [{ ...own, roughness: 2 }, { ...own, colour: 'red' }, 7, ''])
      expect(finishSchema.safeParse(bad).success).toBe(false);
    expect(valuesOf('oak')?.texture).toBe('rings');
    expect(valuesOf('unheard of')).toBeNull();
    expect(nameOfFinish('unheard of')).toBe('unheard of (not in this version)');
    expect(nameOfFinish(own)).toBe('bread board');
  });
});
