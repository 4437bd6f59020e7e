import { chromium } from 'playwright-core';
import type { Scene } from '#core/scene/document.ts';
import { chromiumFlags, chromiumPath } from '#web/server/chromium.ts';
import { Served } from '../tests/attack/served.ts';
import { RenderPage, rootMeanSquare } from '../tests/browser/render-page.ts';

const PASSES = [16, 20, 48, 128];
const MANY = 1024;
const SIZE = { width: 480, height: 310 };

/** How far the picture of few passes of the demo oven is from that of very many, in levels of 255, and what it takes. */
export async function benchLight(): Promise<void> {
  const served = await new Served().start([process.cwd()]);
  const browser = await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
  try {
    const made = await served.importPaths(['data/demo/oven-warm-up/oven-warm-up.xdmf']);
    if (!made) throw new Error('The demo oven is not there yet: npm start computes it.');
    const { run } = made;
    const { answer } = await served.send<{ document: Scene }>('GET', `/api/scenes/${made.scene}`);
    const drawing = await RenderPage.open(await browser.newPage(), served.address);
    const order = { run, scene: answer.document, step: answer.document.step, ...SIZE };
    const goal = await drawing.draw({ ...order, passes: MANY });
    for (const passes of PASSES) {
      const began = performance.now();
      const picture = await drawing.draw({ ...order, passes });
      const took = (performance.now() - began) / passes;
      console.log(
        `light of the demo oven, ${String(passes).padStart(3)} passes against ${MANY}: ${rootMeanSquare(picture, goal).toFixed(2)} levels, ${took.toFixed(0)} ms a pass`,
      );
    }
  } finally {
    await browser.close();
    await served.remove();
  }
}
