import { avif } from './avif.ts';
import { exr } from './exr.ts';
import { jpeg } from './jpeg.ts';
import { png } from './png.ts';
import { png16 } from './png16.ts';
import { tiff } from './tiff.ts';
import { webp } from './webp.ts';
import type { PictureWriter } from './writer.ts';

/** Every image format pictures can be given out in; the first is the usual one. A new one is a file beside these and an entry here. */
export const pictureWriters: readonly PictureWriter[] = [png, png16, jpeg, webp, avif, tiff, exr];

/** Those this browser can write. */
export async function offeredWriters(): Promise<PictureWriter[]> {
  const can = await Promise.all(pictureWriters.map((w) => w.offered?.() ?? true));
  return pictureWriters.filter((_, i) => can[i]);
}
