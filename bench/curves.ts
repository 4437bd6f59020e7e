import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { RunDescription } from '#core/model/run.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { readAsk } from '#core/scene/read-ask.ts';
import { ArraySource } from '#engine/array-source.ts';
import { GaugeAnswers } from '#engine/gauge-answers.ts';
import { GeometryMaker } from '#engine/geometry-maker.ts';
import { measureParts } from '#engine/measuring.ts';
import { Ranges } from '#engine/ranges.ts';
import { importSteps, type MemoryStore, temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { compare, timedAsync } from './measure.ts';

const STEPS = 1000;
const ASKED = ['average of temperature over everything', 'maximum of temperature over everything'];

/** One step of a block, and so many more on its mesh, each with an array of its own. */
async function made(): Promise<{ run: RunDescription; load: MemoryStore['load']; names: Set<string> }> {
  const mesh = hexBlock(24);
  const { run, store } = await importSteps([
    {
      time: 0,
      parts: { oven: writeVtu(mesh, [temperature(mesh, (x, y, z) => x + y * z)], 0, { length: 'm' }) },
    },
  ]);
  const [part] = run.parts;
  const [key, first] = Object.entries(part.steps[0]!.fields)[0];
  const names = new Set<string>();
  const steps = Array.from({ length: STEPS }, (_, i) => {
    const ref = { ...first, hash: `step ${i}` };
    names.add(ref.hash);
    return { ...part.steps[0]!, fields: { [key]: ref } };
  });
  const whole: RunDescription = {
    ...run,
    parts: [{ ...part, steps }],
    steps: steps.map((_, i) => ({ index: i, time: i, kind: 'time', number: i + 1 })),
  };
  const load: MemoryStore['load'] = (ref) => store.load(names.has(ref.hash) ? first : ref);
  return { run: withOfferedQuantities(whole), load, names };
}

export async function benchCurves(): Promise<void> {
  const { run, load, names } = await made();
  const scene = defaultScene(run);
  const asks = ASKED.map((text) => {
    const ask = readAsk(text, scene, run);
    if ('at' in ask) throw new Error(text);
    return ask;
  });
  let reads = 0;
  const counted: typeof load = (ref) => {
    if (names.has(ref.hash)) reads++;
    return load(ref);
  };
  const ours = await timedAsync(async () => {
    const maker = new GeometryMaker(new ArraySource(counted, 64 * 2 ** 20));
    const gauges = new GaugeAnswers(new Ranges(run, null), (requests) => measureParts(maker, requests));
    await gauges.overSteps(asks, scene, [...run.steps.keys()]);
  }, 3);
  // The least there is to do: bring each array, and look at each of its numbers once for each question.
  const yardstick = await timedAsync(async () => {
    for (const step of run.parts[0].steps) {
      const values = new Float32Array(await load(Object.values(step!.fields)[0]));
      let [sum, most] = [0, -Infinity];
      for (let i = 0; i < values.length; i++) sum += values[i];
      for (let i = 0; i < values.length; i++) most = Math.max(most, values[i]);
      if (Number.isNaN(sum + most)) throw new Error('no number');
    }
  }, 3);
  compare(
    `two curves over ${STEPS.toLocaleString('en')} steps, 15,625 points`,
    ours,
    yardstick,
    'of one pass over each array for each',
  );
  // Four rounds, the first to warm up.
  console.log(`${''.padEnd(58)} ${(reads / 4 / STEPS).toFixed(2)} reads of each array, goal 1`);
}
