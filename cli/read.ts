import { defaultScene } from '#core/scene/default-scene.ts';
import { type Explained, explainSentence } from '#core/scene/explain-sentence.ts';
import { readFirstRun } from './read-runs.ts';

/** Says how sentences are understood on a run; returns the exit code: 1 when one is not, or nothing could be read. */
export async function readSentences(files: string[], said: string[], json: boolean): Promise<number> {
  const run = await readFirstRun(files);
  if (!run) return 1;
  const scene = defaultScene(run);
  const lines = said.map((text) => explainSentence(text, scene, run));
  console.log(json ? JSON.stringify({ lines }, null, 1) : lines.map(inWords).join('\n'));
  return lines.every((l) => l.understood) ? 0 : 1;
}

const inWords = (line: Explained): string =>
  line.understood
    ? `${line.text}\n  is read as: ${line.sentence}`
    : `${line.text}\n${' '.repeat(line.at)}^ ${line.reason}${line.nearest ? `\n  nearest: ${line.nearest}` : ''}`;
