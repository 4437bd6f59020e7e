import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import { readScript } from '#core/scene/scene-script.ts';
import { DemoRuns, OVEN } from './demo-run.ts';
import { compare } from './measure.ts';
import { memoryOf } from './memory.ts';

const SIZE = { width: 640, height: 400 };
const MANY = 200;
const PASSES = 8;
/** Added and removed so often: what is lost each time adds up. */
const ROUNDS = 3;

/** What two hundred lines take, and whether the memory of page and card comes back when they are gone. */
export async function benchManyLines(): Promise<void> {
  await DemoRuns.during(async (runs) => {
    const { drawing } = runs;
    const opened = await runs.open(OVEN);
    const { description } = (
      await runs.served.send<{ description: RunDescription }>('GET', `/api/runs/${opened.run}`)
    ).answer;
    const run = withOfferedQuantities(description);
    const of = (lines: number): Scene => {
      const said = Array.from(
        { length: lines },
        (_, n) => `Section of everything at x = ${(0.02 + (0.7 * n) / lines).toFixed(4)} m`,
      );
      return { ...readScript(said.join('\n'), run), camera: opened.scene.camera };
    };
    const devtools = await drawing.page.context().newCDPSession(drawing.page);
    const draw = async (scene: Scene, passes: number): Promise<number> => {
      const began = performance.now();
      await drawing.draw({ run: opened.run, scene, step: opened.scene.step, ...SIZE, passes });
      return performance.now() - began;
    };
    const pass = async (scene: Scene): Promise<number> => {
      const first = await draw(scene, 1);
      return ((await draw(scene, 1 + PASSES)) - Math.min(first, await draw(scene, 1))) / PASSES;
    };
    const held = async (): Promise<{ page: number; all: number }> => {
      await devtools.send('HeapProfiler.collectGarbage');
      const { usedSize } = await devtools.send('Runtime.getHeapUsage');
      return { page: usedSize / 2 ** 20, all: memoryOf(runs.pid) / 2 ** 20 };
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
  });
}
