import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { DemoRuns } from './demo-run.ts';
import { compare } from './measure.ts';
import { memoryOf } from './memory.ts';

/** Cells along an edge of a block of about a million. */
const EDGE = 100;
const PANES = 9;
/** So long an unhurried machine may take to draw all panes, in milliseconds. */
const DRAWN_WITHIN = 1_800_000;

/** What the browser holds with nine panes of one run, against one pane of it; what it holds without any is told beside. */
export async function benchPanes(): Promise<void> {
  await DemoRuns.during(async ({ served, browser, pid }) => {
    const mesh = hexBlock(EDGE);
    const field = temperature(mesh, (x, y, z) => 20 + 40 * x * y + 10 * z);
    const { run } = await served.imported({ 'oven.vtu': writeVtu(mesh, [field], null) });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, deviceScaleFactor: 0.5 });
    await page.addInitScript(() => localStorage.setItem('passes-at-rest', '2'));
    const devtools = await page.context().newCDPSession(page);
    const held = async (): Promise<number> => {
      await devtools.send('HeapProfiler.collectGarbage');
      await page.waitForTimeout(3000);
      return memoryOf(pid) / 2 ** 20;
    };
    const opened = async (panes: number): Promise<number> => {
      const { answer } = await served.send<{ id: string }>('POST', '/api/beside', {
        name: `${panes} panes`,
        of: { kind: 'runs', runs: Array.from({ length: panes }, () => run), shot: null, set: null },
      });
      await page.goto(`${served.address}/sheets/beside/${answer.id}`);
      await page.waitForFunction(
        (wanted) => {
          const all = [...document.querySelectorAll<HTMLElement>('[data-testid=pane]')];
          return all.length === wanted && all.every((p) => p.dataset.settled === 'true');
        },
        panes,
        { timeout: DRAWN_WITHIN },
      );
      return held();
    };
    await page.goto(served.address);
    const nothing = await held();
    const one = await opened(1);
    await page.goto(served.address);
    const nine = await opened(PANES);
    console.log(`the browser without any pane holds ${nothing.toFixed(0)} MB`);
    compare(`memory with ${PANES} panes of one run, against one`, nine, one, '', 'MB');
  });
}
