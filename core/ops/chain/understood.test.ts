import { describe, expect, it } from 'vitest';
import { understood, understoodSteps, whyNotUnderstood } from './understood.ts';

const section = { op: 'section', options: { normal: [0, 0, 1], offset: 0.4 }, off: false };

describe('a step of a chain', () => {
  it('is understood when this version has its operation and its options fit', () => {
    expect(understood(section)?.operation.id).toBe('section');
    expect(whyNotUnderstood(section)).toBeNull();
  });
  it('of an operation nobody has is named', () => {
    const melt = { ...section, op: 'melt' };
    expect(understood(melt)).toBeNull();
    expect(whyNotUnderstood(melt)).toBe('This version has no operation “melt”.');
    expect(understoodSteps([section, melt, section])).toMatchObject([section, section]);
  });
  it('whose options do not fit says which of them and why', () => {
    const flat = { ...section, options: { normal: [0, 0, 0], offset: 0.4 } };
    expect(understood(flat)).toBeNull();
    expect(whyNotUnderstood(flat)).toMatch(/^The options of “Section” do not fit: normal.*length/i);
    const why = (offset: unknown) => whyNotUnderstood({ ...section, options: { normal: [0, 0, 1], offset } });
    expect(why(Number.POSITIVE_INFINITY)).toMatch(/do not fit: offset: the number must be finite[^.]*\.$/);
    expect(why('far')).toMatch(/do not fit: offset: a number is expected here\.$/);
  });
});
