import { mkdtempSync, rmSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { identityRecipe, replay } from '#core/model/recipe.ts';
import type { ArrayRef } from '#core/model/run.ts';
import { ArraySource } from '#engine/array-source.ts';
import { ArrayStore } from '#web/server/array-store.ts';

const STEPS = 1000;
const POINTS = 1.4e6;
/** Steps kept in the store; the thousand are played from them over and over, under names of their own. */
const STORED = 40;
const AHEAD = 3;

/**
 * Plays a thousand steps of 1.4 million points from the store, with the steps ahead under way, and tells the mean and
 * the longest time of a step and the growth of the memory.
 */
export async function benchPlaying(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'dresser-bench-'));
  try {
    const store = new ArrayStore(folder);
    const stored: ArrayRef[] = [];
    for (let s = 0; s < STORED; s++)
      stored.push(await store.put(Float32Array.from({ length: POINTS }, (_, i) => Math.sin(i * 1e-4 + s))));
    const steps = Array.from({ length: STEPS }, (_, s) => ({ ...stored[s % STORED], hash: `step-${s}` }));
    const load = async (ref: ArrayRef): Promise<ArrayBuffer> => {
      const bytes = await readFile(store.pathOf(stored[Number(ref.hash.slice(5)) % STORED].hash));
      return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) as ArrayBuffer;
    };
    const source = new ArraySource(load, 256 * 2 ** 20);
    const recipe = identityRecipe(POINTS, 0).points;
    const out = new Float32Array(POINTS);
    const times: number[] = [];
    let first = 0;
    let most = 0;
    for (let s = 0; s < STEPS; s++) {
      const began = performance.now();
      for (let a = 1; a <= AHEAD; a++) void source.get(steps[(s + a) % STEPS]);
      replay(recipe, await source.get(steps[s]), 1, 0, false, out);
      times.push(performance.now() - began);
      const used = process.memoryUsage().rss / 2 ** 20;
      if (s === 150) first = used;
      if (s > 150) most = Math.max(most, used);
    }
    times.sort((a, b) => a - b);
    const mean = times.reduce((a, b) => a + b, 0) / STEPS;
    console.log(
      `play 1,000 steps of 1.4e6 points: ${mean.toFixed(1)} ms a step, the slowest ${times[STEPS - 1].toFixed(1)} ms; memory ${first.toFixed(0)} MB after 150 steps, at most ${most.toFixed(0)} MB later`,
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
