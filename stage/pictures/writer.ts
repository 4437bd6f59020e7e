import type { PictureAbout } from './about.ts';
import type { Picture } from './picture.ts';

/** Turns pictures into files of one image format. */
export interface PictureWriter {
  id: string;
  name: string;
  /** What it is good for, in a few words. */
  purpose: string;
  /** Ending of its files, without the dot. */
  ending: string;
  /** Whether it keeps what is transparent. */
  opacity: boolean;
  /** Whether this browser can write it; absent where every browser can. */
  offered?(): Promise<boolean>;
  /**
   * @param about what the file is to say of itself, where the format has room for it
   * @throws Error when the picture is too large for it
   */
  write(picture: Picture, about?: PictureAbout): Promise<Blob>;
}

/** What a writer says of a picture it cannot write. */
export const tooLarge = ({ width, height }: Pick<Picture, 'width' | 'height'>, what: string): Error =>
  new Error(
    `A picture of ${width} × ${height} is too large ${what}. Make it smaller, or choose another format.`,
  );
