import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import type { RenderOrder } from '#web/desks/render/render-order.ts';
import { DrawingPage } from './drawing-page.ts';

/**
 * A page that makes of an order the digits of its step, so many as it is wide, and the same again in other formats; it keeps
 * only what it made last.
 */
function pretended(): Page {
  let last: string[] = [];
  const answers = [
    async ({ step, width, also = [] }: RenderOrder) => {
      if (width === 0) throw new Error('nothing to draw');
      const digits = String(step).repeat(width);
      last = [digits, ...also.map((format) => `${format}${digits}`)];
      // Another order may come in meanwhile.
      await new Promise((resolve) => setTimeout(resolve, 5));
      const [file, ...others] = last.map((text) => ({ bytes: text.length, ending: 'txt' }));
      return { ...file, also: others, mismatches: [], findings: [] };
    },
    async ([from, to, of]: [number, number, number]) =>
      Buffer.from(last[of]).subarray(from, to).toString('base64'),
  ];
  return {
    goto: async () => null,
    waitForFunction: async () => null,
    evaluate: (_: unknown, given: RenderOrder | number[]) =>
      Array.isArray(given) ? answers[1](given as never) : answers[0](given as never),
  } as unknown as Page;
}

describe('the page that draws', () => {
  const order = (step: number, width: number): RenderOrder => ({ step, width }) as RenderOrder;
  const made = async (page: DrawingPage, step: number, width: number): Promise<string> => {
    const pieces: Buffer[] = [];
    await page.make(order(step, width), async (piece) => pieces.push(piece));
    return Buffer.concat(pieces).toString();
  };

  it('gives everyone the file that was asked for, also where several ask at once', async () => {
    const page = await DrawingPage.open(pretended(), '');
    const [first, second] = await Promise.all([made(page, 1, 3), made(page, 2, 5)]);
    expect([first, second]).toEqual(['111', '22222']);
  });
  it('gives a file of several pieces whole', async () => {
    const page = await DrawingPage.open(pretended(), '');
    const large = await made(page, 7, 9 * 2 ** 20);
    expect(large.length).toBe(9 * 2 ** 20);
    expect(/^7+$/.test(large)).toBe(true);
  });
  it('gives the same in other formats beside it, each whole and apart', async () => {
    const page = await DrawingPage.open(pretended(), '');
    const taken: string[] = ['', '', ''];
    const drawn = await page.make({ ...order(3, 2), also: ['a', 'b'] }, async (piece, of) => {
      taken[of] += piece.toString();
    });
    expect(taken).toEqual(['33', 'a33', 'b33']);
    expect(drawn.also.map((a) => a.bytes)).toEqual([3, 3]);
  });
  it('goes on after one that failed', async () => {
    const page = await DrawingPage.open(pretended(), '');
    const failed = made(page, 1, 0);
    const next = made(page, 4, 2);
    await expect(failed).rejects.toThrow('nothing to draw');
    expect(await next).toBe('44');
  });
});
