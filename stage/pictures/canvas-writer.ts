import { developed } from './develop.ts';
import type { EmbedAbout } from './embed-about.ts';
import { type PictureWriter, tooLarge } from './writer.ts';

/** A format that browsers write themselves, with 8 bits a channel in sRGB. */
export function canvasWriter(
  about: Omit<PictureWriter, 'write' | 'offered'>,
  type: string,
  { quality, embed }: { quality?: number; embed?: EmbedAbout } = {},
): PictureWriter {
  return {
    ...about,
    async offered() {
      const canvas = document.createElement('canvas');
      canvas.width = 1;
      canvas.height = 1;
      // What a browser cannot write becomes a PNG.
      return (await blobOf(canvas, type))?.type === type;
    },
    async write(picture, about) {
      const blob = await blobOf(await developed(picture), type, quality);
      if (!blob) throw tooLarge(picture, 'for this browser to save');
      if (!about || !embed) return blob;
      const bytes = embed(new Uint8Array(await blob.arrayBuffer()), about);
      return new Blob([bytes as Uint8Array<ArrayBuffer>], { type });
    },
  };
}

const blobOf = (canvas: HTMLCanvasElement, type: string, quality?: number): Promise<Blob | null> =>
  new Promise((resolve) => canvas.toBlob(resolve, type, quality));
