import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';

/** What `/render` draws, without a desk around it. */
export class RenderPage {
  private constructor(readonly page: Page) {}

  static async open(page: Page, address: string): Promise<RenderPage> {
    await page.goto(`${address}/render`);
    await page.waitForFunction(() => 'dresserRender' in window);
    return new RenderPage(page);
  }

  /** @param order as `RenderOrder` */
  async draw(order: object): Promise<PNG> {
    const picture = await this.page.evaluate(
      (o) =>
        (window as never as { dresserRender(o: unknown): Promise<{ picture: string }> })
          .dresserRender(o)
          .then((r) => r.picture),
      { step: 0, transparent: false, ...order },
    );
    return PNG.sync.read(Buffer.from(picture.split(',')[1], 'base64'));
  }
}

/** Root of the mean square of the differences of two pictures of one size, in levels of 255. */
export function rootMeanSquare(a: PNG, b: PNG): number {
  let sum = 0;
  for (let i = 0; i < a.data.length; i++) if (i % 4 < 3) sum += (a.data[i] - b.data[i]) ** 2;
  return Math.sqrt(sum / (0.75 * a.data.length));
}
