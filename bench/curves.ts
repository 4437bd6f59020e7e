import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import type { RawMesh } from '#core/formats/format.ts';
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
const THROUGH = ['flow of velocity through section of everything at z = 0.51'];

/** One step of a block, and so many more on its mesh, each with an array of its own. */
async function made(): Promise<{
  run: RunDescription;
  load: MemoryStore['load'];
  names: ReadonlyMap<string, unknown>;
}> {
  const mesh = hexBlock(24);
  const { run, store } = await importSteps([
    {
      time: 0,
      parts: {
        oven: writeVtu(mesh, [temperature(mesh, (x, y, z) => x + y * z), velocity(mesh)], 0, { length: 'm' }),
      },
    },
  ]);
  const [part] = run.parts;
  const firsts = Object.entries(part.steps[0]!.fields);
  const names = new Map<string, (typeof firsts)[number][1]>();
  const steps = Array.from({ length: STEPS }, (_, i) => {
    const fields = firsts.map(([key, first]) => {
      const ref = { ...first, hash: `${key} ${i}` };
      names.set(ref.hash, first);
      return [key, ref] as const;
    });
    return { ...part.steps[0]!, fields: Object.fromEntries(fields) };
  });
  const whole: RunDescription = {
    ...run,
    parts: [{ ...part, steps }],
    steps: steps.map((_, i) => ({ index: i, time: i, kind: 'time', number: i + 1 })),
  };
  const load: MemoryStore['load'] = (ref) => store.load(names.get(ref.hash) ?? ref);
  return { run: withOfferedQuantities(whole), load, names };
}

const velocity = (mesh: RawMesh) => ({
  name: 'velocity',
  location: 'point' as const,
  components: 3,
  data: Float32Array.from(mesh.points, (v) => 1 + v),
});

export async function benchCurves(): Promise<void> {
  const { run, load, names } = await made();
  const scene = defaultScene(run);
  const asksOf = (texts: string[]) =>
    texts.map((text) => {
      const ask = readAsk(text, scene, run);
      if ('at' in ask) throw new Error(text);
      return ask;
    });
  let reads = 0;
  const counted: typeof load = (ref) => {
    if (names.has(ref.hash)) reads++;
    return load(ref);
  };
  const overSteps = async (texts: string[]): Promise<void> => {
    const maker = new GeometryMaker(new ArraySource(counted, 64 * 2 ** 20));
    const gauges = new GaugeAnswers(new Ranges(run, null), (requests) => measureParts(maker, requests));
    await gauges.overSteps(asksOf(texts), scene, [...run.steps.keys()]);
  };
  const ours = await timedAsync(() => overSteps(ASKED), 3);
  // The least there is to do: bring each array, and look at each of its numbers once for each question.
  const yardstick = await timedAsync(async () => {
    for (const step of run.parts[0].steps) {
      const scalar = Object.entries(step!.fields).find(([key]) => key.includes('temperature'))![1];
      const values = new Float32Array(await load(scalar));
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
  // Where a section is met by the flow is the same at every step.
  compare(
    `flow through a section over ${STEPS.toLocaleString('en')} steps, 576 faces`,
    await timedAsync(() => overSteps(THROUGH), 3),
    yardstick,
    'of the same passes',
  );
}
