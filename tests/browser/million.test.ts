import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { MillionCells } from './million-cells.ts';
import { settled } from './site.ts';

/** How long the page lets the hand wait is measured by `npm run bench -- --waiting`. */
describe('a million hexahedra', () => {
  const cells = new MillionCells();

  beforeAll(() => cells.open());
  afterAll(() => cells.close());

  it('leave the desk at work while their picture becomes finer', async () => {
    await cells.choose();
    expect(await cells.page.locator('[data-settled=true]').count()).toBe(0);
  });

  it('follow the camera, and come to rest', async () => {
    const seen = await cells.watching(() => cells.turn());
    expect(seen.shown).toBeGreaterThan(0);
    await settled(cells.page);
  });

  it('a section through them follows the hand', async () => {
    const word = await cells.addSection();
    const before = await word.textContent();
    const seen = await cells.watching(() => cells.drag(word, 1, 0));
    expect(seen.shown).toBeGreaterThan(0);
    expect(await word.textContent()).not.toBe(before);
  });
});
