import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import type { RenderAnswer, RenderOrder } from '#web/desks/render/render-order.ts';
import { DrawingPage } from '#web/server/drawing-page.ts';

/** What `/render` draws, without a desk around it. */
export class RenderPage {
  private constructor(private readonly drawing: DrawingPage) {}

  static async open(page: Page, address: string): Promise<RenderPage> {
    return new RenderPage(await DrawingPage.open(page, address));
  }

  get page(): Page {
    return this.drawing.page;
  }

  /** @param order without what is usual: the first step, on a backdrop */
  async draw(order: Order): Promise<PNG> {
    return PNG.sync.read((await this.make(order)).bytes);
  }

  /** A file of any format. */
  async make(order: Order): Promise<{ bytes: Buffer; file: RenderAnswer }> {
    const pieces: Buffer[] = [];
    const file = await this.drawing.make({ step: 0, transparent: false, ...order }, async (piece) =>
      pieces.push(piece),
    );
    return { bytes: Buffer.concat(pieces), file };
  }
}

type Order = Omit<RenderOrder, 'step' | 'transparent'> & Partial<Pick<RenderOrder, 'step' | 'transparent'>>;

/** Root of the mean square of the differences of two pictures of one size, in levels of 255. */
export function rootMeanSquare(a: PNG, b: PNG): number {
  let sum = 0;
  for (let i = 0; i < a.data.length; i++) if (i % 4 < 3) sum += (a.data[i] - b.data[i]) ** 2;
  return Math.sqrt(sum / (0.75 * a.data.length));
}
