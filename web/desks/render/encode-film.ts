import type { FilmFrame } from '#stage/films/film-writer.ts';
import { filmWriters, offeredFilms } from '#stage/films/registry.ts';
import type { PictureSize } from '#stage/stage.ts';
import { dataAddress } from '#web/desks/shared/data-address.ts';
import type { DriverWindow, FilmOrder } from './render-order.ts';

/**
 * Puts pictures of the server together to a film whose bytes go back there as they come: of neither more is held than one
 * picture.
 *
 * @throws Error naming the formats there are, or the picture that is lacking
 */
export async function encodeFilm({ pictures, making, format }: FilmOrder): Promise<{ ending: string }> {
  const { dresserPut, dresserTold } = window as never as DriverWindow;
  const writer = filmWriters.find(({ id }) => id === format);
  const { width, height } = making.size;
  if (!writer || !(await writer.supported(making.size))) {
    const there = (await offeredFilms(making.size)).map(({ id }) => id).join(', ');
    throw new Error(`Films of ${width} × ${height} are not written as "${format}" here, but as ${there}`);
  }
  const encoder = await writer.begin(making, async (bytes, at) =>
    dresserPut(at, (await dataAddress(new Blob([bytes]))).split(',')[1] ?? ''),
  );
  const read = pictureReader(making.size);
  try {
    for (let n = 0; n < making.count; n++) {
      await encoder.add(await read(`${pictures}${n}`));
      await dresserTold(n + 1);
    }
    await encoder.finish();
    return { ending: writer.ending };
  } catch (error) {
    await encoder.cancel();
    throw error;
  }
}

/** Reads pictures of one size, always with the same canvas. */
function pictureReader({ width, height }: PictureSize): (address: string) => Promise<FilmFrame> {
  const canvas = new OffscreenCanvas(width, height);
  const painter = canvas.getContext('2d', { willReadFrequently: true })!;
  return async (address) => {
    const answer = await fetch(address);
    if (!answer.ok) throw new Error(`A picture of the film is lacking: ${address.split('/').at(-1)}`);
    const bitmap = await createImageBitmap(await answer.blob(), { colorSpaceConversion: 'none' });
    painter.drawImage(bitmap, 0, 0);
    bitmap.close();
    return { width, height, data: painter.getImageData(0, 0, width, height).data };
  };
}
