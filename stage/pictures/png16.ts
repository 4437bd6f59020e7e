import { pngTexts } from './embed-about.ts';
import { deepRows } from './picture-rows.ts';
import { pngFile } from './png-file.ts';
import type { PictureWriter } from './writer.ts';

/** Portable Network Graphics with 16 bits a channel: soft falls of light without steps, for whoever works on it. */
export const png16: PictureWriter = {
  id: 'png16',
  name: 'PNG, 16 bit',
  purpose: 'without loss and without steps, to be worked on',
  ending: 'png',
  opacity: true,
  write: (picture, about) =>
    pngFile(
      picture,
      (from, count) => deepRows(picture, from, count),
      about ? pngTexts(about) : new Uint8Array(0),
    ),
};
