import { png } from './png.ts';
import type { PictureWriter } from './writer.ts';

/** Every image format pictures can be given out in. A new one is a file beside these and an entry here. */
export const pictureWriters: readonly PictureWriter[] = [png];
