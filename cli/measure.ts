import { runsIn, sentencesIn } from '#core/fields/formula/expanded-formula.ts';
import { sayNumber } from '#core/language/sentence.ts';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import type { RunDescription } from '#core/model/run.ts';
import { sayStep } from '#core/motion/step-text.ts';
import { sayAsk } from '#core/scene/ask.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene, SceneQuantity } from '#core/scene/document.ts';
import { keysOfScene, troubleOfFormula } from '#core/scene/named-quantities.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import type { Reading } from '#core/scene/reading.ts';
import { GaugeAnswers } from '#engine/gauge-answers.ts';
import { GeometryMaker } from '#engine/geometry-maker.ts';
import { withMeasuredNumbers } from '#engine/measured-numbers.ts';
import { measureParts } from '#engine/measuring.ts';
import { Ranges } from '#engine/ranges.ts';
import { openFirstRun } from './read-runs.ts';

interface AnswerAtStep {
  /** Counted from 1. */
  step: number;
  time: number;
  value?: number;
  vector?: number[];
  place?: number[];
  moment?: number[];
  /** Of profiles, histograms and scatters. */
  curve?: Reading['curve'];
  note?: string;
  missing?: number;
}

interface AskedAnswer {
  ask: string;
  unit: string | null;
  what: string;
  steps: AnswerAtStep[];
}

interface AskedError {
  ask: string;
  reason: string;
  where: string;
  remedy: string;
}

/** Answers questions about a run, step by step; the exit code is 1 when one of them has no answer. */
export async function measureFiles(
  files: string[],
  { ask: asked, quantity: made, beside = [] }: { ask: string[]; quantity: string[]; beside?: string[] },
  steps: { from: number; to: number; every: number } | null,
  json: boolean,
): Promise<number> {
  const opened = await openFirstRun(files, beside);
  if (!opened) return 1;
  const { source } = opened;
  const quantities = made.map(quantityGiven);
  const texts = [...keysOfScene({ quantities, sets: [] }), ...asked];
  const given = withOthersNamed(opened.run, texts.flatMap(runsIn));
  const run = await withMeasuredNumbers(given, texts.flatMap(sentencesIn), source);
  const scene = { ...defaultScene(run), quantities };
  for (const [i, { name, formula }] of scene.quantities.entries()) {
    const trouble = troubleOfFormula(formula, { ...scene, quantities: scene.quantities.slice(0, i) }, run);
    if (!trouble) continue;
    console.error(`The quantity "${name}", ${formula}: ${trouble}`);
    return 1;
  }
  const maker = new GeometryMaker(source);
  const gauges = new GaugeAnswers(new Ranges(run, null), (requests) => measureParts(maker, requests));
  const wanted = run.steps.flatMap((_, i) =>
    !steps || (i >= steps.from && i <= steps.to && (i - steps.from) % steps.every === 0) ? [i] : [],
  );
  const answers: AskedAnswer[] = [];
  const errors: AskedError[] = [];
  for (const ask of asked) {
    const found = await answered(ask, scene, run, wanted, gauges);
    if ('reason' in found) errors.push(found);
    else answers.push(found);
  }
  if (json) console.log(JSON.stringify({ answers, errors }, null, 1));
  else
    for (const line of [...answers.flatMap((a) => inWords(a, run)), ...errors.map(errorInWords)])
      console.log(line);
  return errors.length > 0 ? 1 : 0;
}

/** A run in which every other one that is named is there, or it is said how it is given. */
function withOthersNamed(run: RunDescription, names: readonly string[]): RunDescription {
  const there = Object.keys(run.others ?? {});
  const trouble = `it is not given; name its file behind --beside${there.length > 0 ? `. Given are ${there.join(', ')}` : ''}`;
  const missing = names.filter((name) => !there.includes(name)).map((name) => [name, { trouble }] as const);
  return { ...run, others: { ...run.others, ...Object.fromEntries(missing) } };
}

/** @throws Error for what is not `name = formula` */
function quantityGiven(text: string, i: number): SceneQuantity {
  const [, name, formula] = /^\s*([^=<>!]+?)\s*=(?!=)\s*(\S.*)$/.exec(text) ?? [];
  if (!name) throw new Error(`"${text}" is no quantity. Write it like "excess = T - 20 °C".`);
  return { id: `quantity-${i + 1}`, name, formula };
}

async function answered(
  ask: string,
  scene: Scene,
  run: RunDescription,
  steps: number[],
  gauges: GaugeAnswers,
): Promise<AskedAnswer | AskedError> {
  const read = readAsk(ask, scene, run);
  if ('at' in read)
    return {
      ask,
      reason: whyNotRead(ask, read),
      where: `letter ${read.at + 1}`,
      remedy: 'Say it as docs/cli.md has it, for example "average of T over everything".',
    };
  if (steps.length === 0)
    return {
      ask,
      reason: 'none of its steps is asked for',
      where: '--steps',
      remedy: `Choose steps from 1 to ${run.steps.length}.`,
    };
  const what = sayAsk(read, scene, run);
  const out: AskedAnswer = { ask, unit: null, what, steps: [] };
  for (const step of steps) {
    try {
      const answer = await gauges.at(read, scene, step);
      out.unit = answer.unit;
      out.steps.push({ step: step + 1, time: run.steps[step].time, ...inJson(answer) });
    } catch (error) {
      return {
        ask,
        reason: (error as Error).message,
        where: `${what}, step ${step + 1}`,
        remedy: 'Ask of other parts, or for another quantity; `dresser inspect` says what there is.',
      };
    }
  }
  return out;
}

const inJson = ({
  value,
  place,
  moment,
  curve,
  note,
  missing,
}: Reading): Omit<AnswerAtStep, 'step' | 'time'> => ({
  ...(Array.isArray(value) ? { vector: value } : { value }),
  ...(place && { place }),
  ...(moment && { moment }),
  ...(curve && { curve }),
  ...(note !== undefined && { note }),
  ...(missing !== undefined && { missing }),
});

const DIGITS = 6;
const stamp = { style: 'decimals', decimals: 4, unit: null } as const;

function inWords({ what, unit, steps }: AskedAnswer, run: RunDescription): string[] {
  const list = (values: number[]): string => `(${values.map((v) => sayNumber(v, DIGITS)).join(', ')})`;
  return [
    what,
    ...steps.map(({ step, value, vector, place, moment, curve, note, missing }) => {
      const number = vector ? list(vector) : sayNumber(value!, DIGITS);
      const when = run.steps.length > 1 ? `${sayStep(run.steps[step - 1], run.timeUnit, stamp)}: ` : '';
      const left = missing ? `; ${sayNumber(100 * missing, 2)} % has no value` : '';
      const turning = moment ? `, moment ${list(moment)}` : '';
      const drawn = curve ? `, a curve of ${curve.x.length} places` : '';
      const odd = note ? `; ${note}` : '';
      return `  ${when}${number}${unit ? ` ${unit}` : ''}${drawn}${turning}${place ? ` at ${list(place)}` : ''}${left}${odd}`;
    }),
  ];
}

const errorInWords = ({ ask, reason, where, remedy }: AskedError): string =>
  `${ask}\n  ${reason}\n  where: ${where}\n  what to do: ${remedy}`;
