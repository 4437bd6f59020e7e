import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoRuns } from '#demo/bench.ts';
import type { DemoRun } from '#demo/demo-run.ts';
import { computeOven } from '#demo/oven/oven.ts';
import { coloured, downloaded, pictureOnScreen, Site, settled } from './site.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-bench-'));
const site = new Site();
let page: Page;

const files = new Map<string, string>();

beforeAll(async () => {
  // All before the server starts: nothing else goes on in this process while it computes.
  for (const run of demoRuns) files.set(run.id, compute(run));
  await site.start([folder]);
  page = await site.page();
  await page.setViewportSize({ width: 620, height: 420 });
});
afterAll(async () => {
  await site.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** Computes a run; of the oven two steps are enough to see it play. */
function compute(run: DemoRun): string {
  mkdirSync(join(folder, run.id));
  const write = (name: string, content: string | Uint8Array): void =>
    writeFileSync(join(folder, run.id, name), content);
  if (run.id === 'oven-warm-up') computeOven(write, () => undefined, 2);
  else run.compute(write, () => undefined);
  return join(folder, run.id, run.file);
}

const withScene = demoRuns.filter((r) => !r.file.endsWith('.csv'));
const tables = demoRuns.filter((r) => r.file.endsWith('.csv') && !r.asSet);
const tablesOfRuns = demoRuns.filter((r) => r.asSet);

describe('the runs of the bench', () => {
  for (const run of withScene)
    it(`${run.name}: opens to a picture, plays, and gives a still`, async () => {
      const made = await site.importPaths([files.get(run.id)!], { ...run.choices, name: run.name });
      await page.goto(`${site.address}/scene/${made!.scene}`);
      await settled(page);
      const share = coloured(await pictureOnScreen(page));
      expect(share).toBeGreaterThan(0.004);
      expect(share).toBeLessThan(0.8);
      const step = page.getByText(/^step \d+ of \d+$/);
      const first = (await step.textContent())!;
      await page.getByRole('button', { name: 'Play', exact: true }).click();
      await expect.poll(() => step.textContent(), { timeout: 60_000 }).not.toBe(first);
      // A run of two steps may have come to its end by now.
      await page
        .getByRole('button', { name: 'Pause', exact: true })
        .click({ timeout: 3000 })
        .catch(() => undefined);
      await page.getByRole('button', { name: 'Give out' }).click();
      for (const [label, value] of [
        ['Width in pixels', '200'],
        ['Height in pixels', '150'],
      ]) {
        await page.getByLabel(label).fill(value);
        await page.keyboard.press('Enter');
      }
      await page.getByRole('button', { name: 'Proof', exact: true }).click();
      await page.getByRole('button', { name: 'Make the picture' }).click();
      const still = PNG.sync.read((await downloaded(page, 'Save PNG')).bytes);
      expect([still.width, still.height]).toEqual([200, 150]);
      expect(coloured(still)).toBeGreaterThan(0.004);
    });

  for (const run of tables)
    it(`${run.name}: opens as a table with all its rows`, async () => {
      const made = await site.importPaths([files.get(run.id)!], { ...run.choices, name: run.name });
      await page.goto(`${site.address}/run/${made!.run}`);
      await page.getByRole('heading', { name: run.name }).waitFor();
      await page.getByText('fan power').first().waitFor();
    });

  it('stand on Intake as cards, with their pictures', async () => {
    await page.goto(site.address);
    const cards = page.getByRole('region', { name: 'Scenes' }).getByRole('img');
    await expect.poll(() => cards.count(), { timeout: 120_000 }).toBe(withScene.length);
  });

  it('have a picture before anyone opened them, with the whole of it and no words', async () => {
    const rotor = demoRuns.find((r) => r.id === 'fan-rotor')!;
    const made = await site.importPaths([join(folder, rotor.id, rotor.file)], { name: 'Never opened' });
    await page.goto(site.address);
    const drawn = page.getByRole('img', { name: 'Never opened' });
    await drawn.waitFor({ timeout: 120_000 });
    type Saved = { id: string; thumbnail: string | null };
    const kept = (await site.get<Saved[]>('/api/scenes')).find((s) => s.id === made!.scene)!;
    expect(kept.thumbnail).toMatch(/^data:image\/jpeg/);
    // Where the legend stands on the picture there are no letters: nothing near black.
    const dark = await drawn.evaluate((image: HTMLImageElement) => {
      const canvas = document.createElement('canvas');
      canvas.width = image.naturalWidth;
      canvas.height = image.naturalHeight;
      const painter = canvas.getContext('2d')!;
      painter.drawImage(image, 0, 0);
      const { data } = painter.getImageData(0.82 * canvas.width, 0, 0.18 * canvas.width, canvas.height);
      let n = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i] + data[i + 1] + data[i + 2] < 200) n++;
      return n;
    });
    expect(dark).toBe(0);
  });

  for (const run of tablesOfRuns)
    it(`${run.name}: each row opens to a picture of its own`, async () => {
      const made = await site.importPaths([files.get(run.id)!]);
      await page.goto(`${site.address}/scene/${made!.scene}`);
      await settled(page);
      expect(coloured(await pictureOnScreen(page))).toBeGreaterThan(0.004);
      const [first] = await site.get<{ parameters: Record<string, unknown> }[]>('/api/runs/listed');
      expect(Object.keys(first.parameters)).toContain('fan [rpm]');
    });
});
