import { beforeAll, describe, expect, it, type Mock, vi } from 'vitest';
import { expandedFormula, sentencesIn } from '#core/fields/formula/expanded-formula.ts';
import { setsOutOf, withRulesOfSets } from '#core/fields/formula/sets-in-sentences.ts';
import { lackingQuantity, quantityField, withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { SetRule } from '#core/model/set-rule.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { keysOfScene, sentencesToMeasure, troubleOfFormula } from '#core/scene/named-quantities.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { importSteps, ovenSteps } from '../tests/sample-run.ts';
import { answerQuestion } from './answer-question.ts';
import { ArraySource } from './array-source.ts';
import { GaugeAnswers } from './gauge-answers.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { measureNumber } from './measured-numbers.ts';
import { measureParts } from './measuring.ts';
import { type AskRun, Ranges } from './ranges.ts';
import type { RunQuestion } from './run-ranges.ts';

let run: RunDescription;
let arrays: ArraySource;
beforeAll(async () => {
  const made = await importSteps(ovenSteps());
  run = withOfferedQuantities(made.run);
  arrays = new ArraySource(made.store.load);
});

/** Over the unit cube 20 + 10 n + x + 2 y + 3 z comes to 23 + 10 n in the mean. */
const MEAN = 'average of temperature over everything';

describe('numbers that formulas measure', () => {
  it('are what the sentence asks for, at every step', async () => {
    const found = await measureNumber(run, MEAN, arrays);
    expect(found).toMatchObject({ unit: '°C', components: 1 });
    expect(found.perStep.map((v) => Number((v as number).toFixed(4)))).toEqual([23, 33, 43]);
    const steep = await measureNumber(run, 'average of (gradient(temperature)) over everything', arrays);
    expect(steep.components).toBe(3);
    expect((steep.perStep[1] as number[]).map((v) => Number(v.toFixed(4)))).toEqual([1, 2, 3]);
  });
  it('may be of what is offered beside what the files hold', async () => {
    const plain = (await importSteps(ovenSteps())).run;
    const found = await measureNumber(plain, 'average of gradient of temperature over everything', arrays);
    expect(found.components).toBe(3);
  });
  it('say why there is no answer', async () => {
    const why = async (text: string) => (await measureNumber(run, text, arrays)).trouble;
    expect(await why('average of warmth over everything')).toMatch(/"warmth" is not understood/);
    expect(await why('length of everything')).toMatch(/bodies/);
    expect(await why('histogram of temperature over everything')).toBe('it is a curve, no number.');
  });
  it('are asked for once, before ranges of what is computed with them', async () => {
    const asked: Mock<AskRun> = vi.fn<AskRun>((question: RunQuestion) =>
      answerQuestion(ranges.run, question, arrays),
    );
    const ranges: Ranges = new Ranges(run, asked);
    const key = `formula:temperature - measured("${MEAN}")`;
    // It lacks nothing, and is not there until it is measured.
    expect([lackingQuantity(key, run), quantityField(key, run)]).toEqual([null, null]);
    // Around the mean it goes by 3 down and up, at every step.
    for (const step of [0, 2])
      expect(await ranges.rangeOf(key, 0, step)).toMatchObject({
        min: expect.closeTo(-3, 4),
        max: expect.closeTo(3, 4),
      });
    const steep = 'formula:x * measured("average of (gradient(temperature)) over everything").y';
    expect((await ranges.rangeOf(steep, 0, 'all'))!.max).toBeCloseTo(2, 4);
    expect(asked.mock.calls.map(([q]) => q.kind)).toEqual(['number', 'range', 'number', 'range']);
  });
  it('are measured with numbers that are measured before', async () => {
    const inner = JSON.stringify('minimum of temperature over everything');
    const outer = `average of (temperature - measured(${inner})) over everything`;
    expect(sentencesIn(`2 * measured(${JSON.stringify(outer)})`)).toEqual([outer]);
    expect((await measureNumber(run, outer, arrays)).perStep[2]).toBeCloseTo(3, 4);
  });
  it('are measured on part sets by the rules their sentences say', async () => {
    const rule = { kind: 'box' as const, low: [-1, -1, -1], high: [0.5, 2, 2] } as SetRule;
    const sets = [{ name: 'left "half"', rule }];
    const sentence = withRulesOfSets('average of temperature over the set "left \\"half\\""', sets);
    // Over 0 < x < 0.5 x has the mean 0.25, half of it less than over all.
    expect((await measureNumber(run, sentence, arrays)).perStep[1]).toBeCloseTo(32.75, 4);
    const named = setsOutOf(sentence);
    expect(named.sets).toEqual(sets);
    expect(withRulesOfSets(named.sentence, sets)).toBe(sentence);
    // One within another, each with its own.
    const key = `formula:${expandedFormula(
      `measured("average of (temperature - measured(\\"average of temperature over part set a\\")) over the set b")`,
      [],
      [
        { name: 'a', rule },
        { name: 'b', rule: { kind: 'complement', of: [rule] } },
      ],
    )}`;
    const [outer] = sentencesIn(key);
    expect((await measureNumber(run, outer, arrays)).perStep[1]).toBeCloseTo(0.5, 4);
    expect((await measureNumber(run, 'average of temperature over the set a', arrays)).trouble).toMatch(
      /not understood/,
    );
    const cells = { kind: 'cells' as const, cells: { oven: Array.from({ length: 20_000 }, (_, i) => i) } };
    const long = withRulesOfSets('average of temperature over the set a', [{ name: 'a', rule: cells }]);
    expect(lackingQuantity(`formula:measured(${JSON.stringify(long)})`, run)).toMatch(
      /over the set a" asks of a part set that lists too many cells/,
    );
  });
  it('serve gauges of the quantities of a scene, in the sentences too', async () => {
    const quantities = [
      { id: 'a', name: 'excess', formula: 'temperature - 20 °C' },
      { id: 'b', name: 'over the mean', formula: 'excess - measured("average of excess over everything")' },
    ];
    const scene = { ...defaultScene(run), quantities };
    const maker = new GeometryMaker(arrays);
    const ranges: Ranges = new Ranges(run, (q) => answerQuestion(ranges.run, q, arrays));
    const gauges = new GaugeAnswers(ranges, (requests) => measureParts(maker, requests));
    await ranges.knowIngredients(keysOfScene(scene));
    const ask = readAsk('maximum of over the mean over everything', scene, ranges.run);
    if ('at' in ask) throw new Error(ask.expected.join());
    expect((await gauges.at(ask, scene, 1)).value).toBeCloseTo(3, 4);
    expect(sentencesToMeasure('excess - measured("length of tins")', scene, ranges.run)).toEqual([
      'length of tins',
    ]);
    expect(sentencesToMeasure('[over the mean] * 2', scene, ranges.run)).toEqual([]);
    expect(troubleOfFormula('[over the mean] * 2', scene, ranges.run)).toBeNull();
  });
  it('are named wrongly in words', () => {
    expect(lackingQuantity('formula:measured(temperature)', run)).toMatch(/takes a sentence between/);
    expect(lackingQuantity('formula:measured("a", "b")', run)).toMatch(/takes a sentence between/);
  });
});

it('names of quantities are put into sentences only where a quantity can stand', () => {
  const known = [{ name: 'area', formula: 'x * 2' }];
  const text = 'area / measured("area average of area over section of everything where area > 3")';
  expect(expandedFormula(text, known)).toBe(
    '(x * 2) / measured("area average of (x * 2) over section of everything where (x * 2) > 3")',
  );
});
