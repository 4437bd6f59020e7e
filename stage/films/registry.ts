import type { PictureSize } from '../stage.ts';
import { apng } from './apng.ts';
import { av1 } from './av1.ts';
import type { FilmWriter } from './film-writer.ts';
import { gif } from './gif.ts';
import { h264 } from './h264.ts';
import { hevc } from './hevc.ts';
import { webm } from './webm.ts';

/** Every format films are written in; the first is the usual one. A new one is a file beside these and an entry here. */
export const filmWriters: readonly FilmWriter[] = [h264, hevc, av1, webm, gif, apng];

/** Those this browser can write at a size. */
export async function offeredFilms(size: PictureSize): Promise<FilmWriter[]> {
  const can = await Promise.all(filmWriters.map((w) => w.supported(size)));
  return filmWriters.filter((_, i) => can[i]);
}
