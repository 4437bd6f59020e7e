import { open, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { ReadError } from '#core/model/read-error.ts';
import { filmPictures, posterOfFilm } from '#core/motion/reel-facts.ts';
import { readScene, type Scene } from '#core/scene/document.ts';
import type { FilmMaking } from '#stage/films/film-writer.ts';
import type { OrderedOutlet } from '#web/desks/give-out/film-at-work.ts';
import type { DriverWindow } from '#web/desks/render/render-order.ts';
import type { DrawingPage } from './drawing-page.ts';
import { drawingTurns } from './drawing-turns.ts';
import type { JobContext } from './jobs/job-kind.ts';
import {
  alsoFolder,
  drawPictures,
  folderOfJob,
  HALF,
  ownAddress,
  withDrawingPage,
} from './render-pictures.ts';
import { inStore } from './store-trouble.ts';
import { zipPictures } from './zip-pictures.ts';

/** Films of a scene: all of one drawing. */
export interface FilmOrder {
  run: string;
  /** A scene document of any known version; its reel says how long the film is. */
  scene: unknown;
  width: number;
  height: number;
  passes: number;
  films: OrderedOutlet[];
}

export interface FilmMade {
  /** What the scene asks for and the run does not have, in words. */
  mismatches: string[];
  pictures: number;
  /** The index of the one that stands for it where it is not played. */
  poster: number;
  rate: number;
  seconds: number;
}

/** The format in which the pictures of a film are drawn, by its id. */
const DRAWN_AS = 'png';

/** How much of the work is drawing, where nothing is known yet of how long either takes. */
const DRAWING = 0.9;

/** Draws the pictures of a film, and puts them together. Begun anew, it goes on behind the last picture that is whole. */
export const makeFilm = (order: FilmOrder, at: JobContext): Promise<FilmMade> =>
  drawingTurns.take(at, () => withDrawingPage(at, (page, watched) => drawFilm(order, page, watched)));

/** What films are drawn and written by. */
export type FilmPage = Pick<DrawingPage, 'make' | 'film' | 'filmFormats'>;

/** The same with a page that is there; its pictures and files lie in the folder of whose work it is: see `filmPath`. */
export async function drawFilm(order: FilmOrder, page: FilmPage, at: JobContext): Promise<FilmMade> {
  const scene = readScene(order.scene);
  const pictures = filmPictures(scene);
  const { films, ...drawing } = order;
  const numbered = films.flatMap((f) => ('pictures' in f && f.pictures !== DRAWN_AS ? [f.pictures] : []));
  await checkFormats(order, page);
  // What was drawn before this tells nothing of how long the rest takes.
  let kept = 0;
  const { mismatches } = await drawPictures(
    page,
    {
      ...drawing,
      transparent: false,
      also: [...new Set(numbered)],
      pictures: Array.from({ length: pictures.count }, (_, i) => ({ film: pictures.at(i) })),
    },
    {
      ...at,
      progress(done, part = 0) {
        kept = DRAWING * part;
        at.progress(DRAWING * done, kept);
      },
    },
  );
  for (const [i, film] of films.entries()) {
    const watched: JobContext = {
      ...at,
      progress: (done) => at.progress(DRAWING + ((1 - DRAWING) * (i + done)) / films.length, kept),
    };
    if ('pictures' in film) await zipped(film.pictures, pictures.count, i, watched);
    else await encoded(scene, order, film, i, page, watched);
  }
  const { count, rate } = pictures;
  const poster = posterOfFilm(scene);
  return { mismatches, pictures: count, poster, rate, seconds: count / rate };
}

const even = (side: number): number => side + (side % 2);

/** What cannot be written is told before the work begins. */
async function checkFormats({ films, width, height }: FilmOrder, page: FilmPage): Promise<void> {
  const offered = await page.filmFormats({ width, height });
  const lacking = films.find((f) => 'format' in f && !offered.includes(f.format));
  if (lacking && 'format' in lacking)
    throw new ReadError(
      `films of ${width} × ${height} are not written as "${lacking.format}" here, but as ${offered.join(', ')}`,
      'the format of the film',
      `Choose one of these${width % 2 || height % 2 ? `, or an even size such as ${even(width)} × ${even(height)}: films other than GIF and APNG have no other` : ''}.`,
    );
}

async function encoded(
  scene: Scene,
  { width, height }: FilmOrder,
  { format, quality }: Extract<OrderedOutlet, { format: string }>,
  index: number,
  page: FilmPage,
  at: JobContext,
): Promise<void> {
  const { count, rate } = filmPictures(scene);
  const whole = join(folderOfJob(at.owner), `film-${index}`);
  const half = `${whole}${HALF}`;
  await inStore(() => rm(half, { force: true }));
  const file = await inStore(() => open(half, 'w'));
  const making: FilmMaking = { size: { width, height }, rate, count, quality, loop: scene.reel.loop };
  const driver: DriverWindow = {
    dresserPut: async (place, bytes) => {
      await inStore(() => file.write(Buffer.from(bytes, 'base64'), 0, undefined, place));
    },
    dresserTold: async (done) => at.progress(done / count),
  };
  const pictures = `${ownAddress()}/api/jobs/${at.owner}/pictures/`;
  const { ending } = await page.film({ pictures, making, format }, driver).finally(() => file.close());
  at.signal.throwIfAborted();
  await inStore(() => rename(half, `${whole}.${ending}`));
}

/** The numbered pictures of a film; where there is a zip of them already it is made anew. */
async function zipped(format: string, count: number, index: number, at: JobContext): Promise<void> {
  const folder = folderOfJob(at.owner);
  const whole = join(folder, `film-${index}`);
  const half = `${whole}${HALF}`;
  const from = format === DRAWN_AS ? folder : alsoFolder(at.owner, format);
  await zipPictures({ ...at, from, count, to: half });
  await inStore(() => rename(half, `${whole}.zip`));
}

/** Where a film of a job lies; null until it is whole. */
export async function filmPath(job: string, index: number): Promise<string | null> {
  const names = await readdir(folderOfJob(job)).catch(() => [] as string[]);
  const name = names.find((n) => n.startsWith(`film-${index}.`) && !n.endsWith(HALF));
  return name ? join(folderOfJob(job), name) : null;
}
