import { describe, expect, it } from 'vitest';
import { whyNotRead } from '../language/sentence-reader.ts';
import { readStepsWish, type StepsWish, sayStepsWish, stepsOfWish } from './batch-steps.ts';

const read = (text: string): StepsWish => {
  const wish = readStepsWish(text);
  if ('at' in wish) throw new Error(whyNotRead(text, wish));
  return wish;
};
const run = (times: (number | null)[], timeUnit: string | null = 's') => ({
  name: 'case 1',
  timeUnit,
  steps: times.map((time) => ({ time })),
});
const ten = run([0, 1, 2, 4, 8, 16, 32, 64, 128, 256]);
const steps = (text: string, of = ten, kept = 3) => stepsOfWish(read(text), of, kept);

describe('the steps of a batch', () => {
  it.each([
    ['as kept', [3]],
    ['the last', [9]],
    ['all', [0, 1, 2, 3, 4, 5, 6, 7, 8, 9]],
    ['every 4th', [0, 4, 8]],
    ['3 to 7', [2, 3, 4, 5, 6]],
    ['2 to the last, every 3rd', [1, 4, 7]],
    ['1, 5, 9', [0, 4, 8]],
    ['9, 1, 1', [0, 8]],
    ['nearest to 5, 20, 1000 s', [3, 5, 9]],
    ['nearest to 1 min', [7]],
    ['nearest to 3', [2]],
  ])('are said in words, and read back the same: %s', (text, indices) => {
    expect(steps(text)).toEqual({ steps: indices, lacking: [] });
    const said = sayStepsWish(read(text));
    expect(read(said)).toEqual(read(text));
    expect(said).toBe(text);
  });

  it.each([
    ['', /as kept/],
    ['every third', /5th/],
    ['0, 3', /counted from 1/],
    ['1.5', /whole numbers/],
    ['7 to 3', /end before they begin/],
    ['1 to 3 and 5', /the end/],
    ['nearest to 10 kg', /“kg” is no unit of time.*s, ms, min/],
  ])('that are not understood are told: %s', (text, said) => {
    const wish = readStepsWish(text);
    expect('at' in wish && whyNotRead(text, wish)).toMatch(said);
  });

  it('that a run does not have are told, and the rest is made', () => {
    expect(steps('1, 5, 30, 40', run([0, 1, 2, 3, 4]))).toEqual({
      steps: [0, 4],
      lacking: ['case 1 has 5 steps: there is no 30, 40.'],
    });
    expect(steps('as kept', run([0, 1]), 6)).toEqual({
      steps: [1],
      lacking: ['case 1 ends at step 2: that is shown for step 7.'],
    });
    expect(steps('4 to 20', run([0]))).toEqual({ steps: [], lacking: ['case 1 has 1 step: there is no 4.'] });
    expect(steps('nearest to 3 s', run([null, null]))).toEqual({
      steps: [],
      lacking: ['The steps of case 1 have no times. Say their numbers instead.'],
    });
    // A run that states no unit of time takes the number as it is.
    expect(steps('nearest to 2 ms', run([0, 1, 2], null))).toEqual({ steps: [2], lacking: [] });
    expect(steps('nearest to 2000 ms', run([0, 1, 2], 's'))).toEqual({ steps: [2], lacking: [] });
  });

  it('count as one says them', () => {
    const said = [1, 2, 3, 4, 11, 12, 13, 21, 22, 101, 111].map((every) =>
      sayStepsWish({ kind: 'range', from: 1, to: null, every }),
    );
    expect(said).toEqual(
      ['', '2nd', '3rd', '4th', '11th', '12th', '13th', '21st', '22nd', '101st', '111th'].map((n) =>
        n === '' ? 'all' : `every ${n}`,
      ),
    );
  });
});
