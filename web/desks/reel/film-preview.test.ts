import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { FilmPreview, type PreviewOf } from './film-preview.ts';

const picture = (bytes: number): OffscreenCanvas =>
  ({ convertToBlob: async () => new Blob([new Uint8Array(bytes)]) }) as unknown as OffscreenCanvas;

describe('a preview of a film', () => {
  let preview: FilmPreview;
  const of: PreviewOf = { scene: { name: 'a' } as Scene, outside: null, width: 90, height: 60 };
  beforeEach(() => {
    vi.stubGlobal('createImageBitmap', async (blob: Blob) => ({ size: blob.size }));
    preview = new FilmPreview();
    preview.fit(of);
  });
  afterEach(() => vi.unstubAllGlobals());

  it('gives back what was kept, and nothing else', async () => {
    await preview.keep(3, picture(10));
    await preview.keep(3, picture(99));
    expect([preview.has(3), preview.has(4), preview.kept]).toEqual([true, false, 1]);
    expect(await preview.picture(3)).toEqual({ size: 10 });
    expect(await preview.picture(4)).toBeNull();
  });
  it('forgets pictures of another scene, size or place, and keeps those of the same', async () => {
    const others: Partial<PreviewOf>[] = [
      { scene: { name: 'a' } as Scene },
      { width: 91 },
      { outside: {} as PreviewOf['outside'] },
    ];
    for (const change of others) {
      preview.fit(of);
      await preview.keep(0, picture(1));
      preview.fit({ ...of });
      expect(preview.kept).toBe(1);
      preview.fit({ ...of, ...change });
      expect(preview.kept).toBe(0);
    }
  });
  it('does not take a picture for that of a film that has come meanwhile', async () => {
    const late = preview.keep(0, picture(1));
    preview.fit({ ...of, height: 61 });
    await late;
    expect(preview.has(0)).toBe(false);
  });
  it('stops keeping where memory would go, and goes on with what it has', async () => {
    await preview.keep(0, picture(200e6));
    await preview.keep(1, picture(101e6));
    await preview.keep(2, picture(99e6));
    expect([0, 1, 2].map((i) => preview.has(i))).toEqual([true, false, true]);
  });
});
