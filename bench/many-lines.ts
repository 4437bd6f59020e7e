import { chromium } from 'playwright-core';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import { readScript } from '#core/scene/scene-script.ts';
import { chromiumFlags, chromiumPath } from '#web/server/chromium.ts';
import { Served } from '../tests/attack/served.ts';
import { RenderPage } from '../tests/browser/render-page.ts';
import { compare } from './measure.ts';
import { memoryOf } from './memory.ts';

const SIZE = { width: 640, height: 400 };
const MANY = 200;
const PASSES = 8;
/** Added and removed so often: what is lost each time adds up. */
const ROUNDS = 3;

/** What two hundred lines take, and whether the memory of page and card comes back when they are gone. */
export async function benchManyLines(): Promise<void> {
  const served = await new Served().start([process.cwd()]);
  const server = await chromium.launchServer({ executablePath: chromiumPath(), args: chromiumFlags });
  const browser = await chromium.connect(server.wsEndpoint());
  try {
    const made = await served.importPaths(['data/demo/oven-warm-up/oven-warm-up.xdmf']);
    if (!made) throw new Error('The demo oven is not there yet: npm start computes it.');
    const { answer } = await served.send<{ document: Scene }>('GET', `/api/scenes/${made.scene}`);
    const { description } = (
      await served.send<{ description: RunDescription }>('GET', `/api/runs/${made.run}`)
    ).answer;
    const run = withOfferedQuantities(description);
    const of = (lines: number): Scene => {
      const said = Array.from(
        { length: lines },
        (_, n) => `Section of everything at x = ${(0.02 + (0.7 * n) / lines).toFixed(4)} m`,
      );
      return { ...readScript(said.join('\n'), run), camera: answer.document.camera };
    };
    const drawing = await RenderPage.open(await browser.newPage(), served.address);
    const devtools = await drawing.page.context().newCDPSession(drawing.page);
    const draw = async (scene: Scene, passes: number): Promise<number> => {
      const began = performance.now();
      await drawing.draw({ run: made.run, scene, step: answer.document.step, ...SIZE, passes });
      return performance.now() - began;
    };
    const pass = async (scene: Scene): Promise<number> => {
      const first = await draw(scene, 1);
      return ((await draw(scene, 1 + PASSES)) - Math.min(first, await draw(scene, 1))) / PASSES;
    };
    const held = async (): Promise<{ page: number; all: number }> => {
      await devtools.send('HeapProfiler.collectGarbage');
      const { usedSize } = await devtools.send('Runtime.getHeapUsage');
      return { page: usedSize / 2 ** 20, all: memoryOf(server.process().pid!) / 2 ** 20 };
    };
    const say = (what: string, { page, all }: { page: number; all: number }): void =>
      console.log(`memory ${what}: page ${page.toFixed(0)} MB, all of the browser ${all.toFixed(0)} MB`);
    compare(`a pass with ${MANY} lines, against one with one`, await pass(of(MANY)), await pass(of(1)), '');
    say('with one line', await held());
    for (let round = 0; round < ROUNDS; round++) {
      await draw(of(MANY), 2);
      say(`with ${MANY} lines`, await held());
      await draw(of(1), 2);
      say('with one line again', await held());
    }
  } finally {
    await browser.close();
    await server.close();
    await served.remove();
  }
}
