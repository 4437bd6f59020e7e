import { LargeScene, millionHexahedra, type Watched } from '../tests/browser/large-scene.ts';
import { compare } from './measure.ts';

/** What else the machine does can only lengthen a wait: the best of so many tries is the page's own. */
const TRIES = 3;

/** The figures of the design, in milliseconds. */
const GOALS = { gap: 250, task: 50, click: 300 };
const NAMES = { gap: 'between two frames', task: 'a task of the page', click: 'a click' };

/** The longest waits on a page with a million hexahedra drawn by a processor, against the longest that may be. */
export async function benchWaiting(): Promise<void> {
  const cells = new LargeScene(millionHexahedra);
  try {
    await cells.open();
    const { page } = cells;
    // The first opening of choices takes longer (80 ms of the page's thread): their code is made ready then.
    await cells.choose();
    await page.waitForTimeout(500);
    await watched(cells, 'while it becomes finer', ['gap', 'task', 'click'], async () => {
      for (let i = 0; i < 4; i++) {
        await page.waitForTimeout(900);
        await cells.choose();
      }
      await page.waitForTimeout(3000);
    });
    await watched(cells, 'while it turns', ['gap'], () => cells.turn());
    const word = await cells.addSection();
    await watched(cells, 'while a section is dragged', ['gap'], () => cells.drag(word, 1, 0));
  } finally {
    await cells.close();
  }
}

async function watched(
  cells: LargeScene,
  when: string,
  what: (keyof typeof GOALS)[],
  act: () => Promise<void>,
): Promise<void> {
  const tries: Watched[] = [];
  const began = performance.now();
  for (let i = 0; i < TRIES; i++) tries.push(await cells.watching(act));
  const least = (of: keyof Watched): number => Math.min(...tries.map((t) => t[of]));
  for (const of of what) compare(`a million cells, ${when}: ${NAMES[of]}`, least(of), GOALS[of], 'at most 1');
  const shown = tries.reduce((sum, t) => sum + t.shown, 0);
  console.log(`  (${((1000 * shown) / (performance.now() - began)).toFixed(1)} pictures a second)`);
}
