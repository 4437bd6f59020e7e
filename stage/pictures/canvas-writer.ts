import { developed } from './develop.ts';
import type { EmbedAbout } from './embed-about.ts';
import { type PictureWriter, tooLarge } from './writer.ts';

/** A format that browsers write themselves, with 8 bits a channel in sRGB. */
export function canvasWriter(
  own: Omit<PictureWriter, 'write' | 'offered'>,
  type: string,
  { quality, embed }: { quality?: number; embed?: EmbedAbout } = {},
): PictureWriter {
  return {
    ...own,
    async offered() {
      const canvas = document.createElement('canvas');
      canvas.width = 1;
      canvas.height = 1;
      // What a browser cannot write becomes a PNG.
      return (await blobOf(canvas, type))?.type === type;
    },
    async write(picture, about) {
      const blob = await blobOf(await developed(picture), type, quality);
      // What a browser cannot write at this size becomes nothing, or a PNG.
      if (blob?.type !== type) throw tooLarge(picture, `for this browser to save as ${own.name}`);
      if (!about || !embed) return blob;
      const bytes = embed(new Uint8Array(await blob.arrayBuffer()), about);
      return new Blob([bytes as Uint8Array<ArrayBuffer>], { type });
    },
  };
}

const blobOf = (canvas: HTMLCanvasElement, type: string, quality?: number): Promise<Blob | null> =>
  new Promise((resolve) => canvas.toBlob(resolve, type, quality));
