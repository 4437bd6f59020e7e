import { intoPng } from './embed-about.ts';
import { deepPixels } from './whole-picture.ts';
import type { PictureWriter } from './writer.ts';

/** Portable Network Graphics with 16 bits a channel: soft falls of light without steps, for whoever works on it. */
export const png16: PictureWriter = {
  id: 'png16',
  name: 'PNG, 16 bit',
  purpose: 'without loss and without steps, to be worked on',
  ending: 'png',
  opacity: true,
  async write(picture, about) {
    const { encode } = await import('fast-png');
    const { width, height } = picture;
    const data = await deepPixels(picture);
    const bytes = encode({ width, height, data, depth: 16, channels: 4 });
    const said = about ? intoPng(bytes, about) : bytes;
    return new Blob([said as Uint8Array<ArrayBuffer>], { type: 'image/png' });
  },
};
