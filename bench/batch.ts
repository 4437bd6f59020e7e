import { type BatchSettings, usualBatch } from '#core/batch/batch-settings.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Scene } from '#core/scene/document.ts';
import { Served } from '../tests/attack/served.ts';
import { temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { DemoRuns } from './demo-run.ts';
import { heldMemory } from './held-memory.ts';
import { compare } from './measure.ts';

/** Cells along an edge of a block of about 60,000, and how many of these are drawn. */
const EDGE = 39;
const RUNS = 32;
const PICTURE = { width: 960, height: 540 };
/** Far fewer than of a picture that goes out: what comes beside drawing weighs the more. */
const PASSES = 4;
/** So many pictures while memory is looked at, and how large they are. */
const MANY = 500;
const SMALL = { width: 96, height: 72 };

/** A block of an oven: the n-th is a little warmer than the one before. */
const block = (edge: number, n: number): Uint8Array => {
  const mesh = hexBlock(edge);
  return writeVtu(mesh, [temperature(mesh, (x, y, z) => 20 + n + 40 * x * y + 10 * z)], null);
};

/** Runs in a set, with a shot of the first. */
async function setOf(served: Served, edge: number, count: number) {
  const runs: string[] = [];
  let first = { run: '', scene: '' };
  for (let n = 0; n < count; n++) {
    const made = await served.imported({ [`oven_${n}.vtu`]: block(edge, n) });
    if (n === 0) first = made;
    runs.push(made.run);
  }
  const { answer } = await served.send<{ document: Scene }>('GET', `/api/scenes/${first.scene}`);
  const { document } = answer;
  const thumbnail = 'data:image/png;base64,iVBORw0KGgo=';
  const shot = await served.send<{ id: string }>('POST', `/api/scenes/${first.scene}/shots`, {
    name: 'walls',
    document,
    thumbnail,
  });
  const set = await served.send<{ id: string }>('POST', '/api/sets', { name: 'Ovens', runs });
  return { runs, document, shot: shot.answer.id, set: set.answer.id };
}

async function begun(
  served: Served,
  { set, shot, runs }: { set: string; shot: string; runs: string[] },
  settings: Partial<BatchSettings>,
): Promise<string> {
  const { answer } = await served.send<{ job: string }>('POST', '/api/batches', {
    set,
    settings: { ...usualBatch, shots: [shot], ...settings },
    runs,
    folder: 'bench',
    again: true,
  });
  return answer.job;
}

/** Thirty-two pictures of a scene of 60,000 cells, one of each run with reading it, against as many bare drawings of it. */
export async function benchBatch(): Promise<void> {
  await DemoRuns.during(async ({ served, drawing }) => {
    const made = await setOf(served, EDGE, RUNS);
    const began = performance.now();
    const job = await begun(served, made, { sizes: [PICTURE], passes: PASSES });
    if (!(await served.follow(job))) throw new Error('The batch was not made.');
    const batch = performance.now() - began;
    const draw = () => drawing.draw({ run: made.runs[0], scene: made.document, passes: PASSES, ...PICTURE });
    await draw();
    const bareBegan = performance.now();
    for (let i = 0; i < RUNS; i++) await draw();
    const bare = performance.now() - bareBegan;
    compare('32 pictures of a set, with reading, against 32 bare drawings', batch, bare, 'at most 1.5');
  });
}

/** What server and browser hold together near the end of 500 pictures of as many runs, against a quarter of the way. */
export async function benchBatchMemory(): Promise<void> {
  const served = await new Served().start();
  try {
    const made = await setOf(served, 6, MANY);
    const job = await begun(served, made, { sizes: [SMALL], passes: 1, scales: 'each' });
    const between = await heldMemory(served, job);
    compare(
      'memory near the end of 500 pictures, against a quarter of the way',
      between(0.9, 1),
      between(0.25, 0.35),
      'at most 1.1',
      'MB',
    );
  } finally {
    await served.remove();
  }
}
