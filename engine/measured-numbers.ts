import { sentencesIn } from '#core/fields/formula/expanded-formula.ts';
import { setsOutOf } from '#core/fields/formula/sets-in-sentences.ts';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import type { MeasuredNumber, RunDescription } from '#core/model/run.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { isReading, type Reading } from '#core/scene/reading.ts';
import type { ArraySource } from './array-source.ts';
import { GaugeAnswers } from './gauge-answers.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { measureParts } from './measuring.ts';
import { Ranges } from './ranges.ts';
import { answerRange, type Progress } from './run-ranges.ts';

/**
 * What a sentence asks of a run, at every step. It depends on the run alone: part sets that were made in a scene are said by it
 * with their rules. Numbers that stand within its formulas are measured first.
 */
export async function measureNumber(
  run: RunDescription,
  sentence: string,
  arrays: ArraySource,
  progress: Progress = () => undefined,
): Promise<MeasuredNumber> {
  const known = withOfferedQuantities(await withMeasuredNumbers(run, sentencesIn(sentence), arrays));
  const none: MeasuredNumber = { unit: null, components: 1, perStep: [] };
  const { sentence: plain, sets } = setsOutOf(sentence);
  const scene = { ...defaultScene(known), sets };
  const ask = readAsk(plain, scene, known);
  if ('at' in ask) return { ...none, trouble: `${whyNotRead(plain, ask)}.` };
  const maker = new GeometryMaker(arrays);
  const ranges = new Ranges(known, (question) => answerRange(known, question, arrays));
  const gauges = new GaugeAnswers(ranges, (requests) => measureParts(maker, requests));
  const steps = [...known.steps.keys()];
  const [found] = await gauges.overSteps([ask], scene, steps, (done) => progress(done));
  const first = found.find((answer): answer is Reading => isReading(answer));
  if (!first) {
    const [why] = found;
    return { ...none, trouble: why && !isReading(why) ? why.trouble : 'the run has no step.' };
  }
  if (first.curve) return { ...none, trouble: 'it is a curve, no number.' };
  return {
    unit: first.unit,
    components: Array.isArray(first.value) ? 3 : 1,
    perStep: found.map((answer) => (isReading(answer) ? answer.value : null)),
  };
}

/** A run that knows what sentences come to; those it knew already are not asked again. */
export async function withMeasuredNumbers(
  run: RunDescription,
  sentences: readonly string[],
  arrays: ArraySource,
): Promise<RunDescription> {
  let known = run;
  for (const sentence of new Set(sentences)) {
    if (Object.hasOwn(known.numbers ?? {}, sentence)) continue;
    const number = await measureNumber(known, sentence, arrays);
    known = { ...known, numbers: { ...known.numbers, [sentence]: number } };
  }
  return known;
}
