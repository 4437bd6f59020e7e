import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { fieldsOfCondition } from '../fields/condition.ts';
import { quantityName } from './quantity.ts';
import type { RunDescription, RunField } from './run.ts';
import { statedSchema, withMeanings } from './stated-meanings.ts';

let run: RunDescription;
beforeAll(async () => {
  run = await ovenRun();
});

const key = 'point:temperature';

describe('what a person says of a run', () => {
  it('takes the place of what the files say, and leaves keys and numbers as they are', () => {
    const said = { name: 'Oven 3', lengthUnit: 'mm', fields: { [key]: { name: 'warmth', unit: 'K' } } };
    const out = withMeanings(run, statedSchema.parse(said));
    expect(out).toMatchObject({ name: 'Oven 3', lengthUnit: 'mm' });
    expect(out.fields[0]).toMatchObject({ key, name: 'warmth', unit: 'K' });
    expect(out.fields[0].overall).toEqual(run.fields[0].overall);
    expect(out.parts).toBe(run.parts);
  });
  it('is known when the files are read again', () => {
    const out = withMeanings(run, { fields: { [key]: { unit: 'K' } } });
    expect(out.source?.choices.units).toMatchObject({ [key]: 'K' });
  });
  it('settles the notes that asked for it, and gives new ones', () => {
    const bare = withMeanings(run, { lengthUnit: null });
    expect(bare.notes.join()).toMatch(/no unit of length/);
    expect(withMeanings(bare, { lengthUnit: 'm' }).notes.join()).not.toMatch(/no unit of length/);
    expect(withMeanings(run, { fields: { [key]: { role: 'stress' } } }).notes.join()).toMatch(
      /no displacement/,
    );
  });
  it('is refused for a field that is not there, and for a name that is taken', () => {
    expect(() => withMeanings(run, { fields: { 'point:steam': { unit: 'g' } } })).toThrow(/no field/);
    const twin: RunField = { ...run.fields[0], key: 'point:T', name: 'T' };
    const two = { ...run, fields: [...run.fields, twin] };
    expect(() => withMeanings(two, { fields: { 'point:T': { name: 'Temperature' } } })).toThrow(/two fields/);
    expect(statedSchema.safeParse({ name: '' }).success).toBe(false);
    expect(statedSchema.safeParse({ fields: { [key]: { role: 'taste' } } }).success).toBe(false);
  });
  it('is understood in conditions by the new name and by that of the files', () => {
    const { fields } = withMeanings(run, { fields: { [key]: { name: 'warmth' } } });
    for (const text of ['warmth > 20', 'temperature > 20'])
      expect([...fieldsOfCondition(text, fields, []).values()][0].need.field).toBe(key);
  });
});

describe('components', () => {
  const six = { name: 'S', components: 6 };
  const names = (more: object): string[] =>
    [0, 1, 2, 3, 4, 5].map((c) => quantityName({ ...six, ...more }, c).slice(2));
  it('of stresses and of what files call a symmetric tensor have letters, others numbers', () => {
    const letters = ['xx', 'yy', 'zz', 'xy', 'yz', 'xz'];
    expect(names({ role: 'stress' })).toEqual(letters);
    expect(names({ tensor: true })).toEqual(letters);
    expect(names({ role: 'other' })).toEqual(['1', '2', '3', '4', '5', '6']);
  });
});
