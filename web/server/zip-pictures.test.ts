import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { zipPictures } from './zip-pictures.ts';

let folder = '';
const pictures = Array.from({ length: 12 }, (_, n) => Uint8Array.from({ length: 100 + n }, (_, i) => i * n));
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'dresser-zip-'));
  for (const [n, bytes] of pictures.entries()) writeFileSync(join(folder, `${n}.tif`), bytes);
  writeFileSync(join(folder, '3.half'), 'not whole');
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const zipped = (count: number, signal = new AbortController().signal) => {
  const told: number[] = [];
  const to = join(folder, 'film.zip');
  return { told, to, made: zipPictures({ from: folder, count, to, progress: (d) => told.push(d), signal }) };
};

// Read by fflate, which shares nothing with what writes them.
describe('the pictures of a film in a zip', () => {
  it('are there in their order, byte for byte, and it is told how far it is', async () => {
    const { told, to, made } = zipped(12);
    await made;
    const found = unzipSync(readFileSync(to));
    expect(Object.keys(found)).toEqual(
      pictures.map((_, n) => `picture-${String(n + 1).padStart(4, '0')}.tif`),
    );
    expect(Object.values(found).map((b) => [...b])).toEqual(pictures.map((b) => [...b]));
    expect(told.at(-1)).toBe(1);
    expect(told).toEqual([...told].sort((a, b) => a - b));
  });
  it('that are lacking are named, and work that is ended ends', async () => {
    await expect(zipped(13).made).rejects.toThrow(/Picture 13 of the film is lacking/);
    await expect(zipped(12, AbortSignal.abort()).made).rejects.toThrow(/abort/i);
    const ending = new AbortController();
    const { made } = zipped(12, ending.signal);
    setImmediate(() => ending.abort());
    await expect(made).rejects.toThrow(/abort/i);
  });
});
