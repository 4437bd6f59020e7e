import { describe, expect, it } from 'vitest';
import { proposedAt } from './sentence-proposals.ts';

const quantities = ['temperature', 'velocity', 'velocity x', 'a number'];
const at = (text: string, from: number, expected = quantities) =>
  proposedAt(text, text.length, { at: from, expected });
const texts = (...given: Parameters<typeof at>) => at(...given).proposals.map((p) => p.text);

describe('what a sentence could go on with', () => {
  it('begins like what is typed', () => {
    expect(texts('average of vel', 11)).toEqual(['velocity', 'velocity x', 'a number']);
    expect(at('average of vel', 11).because).toBeNull();
    expect(texts('average of ', 11)).toEqual(quantities);
  });
  it('is what looks like it where nothing begins so, in its place', () => {
    const text = 'average of velocty over tins';
    const { proposals, because, byKey } = at(text, 11);
    expect([because, byKey]).toEqual(['“velocty” is not understood here.', true]);
    expect(proposals[0]).toEqual({ text: 'velocity', from: 11, to: 18, describes: false });
  });
  it('is all that could stand there where nothing looks like it', () => {
    const { proposals, because, byKey } = at('average of steam over tins', 11);
    expect([because, byKey]).toEqual(['“steam” is not understood here.', false]);
    expect(proposals.map((p) => p.text)).toEqual(quantities);
    expect(proposals.every((p) => p.to === 16)).toBe(true);
    // What only says what is wanted stands there however much else could.
    const many = [...'abcdefghijk', 'the end'].map((w) => (w.length === 1 ? `${w}${w}` : w));
    expect(texts('surface of tins ?', 16, many)).toEqual([
      'aa',
      'bb',
      'cc',
      'dd',
      'ee',
      'ff',
      'gg',
      'the end',
    ]);
  });
  it('is nothing where nothing could stand there, and that is told', () => {
    const { proposals, because } = at('hold at 2 with words', 15, []);
    expect([proposals, because]).toEqual([[], '“words” is not understood here.']);
    expect(at('hold at 2 with ', 15, []).because).toBeNull();
  });
  it('is said why when it means something that cannot stand there', () => {
    const refused = { because: '"T" has no direction', to: 9 };
    const found = proposedAt('flow of T', 9, { at: 8, expected: ['velocity'], refused });
    expect(found).toEqual({
      because: '"T" has no direction.',
      byKey: true,
      proposals: [{ text: 'velocity', from: 8, to: 9, describes: false }],
    });
  });
  it('is nothing before that place, for an empty sentence and for one that is understood', () => {
    const none = { proposals: [], because: null, byKey: false };
    expect(proposedAt('average of stem', 3, { at: 11, expected: quantities })).toEqual(none);
    expect(at('', 0)).toEqual(none);
    expect(proposedAt('volume of tins', 4, null)).toEqual(none);
    // Where a number is wanted there is nothing to choose from.
    expect(at('at x = foo', 7, ['a number in m'])).toMatchObject({ because: null });
    expect(at('at x = -', 7, ['a number in m', 'the last']).because).toBeNull();
  });
});
