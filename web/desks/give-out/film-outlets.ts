import { FilmInMemory, type FilmMaking, type FilmWriter, sizeInGrain } from '#stage/films/film-writer.ts';
import { developed } from '#stage/pictures/develop.ts';
import type { Picture } from '#stage/pictures/picture.ts';
import type { PictureWriter } from '#stage/pictures/writer.ts';
import type { PictureSize } from '#stage/stage.ts';
import { numberedName } from './numbered-name.ts';
import { PictureZip } from './picture-zip.ts';

/** What the pictures of a film become: a film, or one picture after the other in a zip. */
export type FilmOutlet = { film: FilmWriter } | { pictures: PictureWriter };

/** The nearest size that all of them can hold. */
export function sizeForAll(outlets: readonly FilmOutlet[], size: PictureSize): PictureSize {
  const films = outlets.flatMap((o) => ('film' in o ? [o.film] : []));
  const coarsest = films.sort((a, b) => b.grain - a.grain)[0];
  return coarsest ? sizeInGrain(coarsest, size) : size;
}

/**
 * Before anything is drawn.
 *
 * @throws Error naming a format that this browser cannot write at a size
 */
export async function checkOutlets(
  outlets: readonly FilmOutlet[],
  { width, height }: PictureSize,
): Promise<void> {
  for (const outlet of outlets)
    if ('film' in outlet && !(await outlet.film.supported({ width, height })))
      throw new Error(
        `This browser cannot write ${outlet.film.name} at ${width} × ${height}. Choose another kind or a smaller size.`,
      );
}

/** Takes pictures one after the other and gives what they become. */
export interface PictureTaker {
  add(picture: Picture): Promise<void>;
  finish(): Promise<Blob>;
  /** Lets go of everything without finishing. */
  cancel(): Promise<void>;
}

export const takerOf = async (outlet: FilmOutlet, making: FilmMaking): Promise<PictureTaker> =>
  'film' in outlet ? filmTaker(outlet.film, making) : pictureTaker(outlet.pictures);

async function filmTaker(writer: FilmWriter, making: FilmMaking): Promise<PictureTaker> {
  const memory = new FilmInMemory();
  const { size } = making;
  const encoder = await writer.begin(making, memory.sink);
  return {
    async add(picture) {
      const shown = await developed(picture);
      const { width, height } = size;
      await encoder.add({ ...size, data: shown.getContext('2d')!.getImageData(0, 0, width, height).data });
    },
    async finish() {
      await encoder.finish();
      return memory.blob(writer.type);
    },
    cancel: () => encoder.cancel(),
  };
}

function pictureTaker(writer: PictureWriter): PictureTaker {
  const zip = new PictureZip(writer);
  let n = 0;
  return {
    add: (picture) => zip.add(numberedName(n++), picture),
    finish: async () => zip.finish(),
    cancel: async () => undefined,
  };
}
