import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Locator, Page } from 'playwright-core';
import type { RawMesh } from '#core/formats/format.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { hexBlock } from '../vtu-builder.ts';
import { Site } from './site.ts';

const MOVES = 40;

/** What is noted from the page while something goes on: all times in milliseconds. */
export interface Watched {
  /** Longest time between two frames of the screen. */
  gap: number;
  /** Longest task on the thread of the page. */
  task: number;
  /** Longest way of a click from the hand to the next picture of the page. */
  click: number;
  /** How often the picture followed a change. */
  shown: number;
}

export const millionHexahedra = (): RawMesh => hexBlock(100);

/** The desk with the scene of a mesh about as large as 1 m, coloured by a smooth field, whose first picture is there. */
export class LargeScene {
  private readonly site = new Site();
  private readonly folder = mkdtempSync(join(tmpdir(), 'dresser-large-'));
  page!: Page;

  constructor(private readonly make: () => RawMesh) {}

  /** @param patience for the first picture, in milliseconds */
  async open(patience = 60_000): Promise<this> {
    const mesh = this.make();
    const n = mesh.points.length / 3;
    const data = Float32Array.from(
      { length: n },
      (_, i) =>
        Math.sin(6 * mesh.points[3 * i]) * Math.cos(5 * mesh.points[3 * i + 1]) + mesh.points[3 * i + 2],
    );
    const file = join(this.folder, 'large.vtu');
    writeFileSync(
      file,
      writeVtu(mesh, [{ name: 'temperature', location: 'point', components: 1, unit: '°C', data }], 0, {
        length: 'm',
        time: 's',
      }),
    );
    await this.site.start([this.folder]);
    const made = await this.site.importPaths([file]);
    this.page = await this.site.page();
    await this.page.goto(`${this.site.address}/scene/${made!.scene}`);
    await this.page.waitForFunction(() => performance.getEntriesByName('picture shown').length > 0, null, {
      timeout: patience,
    });
    return this;
  }

  async close(): Promise<void> {
    await this.site.stop();
    rmSync(this.folder, { recursive: true, force: true });
  }

  /** What was seen of the page while something was done. */
  async watching(act: () => Promise<void>): Promise<Watched> {
    await this.watch();
    await act();
    return this.watched();
  }

  /** Waits until the picture has followed what is done, however long that takes a loaded machine. */
  async followed(act: () => Promise<void>): Promise<void> {
    await this.watching(act);
    while ((await this.watched()).shown === 0) await this.page.waitForTimeout(100);
  }

  private watched(): Promise<Watched> {
    return this.page.evaluate(() => (window as never as { watched: Watched }).watched);
  }

  private watch(): Promise<void> {
    return this.page.evaluate(() => {
      const w = window as never as { watched: Watched };
      const first = performance.now();
      const seen = { gap: 0, task: 0, click: 0, shown: 0 };
      w.watched = seen;
      let last = first;
      const frame = (now: number): void => {
        if (w.watched !== seen) return;
        seen.gap = Math.max(seen.gap, now - last);
        last = now;
        requestAnimationFrame(frame);
      };
      requestAnimationFrame((now) => {
        last = now;
        requestAnimationFrame(frame);
      });
      const note = (type: string, take: (e: PerformanceEntry) => void): void =>
        new PerformanceObserver((list) => {
          for (const e of list.getEntries()) if (e.startTime >= first && w.watched === seen) take(e);
        }).observe({ type, durationThreshold: 16 } as PerformanceObserverInit);
      note('longtask', (e) => (seen.task = Math.max(seen.task, e.duration)));
      note('event', (e) => {
        if (e.name === 'click') seen.click = Math.max(seen.click, e.duration);
      });
      note('mark', (e) => {
        if (e.name === 'picture shown') seen.shown++;
      });
    });
  }

  /** Opens the choices of a line, and closes them. */
  async choose(): Promise<void> {
    await this.page.getByRole('button', { name: 'What it is coloured by' }).click();
    await this.page.getByText('no field, one colour').waitFor();
    await this.page.keyboard.press('Escape');
  }

  /** Turns the picture by hand. */
  turn(): Promise<void> {
    return this.drag(this.page.getByTestId('picture'), 4, 1);
  }

  /** Adds a section through them, and gives what drags it. */
  async addSection(): Promise<Locator> {
    const { page } = this;
    await page.getByRole('button', { name: 'Add a line' }).click();
    const field = page.getByRole('combobox').or(page.getByRole('textbox')).last();
    await field.fill('section of everything at x = 0.5 m');
    await page.keyboard.press('Enter');
    await page.waitForTimeout(500);
    await page.keyboard.press('Escape');
    const word = page.getByTitle('Drag sideways to change it; click for all settings').first();
    await word.waitFor();
    return word;
  }

  /** Drags from the middle of something, by so many pixels in each of 40 moves. */
  async drag(from: Locator, dx: number, dy: number): Promise<void> {
    const { mouse } = this.page;
    const box = (await from.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await mouse.move(x, y);
    await mouse.down();
    for (let i = 1; i <= MOVES; i++) {
      await mouse.move(x + dx * i, y + dy * i);
      await this.page.waitForTimeout(50);
    }
    await mouse.up();
  }
}
