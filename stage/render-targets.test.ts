import { expect, it } from 'vitest';
import { Sized } from './render-targets.ts';

function counted() {
  const log: string[] = [];
  const sized = new Sized((width, height) => {
    log.push(`made ${width}x${height}`);
    return { width, height, dispose: () => void log.push(`gone ${width}x${height}`) };
  });
  return { log, sized };
}

it('what has the size of a picture is made once for each of the sizes that are drawn by turns', () => {
  const { log, sized } = counted();
  for (let pass = 0; pass < 20; pass++)
    for (const width of [30, 70]) expect(sized.of(width, 10)).toMatchObject({ width, height: 10 });
  expect(log).toEqual(['made 30x10', 'made 70x10']);
  // The same twice in a row is the same thing.
  expect(sized.of(30, 10)).toBe(sized.of(30, 10));
});

it('is given up soon where its size is not asked for any more', () => {
  const { log, sized } = counted();
  sized.of(30, 10);
  for (let pass = 0; pass < 10; pass++) sized.of(50, 10);
  expect(log).toEqual(['made 30x10', 'made 50x10', 'gone 30x10']);
  sized.dispose();
  expect(log.at(-1)).toBe('gone 50x10');
  sized.of(50, 10);
  expect(log.at(-1)).toBe('made 50x10');
});

it('a size that changes at every picture, as where a wipe moves, leaves no more than a few behind', () => {
  const { log, sized } = counted();
  let most = 0;
  for (let width = 1; width < 100; width++) {
    sized.of(width, 10);
    const there =
      log.filter((l) => l.startsWith('made')).length - log.filter((l) => l.startsWith('gone')).length;
    most = Math.max(most, there);
  }
  expect(most).toBeLessThanOrEqual(6);
});
