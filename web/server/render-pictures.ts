import { existsSync } from 'node:fs';
import { mkdir, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type Browser, chromium } from 'playwright-core';
import { ReadError } from '#core/model/read-error.ts';
import { chromiumFlags, chromiumPath } from './chromium.ts';
import type { JobContext } from './jobs/job-kind.ts';
import { dataFolder } from './paths.ts';
import { inStore } from './store-trouble.ts';

/** Pictures of one scene of a run, at some of its steps. */
export interface PicturesOrder {
  run: string;
  /** A scene document of any known version. */
  scene: unknown;
  steps: number[];
  width: number;
  height: number;
  transparent: boolean;
  passes: number;
}

export interface PicturesMade {
  steps: number[];
  /** What the scene asks for and the run does not have, in words. */
  mismatches: string[];
}

const picturesFolder = join(dataFolder, 'pictures');

/** Where the picture of a step lies when it is whole. */
export const picturePath = (job: string, step: number): string => join(picturesFolder, job, `${step}.png`);

/** The page that draws, as it answers; see `render-page.ts`. */
type Draw = (order: object) => Promise<{ picture: string; mismatches: string[] }>;

/**
 * Draws pictures in a browser of its own, one after the other, through the very page the desk is made of. What is drawn
 * stays drawn: begun anew, it goes on behind the last picture that is whole.
 */
export async function renderPictures(order: PicturesOrder, at: JobContext): Promise<PicturesMade> {
  const { steps, ...rest } = order;
  await inStore(() => mkdir(join(picturesFolder, at.owner), { recursive: true }));
  let browser: Browser | null = null;
  const close = (): void => void browser?.close().catch(() => undefined);
  at.signal.addEventListener('abort', close, { once: true });
  let mismatches: string[] = [];
  try {
    browser = await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
    const page = await browser.newPage();
    await page.goto(`http://${process.env.HOST ?? '127.0.0.1'}:${process.env.PORT ?? 4870}/render`);
    await page.waitForFunction(() => 'dresserRender' in window);
    for (const [i, step] of steps.entries()) {
      at.signal.throwIfAborted();
      const path = picturePath(at.owner, step);
      if (!existsSync(path)) {
        const drawn = await page.evaluate(
          (o) => (window as never as { dresserRender: Draw }).dresserRender(o),
          { ...rest, step },
        );
        mismatches = drawn.mismatches;
        await inStore(async () => {
          await writeFile(`${path}.half`, Buffer.from(drawn.picture.split(',')[1], 'base64'));
          await rename(`${path}.half`, path);
        });
      }
      at.progress((i + 1) / steps.length);
    }
    return { steps, mismatches };
  } catch (error) {
    at.signal.throwIfAborted();
    throw problemOfPage(error);
  } finally {
    at.signal.removeEventListener('abort', close);
    await browser?.close().catch(() => undefined);
  }
}

/** What the page says went wrong, without the words of the library that drives it. */
function problemOfPage(error: unknown): unknown {
  const { message } = error as Error;
  const said = /^page\.evaluate: (?:\w*Error: )?([^\n]+)/.exec(message ?? '')?.[1];
  return said
    ? new ReadError(
        said.replace(/\.$/, ''),
        'the scene',
        'Correct the scene, or open it on a run that has what it asks for.',
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
