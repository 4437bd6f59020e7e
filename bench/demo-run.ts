import { type Browser, type BrowserServer, chromium } from 'playwright-core';
import type { Scene } from '#core/scene/document.ts';
import { chromiumFlags, chromiumPath } from '#web/server/chromium.ts';
import { Served } from '../tests/attack/served.ts';
import { RenderPage } from '../tests/browser/render-page.ts';

export const OVEN = 'oven-warm-up/oven-warm-up.xdmf';

/** A server with demo runs and a browser that draws them, while a benchmark lasts. */
export class DemoRuns {
  private constructor(
    readonly served: Served,
    private readonly process: BrowserServer,
    readonly browser: Browser,
    readonly drawing: RenderPage,
  ) {}

  static async during(work: (runs: DemoRuns) => Promise<void>): Promise<void> {
    const served = await new Served().start([process.cwd()]);
    const server = await chromium.launchServer({ executablePath: chromiumPath(), args: chromiumFlags });
    const browser = await chromium.connect(server.wsEndpoint());
    try {
      const drawing = await RenderPage.open(await browser.newPage(), served.address);
      await work(new DemoRuns(served, server, browser, drawing));
    } finally {
      await browser.close();
      await server.close();
      await served.remove();
    }
  }

  /** Of the browser. */
  get pid(): number {
    return this.process.process().pid!;
  }

  /**
   * A run of the demo data and the scene it opens with.
   *
   * @param file below the folder of the demo data
   */
  async open(file: string): Promise<{ run: string; scene: Scene }> {
    const made = await this.served.importPaths([`data/demo/${file}`]);
    if (!made) throw new Error(`The demo run ${file} is not there yet: npm start computes it.`);
    const { answer } = await this.served.send<{ document: Scene }>('GET', `/api/scenes/${made.scene}`);
    return { run: made.run, scene: answer.document };
  }
}
