import { type Browser, chromium, type Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { chromiumFlags, chromiumPath } from '#web/server/chromium.ts';
import { Served } from '../attack/served.ts';

/** Large pictures take their time without a graphics card, and much more where others use the machine too. */
export const PATIENCE = 600_000;

/** What shows a scene whole; how soft its light is, is measured where pictures are drawn. */
const PASSES_AT_REST = '2';

/** Pictures on the screen have a quarter of the pixels: what is in them is measured where pictures are drawn. */
const PIXEL_SCALE = 0.5;

/** How the browser says that the card was told something that makes no sense, or could not read a shader. */
const wrongOrder = /\bINVALID_(ENUM|VALUE|OPERATION|FRAMEBUFFER_OPERATION)\b|Shader Error/;

/** A server of its own with an empty data folder, and a browser to drive it. */
export class Site extends Served {
  private browser: Browser | null = null;

  async page(): Promise<Page> {
    this.browser ??= await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
    const page = await this.browser.newPage({
      viewport: { width: 740, height: 500 },
      acceptDownloads: true,
      deviceScaleFactor: PIXEL_SCALE,
    });
    await page.addInitScript((most) => {
      // A page that was given out is looked at in a sandboxed frame, which may keep nothing.
      if (window.origin !== 'null') localStorage.setItem('passes-at-rest', most);
    }, PASSES_AT_REST);
    page.setDefaultTimeout(180_000);
    page.on('pageerror', (error) => {
      throw error;
    });
    page.on('console', (message) => {
      if (wrongOrder.test(message.text())) throw new Error(message.text());
    });
    await page.goto(this.address);
    return page;
  }

  async stop(): Promise<void> {
    await this.browser?.close();
    await this.remove();
  }

  async get<T>(path: string): Promise<T> {
    return (await fetch(this.address + path)).json() as Promise<T>;
  }
}

export interface UploadFile {
  name: string;
  mimeType: string;
  buffer: Buffer;
}

export const upload = (name: string, bytes: Uint8Array): UploadFile => ({
  name,
  mimeType: 'application/octet-stream',
  buffer: Buffer.from(bytes),
});

/** Chooses files, imports the first proposed run, and waits for its picture. */
export async function importFiles(page: Page, files: UploadFile[]): Promise<void> {
  await page.getByTestId('file-input').setInputFiles(files);
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await page.waitForURL(/\/scene\//);
  await settled(page);
}

/** Waits until the picture at rest is complete. */
export async function settled(page: Page): Promise<void> {
  // A change is noticed within a frame or two; then the finished picture is waited for.
  await page.waitForTimeout(300);
  await page.locator('[data-settled=true]').waitFor({ timeout: PATIENCE });
}

/** The picture on the screen, without the desk around it. */
export async function pictureOnScreen(page: Page): Promise<PNG> {
  const url = await page.evaluate(() =>
    document.querySelector<HTMLCanvasElement>('[data-testid=picture] canvas')!.toDataURL('image/png'),
  );
  return PNG.sync.read(Buffer.from(url.split(',')[1], 'base64'));
}

export const pixel = (png: PNG, x: number, y: number): [number, number, number, number] => {
  const at = 4 * (Math.round(y) * png.width + Math.round(x));
  return Array.from(png.data.subarray(at, at + 4)) as [number, number, number, number];
};

/** Share of pixels that differ clearly between two pictures of the same size. */
export function differing(a: PNG, b: PNG): number {
  let n = 0;
  for (let i = 0; i < a.data.length; i += 4) {
    if (
      Math.abs(a.data[i] - b.data[i]) +
        Math.abs(a.data[i + 1] - b.data[i + 1]) +
        Math.abs(a.data[i + 2] - b.data[i + 2]) >
      24
    )
      n++;
  }
  return (4 * n) / a.data.length;
}

/** Share of pixels with a strong colour: the backdrop and plain things have none. */
export function coloured(png: PNG): number {
  let n = 0;
  for (let i = 0; i < png.data.length; i += 4) {
    const c = png.data.subarray(i, i + 3);
    if (Math.max(...c) - Math.min(...c) > 60) n++;
  }
  return (4 * n) / png.data.length;
}

/** Clicks something that starts a download, once it is there, and gives its bytes. */
export async function downloaded(
  page: Page,
  name: string | RegExp,
): Promise<{ name: string; bytes: Buffer }> {
  const [download] = await Promise.all([
    page.waitForEvent('download', { timeout: PATIENCE }),
    page.getByRole('button', { name, exact: true }).click({ timeout: PATIENCE }),
  ]);
  const chunks: Buffer[] = [];
  for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
  return { name: download.suggestedFilename(), bytes: Buffer.concat(chunks) };
}
