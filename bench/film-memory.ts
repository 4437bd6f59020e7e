import type { Scene } from '#core/scene/document.ts';
import { Served } from '../tests/attack/served.ts';
import { ovenSteps } from '../tests/sample-run.ts';
import { turning } from './film.ts';
import { heldMemory } from './held-memory.ts';
import { compare } from './measure.ts';

const SIZE = { width: 160, height: 120 };
const RATE = 25;
const COUNT = 1000;

/** What server and browser hold together near the end of a film of 1,000 pictures, against a quarter of the way. */
export async function benchFilmMemory(): Promise<void> {
  const served = await new Served().start();
  try {
    const steps = Object.fromEntries(ovenSteps().map((s, n) => [`oven_${n}.vtu`, s.parts.oven]));
    const made = await served.imported(steps);
    const { answer } = await served.send<{ document: Scene }>('GET', `/api/scenes/${made.scene}`);
    const { document } = answer;
    const film = turning({ ...document, reel: { ...document.reel, seconds: COUNT / RATE, rate: RATE } });
    const order = { scene: film, ...SIZE, passes: 1, films: [{ format: 'mp4', quality: 'small' }] };
    const { job } = (await served.send<{ job: string }>('POST', `/api/runs/${made.run}/films`, order)).answer;
    const between = await heldMemory(served, job);
    // Pictures take nine tenths of the work.
    compare(
      'memory near the end of 1,000 pictures, against a quarter of the way',
      between(0.8, 0.9),
      between(0.2, 0.3),
      'at most 1.1',
      'MB',
    );
  } finally {
    await served.remove();
  }
}
