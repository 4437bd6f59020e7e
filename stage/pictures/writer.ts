import type { Picture } from './picture.ts';

/** Turns pictures into files of one image format. */
export interface PictureWriter {
  id: string;
  name: string;
  /** Ending of its files, without the dot. */
  ending: string;
  /** @throws Error when the picture is too large for it */
  write(picture: Picture): Promise<Blob>;
}
