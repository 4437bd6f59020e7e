import { expect, it } from 'vitest';
import { sayPageAhead } from './say-page-ahead.ts';

it('says how large a page will be, and what can be turned in it', () => {
  const page = { bytes: 3 * 2 ** 20, living: 0, tooLarge: 0, unready: 0 };
  expect(sayPageAhead(page)).toBe('About 3.0 MB.');
  expect(sayPageAhead({ ...page, living: 1, unready: 1 })).toBe(
    'About 3.0 MB; 1 figure can be turned by its readers; 1 figure is not ready to be turned yet.',
  );
  expect(sayPageAhead({ ...page, living: 3, tooLarge: 2 })).toBe(
    'About 3.0 MB; 3 figures can be turned by its readers; 2 figures are too large for it.',
  );
  expect(sayPageAhead({ ...page, bytes: 20 * 2 ** 20 })).toBe(
    'About 20.0 MB; many mail servers take no more than 10 MB.',
  );
});
