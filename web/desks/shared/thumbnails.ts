import { dataAddress } from './data-address.ts';

/** In pixels; the height follows the picture. */
export const THUMBNAIL_WIDTH = 480;

/** A small picture as it is kept beside its scene or shot: the whole picture without its words, which would be too small to read. */
export async function asThumbnail(small: HTMLCanvasElement): Promise<string> {
  const blob = await new Promise<Blob | null>((resolve) => small.toBlob(resolve, 'image/jpeg', 0.85));
  return blob ? dataAddress(blob) : '';
}
