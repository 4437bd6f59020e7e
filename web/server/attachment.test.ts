import { expect, it } from 'vitest';
import { attachment } from './attachment.ts';

it('carries names of any script in a header, and the file as it is', async () => {
  const name = 'Brot & Zeit "2" – فرن 🍞.html';
  const answer = attachment(name, 'text/html', '<p>warm</p>');
  const said = answer.headers.get('Content-Disposition')!;
  expect(said).toMatch(/^attachment; filename="[\x21-\x7e]+"$/);
  expect(decodeURIComponent(/filename="([^"]+)"/.exec(said)![1])).toBe(name);
  expect(answer.headers.get('Content-Type')).toBe('text/html');
  expect(await answer.text()).toBe('<p>warm</p>');
});
