import { readFileSync } from 'node:fs';
import { afterEach, expect, it, vi } from 'vitest';
import { measureFiles } from './measure.ts';

afterEach(() => vi.restoreAllMocks());

/** What is printed, and the exit code. */
async function printed(
  asks: string[],
  steps: Parameters<typeof measureFiles>[2],
  json: boolean,
  quantities: string[] = [],
) {
  const lines: string[] = [];
  vi.spyOn(console, 'log').mockImplementation((line: string) => void lines.push(line));
  const code = await measureFiles(
    ['tests/fixtures/cavity/cavity.pvd'],
    { ask: asks, quantity: quantities },
    steps,
    json,
  );
  return { code, text: lines.join('\n') };
}

it('prints one object with an answer at each step that is asked for', async () => {
  const { code, text } = await printed(
    ['area of everything', 'integral of velocity over everything', 'maximum of T over everything'],
    { from: 1, to: 20, every: 10 },
    true,
  );
  expect(code).toBe(0);
  const { answers, errors } = JSON.parse(text);
  expect(errors).toEqual([]);
  // The second step and every tenth after it.
  expect(answers[0].steps.map(({ step, time }: { step: number; time: number }) => [step, time])).toEqual([
    [2, 0.001],
    [12, 0.025],
  ]);
  expect(answers[0]).toMatchObject({ ask: 'area of everything', what: 'area of everything' });
  expect(answers[0].steps[0].value).toBeCloseTo(1, 6);
  expect(answers[1].steps[0].vector).toHaveLength(3);
  expect(answers[1].steps[0]).not.toHaveProperty('value');
  // The hot wall is at x = 0.
  expect(answers[2].steps[1]).toMatchObject({ value: 1, place: [0, expect.any(Number), 0] });
});

it('asks for quantities by formulas that are given beside', async () => {
  const made = ['excess = T - 0.5', 'heat flow = excess * length(velocity) + T'];
  const { code, text } = await printed(
    ['average of heat flow over everything where x < 0.5', 'average of T over everything where excess > 0'],
    { from: 20, to: 20, every: 1 },
    true,
    made,
  );
  expect(code).toBe(0);
  const [flow, warm] = JSON.parse(text).answers;
  expect(flow.what).toBe('average of heat flow over what is kept of everything where “x < 0.5”');
  expect(flow.steps[0].value).toBeGreaterThan(0.5);
  expect(warm.steps[0].value).toBeGreaterThan(0.5);
  const error = vi.spyOn(console, 'error').mockImplementation(() => undefined);
  expect((await printed(['area of everything'], null, false, ['a = 2 *'])).code).toBe(1);
  expect(error).toHaveBeenCalledWith(expect.stringMatching(/The quantity "a", 2 \*: Not understood/));
  await expect(printed(['area of everything'], null, false, ['T > 2'])).rejects.toThrow(/no quantity/);
});

it('answers what it can, and says of the rest what, where and what to do', async () => {
  const { code, text } = await printed(
    ['volume of everything', 'area of everything', 'average of steam over everything'],
    { from: 0, to: 0, every: 1 },
    true,
  );
  expect(code).toBe(1);
  const { answers, errors } = JSON.parse(text);
  expect(answers.map((a: { ask: string }) => a.ask)).toEqual(['area of everything']);
  expect(errors).toEqual([
    {
      ask: 'volume of everything',
      reason: 'This part has no volume: they are surfaces, which have an area.',
      where: 'volume of everything, step 1',
      remedy: expect.stringContaining('dresser inspect'),
    },
    {
      ask: 'average of steam over everything',
      reason: expect.stringMatching(/^"steam" is not understood here; there could be .*T/),
      where: 'letter 12',
      remedy: expect.stringContaining('average of T over everything'),
    },
  ]);
  const beyond = await printed(['area of everything'], { from: 30, to: 40, every: 1 }, true);
  expect(JSON.parse(beyond.text).errors[0]).toMatchObject({ remedy: 'Choose steps from 1 to 21.' });
});

it('says them in words', async () => {
  const { text } = await printed(['area of everything', 'minimum of T over everything'], null, false);
  expect(text).toMatch(/^area of everything\n {2}t = 0.0000: 1\n/);
  expect(text.split('\n')).toHaveLength(2 * 22);
  expect(text).toMatch(/minimum of T over everything\n {2}t = 0.0000: 0 at \(/);
});

it('compares with another run that is given beside it', async () => {
  const ask = 'average of (T_cell - in_run("case_01", T_cell)) over everything where load = 1';
  const lines: string[] = [];
  vi.spyOn(console, 'log').mockImplementation((line: string) => void lines.push(line));
  const code = await measureFiles(
    ['tests/fixtures/family/case_09.vtu'],
    {
      ask: [ask, ask.replace('case_01', 'case_02')],
      quantity: [],
      beside: ['tests/fixtures/family/case_01.vtu'],
    },
    null,
    true,
  );
  expect(code).toBe(1);
  const { answers, errors } = JSON.parse(lines.join('\n'));
  // Facts of the files, computed by a script that shares nothing with this project.
  const { family } = JSON.parse(readFileSync('tests/fixtures/expected.json', 'utf8'));
  const mean = (file: string): number =>
    family.case.find((c: { file: string }) => c.file === file).T_cell_mean_over_load;
  expect(answers[0].steps[0].value).toBeCloseTo(mean('case_09.vtu') - mean('case_01.vtu'), 3);
  expect(errors[0].reason).toMatch(/"case_02": it is not given; name its file behind --beside/);
});
