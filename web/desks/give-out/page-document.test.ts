import { expect, it } from 'vitest';
import { fileName } from '#core/language/file-name.ts';
import type { RunDescription } from '#core/model/run.ts';
import { sayBytes } from '#web/desks/shared/say-bytes.ts';
import { ovenRun } from '../../../tests/sample-run.ts';
import { pageDocument } from './page-document.ts';

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

/** A copy in which every text is another one. */
function withTexts(value: unknown, text: (was: string) => string): unknown {
  if (typeof value === 'string') return text(value);
  if (Array.isArray(value)) return value.map((v) => withTexts(v, text));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, withTexts(v, text)]));
}

it('no text of a run, a title or a caption becomes markup, whichever it is', async () => {
  const evil =
    "\"><script>window.hurt=1</script><img src=x onerror='window.hurt=1'>]]>--><svg onload=hurt()>";
  const run = await ovenRun();
  const page = (mark: string): string => {
    const texts = withTexts({ ...run, warnings: ['a', 'b'] }, (was) => was + mark) as RunDescription;
    texts.parts[0].meshes[0].cellsByType = { [`hexahedron${mark}`]: 3 };
    texts.timeUnit = `s${mark}`;
    const figure = { picture: 'data:image/png;base64,AAAA', caption: `hot${mark}`, width: 16, height: 9 };
    return pageDocument(`T${mark}`, `words${mark}`, [figure], texts);
  };
  const tags = (html: string): string[] => [...html.matchAll(/<\/?([a-z!]+)/g)].map((m) => m[0]);
  const attributes = (html: string): number => html.match(/ [a-z-]+="/g)!.length;
  const [plain, hostile] = [page(''), page(evil)];
  expect(hostile.split('&lt;script&gt;').length).toBeGreaterThan(10);
  expect(tags(hostile)).toEqual(tags(plain));
  expect(attributes(hostile)).toBe(attributes(plain));
});

it('names of files are safe everywhere', () => {
  expect(['Oven: 2/3?', '  ', 'Öfen für Brot', 'a\\b|c'].map((name) => fileName(name))).toEqual([
    'Oven-2-3',
    'picture',
    'Öfen-für-Brot',
    'a-b-c',
  ]);
  expect([500, 20_480, 3 * 2 ** 20].map(sayBytes)).toEqual(['500 B', '20 KB', '3.0 MB']);
});
