import { developed } from './develop.ts';
import type { PictureWriter } from './writer.ts';

/** Portable Network Graphics: 8 bits a channel, sRGB, with opacity. */
export const png: PictureWriter = {
  id: 'png',
  name: 'PNG',
  ending: 'png',
  async write(picture) {
    const canvas = await developed(picture);
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
    if (!blob)
      throw new Error(
        `A picture of ${picture.width} × ${picture.height} is too large for this browser to save.`,
      );
    return blob;
  },
};
