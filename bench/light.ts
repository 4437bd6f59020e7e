import { rootMeanSquare } from '../tests/browser/render-page.ts';
import { DemoRuns, OVEN } from './demo-run.ts';

const PASSES = [16, 20, 48, 128];
const MANY = 1024;
const SIZE = { width: 480, height: 310 };

/** How far the picture of few passes of the demo oven is from that of very many, in levels of 255, and what it takes. */
export async function benchLight(): Promise<void> {
  await DemoRuns.during(async (runs) => {
    const { drawing } = runs;
    const { run, scene } = await runs.open(OVEN);
    const order = { run, scene, step: scene.step, ...SIZE };
    const goal = await drawing.draw({ ...order, passes: MANY });
    for (const passes of PASSES) {
      const began = performance.now();
      const picture = await drawing.draw({ ...order, passes });
      const took = (performance.now() - began) / passes;
      console.log(
        `light of the demo oven, ${String(passes).padStart(3)} passes against ${MANY}: ${rootMeanSquare(picture, goal).toFixed(2)} levels, ${took.toFixed(0)} ms a pass`,
      );
    }
  });
}
