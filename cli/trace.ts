import { defaultScene } from '#core/scene/default-scene.ts';
import { explainSentence } from '#core/scene/explain-sentence.ts';
import { readLayer } from '#core/scene/read-layer.ts';
import { type TracedLine, tracedLines } from '#engine/traced-lines.ts';
import { openFirstRun } from './read-runs.ts';

/** Follows the lines of a sentence on a run and says where each ends; the exit code is 1 when that is not possible. */
export async function traceLines(
  files: string[],
  said: string,
  step: number | null,
  json: boolean,
): Promise<number> {
  const opened = await openFirstRun(files);
  if (!opened) return 1;
  const { run, source } = opened;
  const scene = defaultScene(run);
  const read = readLayer(said, scene, run, null, 'traced');
  if (!('layer' in read)) {
    const why = explainSentence(said, scene, run);
    console.error(`${said}\n${' '.repeat(read.at)}^ ${why.understood ? '' : why.reason}`);
    return 1;
  }
  const last = run.steps.length - 1;
  if (step !== null && (step < 1 || step > last + 1)) {
    console.error(`There is no step ${step}. Give one from 1 to ${last + 1}.`);
    return 1;
  }
  try {
    const lines = await tracedLines(scene, read.layer, run, step === null ? scene.step : step - 1, source);
    console.log(json ? JSON.stringify({ lines }) : lines.map(sayLine).join('\n'));
    return 0;
  } catch (error) {
    console.error((error as Error).message);
    return 1;
  }
}

const sayPlace = (place: number[]): string => `(${place.map((v) => Number(v.toPrecision(5))).join(', ')})`;

const sayLine = ({ seed, end, why, length, time, points }: TracedLine): string =>
  `from ${sayPlace(seed)} to ${sayPlace(end)}: ${why}; length ${Number(length.toPrecision(5))}, time ${Number(time.toPrecision(5))}, ${points.length} points`;
