import { expect, it } from 'vitest';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import { ovenRun } from '../../../tests/sample-run.ts';
import { pageDocument } from './page-document.ts';
import { fileName } from './work-state.ts';

it('a page holds its words as text, its figures in itself, and the facts of the run', async () => {
  const run = { ...(await ovenRun()), name: '<b>oven</b>', warnings: ['a & b'] };
  const figure = { picture: 'data:image/png;base64,AAAA', caption: '"hot" & <cold>', width: 16, height: 9 };
  const html = pageDocument('T < U', 'first words', [figure, figure], run);
  expect(html).toContain('<title>T &lt; U</title>');
  expect(html).toContain('alt="&quot;hot&quot; &amp; &lt;cold&gt;"');
  expect(html).toContain('<b>Figure 2.</b>');
  expect(html).toContain('&lt;b&gt;oven&lt;/b&gt;, 3 steps, t = 0 to 10 s.');
  expect(html).toContain('<td>64 hexahedron</td>');
  expect(html).toContain('<td>temperature</td><td>point</td><td>°C</td><td>20 to 46</td>');
  expect(html).toContain('a &amp; b');
  expect(html).not.toMatch(/<script|https?:/);
});

it('names of files are safe everywhere', () => {
  expect(['Oven: 2/3?', '  ', 'Öfen für Brot', 'a\\b|c'].map(fileName)).toEqual([
    'Oven-2-3',
    'picture',
    'Öfen-für-Brot',
    'a-b-c',
  ]);
  expect([500, 20_480, 3 * 2 ** 20].map(sayBytes)).toEqual(['500 B', '20 KB', '3.0 MB']);
});
