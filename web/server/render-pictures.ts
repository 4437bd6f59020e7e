import { appendFile, mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Browser } from 'playwright-core';
import { ReadError } from '#core/model/read-error.ts';
import type { PictureAt } from '#core/motion/picture-at.ts';
import type { Finding } from '#core/preflight/rule.ts';
import { chromiumFlags, chromiumPath } from './chromium.ts';
import { DrawingPage } from './drawing-page.ts';
import type { JobContext } from './jobs/job-kind.ts';
import { dataFolder } from './paths.ts';
import { ensureSpace, inStore } from './store-trouble.ts';

/** Pictures of one scene of a run. */
export interface PicturesOrder {
  run: string;
  /** A scene document of any known version. */
  scene: unknown;
  pictures: PictureAt[];
  width: number;
  height: number;
  transparent: boolean;
  passes: number;
  /** See `RenderOrder`. */
  format?: string;
  layers?: boolean;
  /** Formats in which every picture is kept as well, by their ids; see `alsoFolder`. */
  also?: string[];
}

export interface PicturesMade {
  /** What the scene asks for and the run does not have, in words. */
  mismatches: string[];
  /** What the preflight finds in pictures that were drawn now, by their numbers. */
  findings: Record<number, Finding[]>;
}

const picturesFolder = join(dataFolder, 'pictures');

/** Where the pictures of a job lie. */
export const folderOfJob = (job: string): string => join(picturesFolder, job);

/** Address of this server, for a browser on the same machine. */
export const ownAddress = (): string =>
  `http://${process.env.HOST ?? '127.0.0.1'}:${process.env.PORT ?? 4870}`;

/** Where a picture lies, whatever its ending; null until it is whole. They are counted from 0. */
export async function picturePath(job: string, picture: number): Promise<string | null> {
  const name = (await wholeOf(job)).find((n) => n.startsWith(`${picture}.`));
  return name ? join(folderOfJob(job), name) : null;
}

/** The folder of the pictures of a job in another format they are asked for in, by their numbers. */
export const alsoFolder = (job: string, format: string): string => join(folderOfJob(job), 'also', format);

/** Names of the pictures of a job that are whole. */
async function wholeOf(job: string): Promise<string[]> {
  const names = await readdir(folderOfJob(job)).catch(() => [] as string[]);
  return names.filter((n) => !n.endsWith(HALF));
}

const sizeOf = async (path: string): Promise<number> => (await stat(path)).size;

/** Ending of what is being written. */
export const HALF = '.half';

/** Draws pictures in a browser of its own; see `drawPictures`. */
export const renderPictures = (order: PicturesOrder, at: JobContext): Promise<PicturesMade> =>
  withDrawingPage(at, (page, watched) => drawPictures(page, order, watched));

/** So many browsers may end by themselves without anything new in between. */
const MOST_BROWSERS = 3;

/** A browser, or its page, that ended by itself: killed, or out of memory. */
class BrowserEnded extends Error {}

/** Whether an error says that the browser has ended, in the words of the library that drives it. */
export const isOfBrowser = (error: unknown): boolean =>
  /Target crashed|has been closed/.test((error as Error | null)?.message ?? '');

/**
 * Work with a page that draws, in a browser of its own that is closed when the work ends or is cancelled. Where the browser ends by
 * itself the work is begun anew in another one; it must go on behind what it has kept.
 *
 * @param work given what it tells its progress to, beside the page
 * @throws what the page says went wrong, in words
 */
export async function withDrawingPage<T>(
  at: JobContext,
  work: (page: DrawingPage, at: JobContext) => Promise<T>,
): Promise<T> {
  let [done, before] = [0, 0];
  const watched: JobContext = {
    ...at,
    progress(now, kept) {
      done = Math.max(done, now);
      at.progress(now, kept);
    },
  };
  for (let ended = 1; ; ended++) {
    try {
      return await inOneBrowser(watched, work);
    } catch (error) {
      if (!(error instanceof BrowserEnded)) throw error;
      if (done > before) ended = 1;
      before = done;
      if (ended >= MOST_BROWSERS)
        throw new ReadError(
          'the browser that draws ended by itself, several times at the same place',
          'pictures drawn by the server',
          'Free memory, or ask for smaller pictures, and go on: what is drawn is kept.',
        );
    }
  }
}

async function inOneBrowser<T>(
  at: JobContext,
  work: (page: DrawingPage, at: JobContext) => Promise<T>,
): Promise<T> {
  let browser: Browser | null = null;
  const close = (): void => void browser?.close().catch(() => undefined);
  at.signal.addEventListener('abort', close, { once: true });
  try {
    // A large library, which a server that draws nothing does not need.
    const { chromium } = await import('playwright-core');
    browser = await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
    return await work(await DrawingPage.open(await browser.newPage(), ownAddress()), at);
  } catch (error) {
    at.signal.throwIfAborted();
    if (isOfBrowser(error)) throw new BrowserEnded();
    throw problemOfPage(error);
  } finally {
    at.signal.removeEventListener('abort', close);
    await browser?.close().catch(() => undefined);
  }
}

/**
 * Draws pictures one after the other through the very page the desk is made of. What is drawn stays drawn: begun anew, it goes
 * on behind the last picture that is whole.
 *
 * @throws StoreError where the disk has no room for all of them, saying how much to free
 */
export async function drawPictures(
  page: Pick<DrawingPage, 'make'>,
  { pictures, ...rest }: PicturesOrder,
  at: JobContext,
): Promise<PicturesMade> {
  const folder = folderOfJob(at.owner);
  const folders = [folder, ...(rest.also ?? []).map((format) => alsoFolder(at.owner, format))];
  for (const one of folders) await inStore(() => mkdir(one, { recursive: true }));
  let mismatches: string[] = [];
  const findings: PicturesMade['findings'] = {};
  const whole = (await wholeOf(at.owner)).filter((n) => /^\d/.test(n));
  const there = new Set(whole.map((n) => Number.parseInt(n, 10)));
  const sizes = await Promise.all(whole.map((n) => sizeOf(join(folder, n))));
  let largest = sizes.reduce((a, b) => Math.max(a, b), 0);
  let missing = pictures.length - there.size;
  for (const [i, which] of pictures.entries()) {
    at.signal.throwIfAborted();
    if (!there.has(i)) {
      // Told as soon as one knows how large a picture is, not when the disk is full.
      await ensureSpace(largest * missing--);
      const halves = folders.map((one) => join(one, `${i}${HALF}`));
      for (const file of halves) await inStore(() => rm(file, { force: true }));
      const drawn = await page.make({ ...rest, step: 0, ...which }, (piece, of) =>
        inStore(() => appendFile(halves[of], piece)),
      );
      mismatches = drawn.mismatches;
      findings[i] = drawn.findings;
      const made = [drawn, ...drawn.also];
      largest = Math.max(
        largest,
        made.reduce((sum, { bytes }) => sum + bytes, 0),
      );
      // The one that tells that the picture is whole comes last.
      for (const [n, { ending }] of [...made.entries()].reverse())
        await inStore(() => rename(halves[n], join(folders[n], `${i}.${ending}`)));
    }
    at.progress((i + 1) / pictures.length, there.size / pictures.length);
  }
  return { mismatches, findings };
}

/** What the page says went wrong, without the words of the library that drives it. */
export function problemOfPage(error: unknown): unknown {
  const { message } = error as Error;
  const said = /^page\.evaluate: (?:\w*Error: )?([^\n]+)/.exec(message ?? '')?.[1];
  return said
    ? new ReadError(
        said.replace(/\.$/, ''),
        'the scene',
        'Correct that, or open the scene on a run that has what it asks for.',
      )
    : error;
}

/** Pictures nobody has fetched for so long are thrown away, in milliseconds. */
const KEPT = 24 * 3600_000;

/** Removes pictures of work that ended long ago. */
export async function tidyPictures(): Promise<void> {
  for (const name of await readdir(picturesFolder).catch(() => [] as string[])) {
    const folder = join(picturesFolder, name);
    const age = Date.now() - ((await stat(folder).catch(() => null))?.mtimeMs ?? 0);
    if (age > KEPT) await rm(folder, { recursive: true, force: true });
  }
}
