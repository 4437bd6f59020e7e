import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { LargeScene, millionHexahedra } from './large-scene.ts';
import { differing, pictureOnScreen, settled } from './site.ts';

/** How long the page lets the hand wait is measured by `npm run bench -- --waiting`. */
describe('a million hexahedra', () => {
  const cells = new LargeScene(millionHexahedra);

  beforeAll(() => cells.open());
  afterAll(() => cells.close());

  it('leave the desk at work from their first picture on', () => cells.choose());

  it('follow the camera, and come to rest', async () => {
    const before = await pictureOnScreen(cells.page);
    await cells.followed(() => cells.turn());
    await settled(cells.page);
    expect(differing(before, await pictureOnScreen(cells.page))).toBeGreaterThan(0.05);
  });

  it('a section through them follows the hand', async () => {
    const word = await cells.addSection();
    const before = await word.textContent();
    await cells.followed(() => cells.drag(word, 1, 0));
    expect(await word.textContent()).not.toBe(before);
  });
});
