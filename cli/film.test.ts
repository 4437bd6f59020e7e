import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { type FilmOptions, filmScene } from './film.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-film-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** What is said of an order that cannot be carried out. */
async function refused(more: Partial<FilmOptions>): Promise<string> {
  const said = vi.spyOn(console, 'error').mockImplementation(() => undefined);
  try {
    const out = [join(folder, 'deep', 'film.mp4')];
    const size = { width: 64, height: 64 };
    const order = { run: ['none.vtu'], out, size, quality: 'good' as const, passes: 1, ...more };
    expect(await filmScene('default', order)).toBe(1);
    expect(existsSync(join(folder, 'deep'))).toBe(false);
    return said.mock.calls.flat().join('\n');
  } finally {
    said.mockRestore();
  }
}

describe('a film that cannot be made is refused before anything is read or made', () => {
  it('of no known format', async () => {
    const text = await refused({ out: [join(folder, 'deep', 'film.tape')] });
    expect(text).toContain('film.tape" is to have is not known');
    expect(text).toContain('where: --out');
    expect(text).toContain('.mp4, .webm, .gif, .png, .zip, .vtt');
  });
  it('of no known format beside one that is known', async () => {
    const text = await refused({ out: ['film.mp4', 'film.tape'].map((f) => join(folder, 'deep', f)) });
    expect(text).toContain('film.tape" is to have is not known');
  });
  it('of which only the poster is asked for, with captions beside it or without', async () => {
    for (const files of [['film.poster.png'], ['film.vtt', 'film.poster.png']]) {
      const text = await refused({ out: files.map((f) => join(folder, 'deep', f)) });
      expect(text).toContain('no film is asked for');
      expect(text).toContain('Name a film as well');
    }
  });
  it('that ends before it begins', async () => {
    const text = await refused({ from: 3, to: 2 });
    expect(text).toContain('the film would end at 2 s, and begin at 3 s');
    expect(text).toContain('where: --from and --to');
  });
});
