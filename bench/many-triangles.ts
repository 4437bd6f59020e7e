import { LargeScene } from '../tests/browser/large-scene.ts';
import { triangles } from './made-meshes.ts';

/** Squares along an edge of the sheet: 5.1 million triangles. */
const EDGE = 1600;
const PATIENCE = 300_000;

/** How a page with five million triangles can be worked with: until its first picture, while it is turned, and its answers. */
export async function benchManyTriangles(): Promise<void> {
  const scene = new LargeScene(() => triangles(EDGE));
  try {
    const began = performance.now();
    await scene.open(PATIENCE);
    console.log(`${2 * EDGE ** 2} triangles: first picture after ${seconds(performance.now() - began)}`);
    const turned = performance.now();
    const { gap, task, shown } = await scene.watching(() => scene.turn());
    const took = performance.now() - turned;
    console.log(
      `while they are turned: ${((1000 * shown) / took).toFixed(1)} pictures a second, ${gap.toFixed(0)} ms between two frames of the page at most, ${task.toFixed(0)} ms its longest task`,
    );
    const chosen = await scene.watching(() => scene.choose());
    // Faster answers are not told.
    console.log(`a click is answered within ${Math.max(16, chosen.click).toFixed(0)} ms`);
  } finally {
    await scene.close();
  }
}

const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;
