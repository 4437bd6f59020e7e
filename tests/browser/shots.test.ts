import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Scene } from '#core/scene/document.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';
import { importFiles, PATIENCE, Site, settled, upload } from './site.ts';

interface Kept {
  name: string;
  kind: string;
  folder: string | null;
  tags: string[];
  notes: string;
  document: Scene;
}

const site = new Site();
let page: Page;
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await page.setViewportSize({ width: 1280, height: 800 });
  const mesh = hexBlock(3);
  const at = (x: number, y: number): number => 20 + x + 2 * y;
  await importFiles(page, [upload('oven.vtu', writeVtu(mesh, [temperature(mesh, at)], null))]);
});
afterAll(() => site.stop());

const press = (name: string) => page.getByRole('button', { name, exact: true }).click();
const scene = (): string => new URL(page.url()).pathname.split('/').at(-1)!;
const kept = () => site.get<Kept[]>(`/api/scenes/${scene()}/shots`);
const order = async () => (await kept()).map((s) => s.name);
const presented = (name: string) =>
  page.locator(`[data-testid=presented][data-shot="${name}"]`).waitFor({ timeout: PATIENCE });

describe('shots', () => {
  it('are kept of the picture, and of what the gauges say', async () => {
    await press('Keep shot');
    await page.getByRole('button', { name: 'Open Shot 1' }).waitFor();
    await press('Look from +x');
    await settled(page);
    await press('Keep shot');
    await page.getByRole('button', { name: 'Open Shot 2' }).waitFor();
    await page.getByRole('link', { name: 'Gauges' }).click();
    await press('Ask for a number');
    await page.getByLabel('What is asked for').fill('maximum of temperature over everything');
    await page.keyboard.press('Enter');
    await press('Keep shot');
    await page.getByRole('button', { name: 'Open Shot 3' }).waitFor();
    expect((await kept()).map((s) => s.kind)).toEqual(['picture', 'picture', 'charts']);
  });

  it('get names, headings, tags and notes on their board, and undo takes them back', async () => {
    await press('All shots');
    await page.getByRole('region', { name: 'Charts and readings' }).waitFor();
    await page.getByLabel('Name of Shot 2').fill('From the side');
    await page.getByLabel('Tags of Shot 2').fill('review, door');
    await page.getByLabel('Heading of From the side').fill('Customer');
    await page.getByLabel('Notes on From the side').fill('Ask about the seal.');
    await page.getByLabel('Notes on From the side').blur();
    await page
      .getByRole('region', { name: 'Customer' })
      .getByRole('listitem', { name: 'From the side' })
      .waitFor();
    await expect
      .poll(async () => (await kept())[1])
      .toMatchObject({
        name: 'From the side',
        folder: 'Customer',
        tags: ['review', 'door'],
        notes: 'Ask about the seal.',
      });
    await press('review');
    expect(await page.getByRole('dialog').getByRole('listitem').count()).toBe(1);
    await press('all');
  });

  it('are put in another order by keys', async () => {
    const { length } = await order();
    await press('review');
    await press('all');
    // Both have no heading of their own.
    await page.getByLabel('Heading of From the side').fill('');
    await page.getByLabel('Heading of From the side').blur();
    await page.getByRole('region', { name: 'Customer' }).waitFor({ state: 'detached' });
    const grip = page.getByRole('button', { name: 'Move From the side' });
    await grip.focus();
    const told = page.getByRole('dialog').getByRole('status');
    await page.keyboard.press('Space');
    await told.getByText('From the side is picked up.').waitFor({ state: 'attached' });
    // Arrows do nothing until the places of the cards were measured, and nothing at the first place.
    await expect
      .poll(async () => {
        await page.keyboard.press('ArrowLeft');
        return (await told.allTextContents()).join('');
      })
      .toBe('From the side is at the place of Shot 1.');
    await page.keyboard.press('Space');
    await expect.poll(order).toEqual(['From the side', 'Shot 1', 'Shot 3']);
    expect(length).toBe(3);
  });

  it('are presented one after the other, with notes, the next one drawn ahead', async () => {
    await press('Present');
    await presented('From the side');
    await page.keyboard.press('n');
    await page.getByText('Ask about the seal.').last().waitFor();
    await page.keyboard.press('ArrowRight');
    await presented('Shot 1');
    await page.keyboard.press('End');
    await presented('Shot 3');
    await page.keyboard.press('Home');
    await presented('From the side');
    await page.getByRole('button', { name: 'End', exact: true }).click();
    await page.getByRole('dialog', { name: 'Presenting shots' }).waitFor({ state: 'detached' });
  });

  it('are restored exactly, on the desk where they were kept', async () => {
    await press('Open Shot 1');
    const [, first, numbers] = await kept();
    const now = async () => (await site.get<{ document: Scene }>(`/api/scenes/${scene()}`)).document;
    await expect.poll(now).toEqual({ ...first.document, name: (await now()).name });
    await press('Open Shot 3');
    await page.waitForURL(/#gauges/);
    await expect.poll(now).toEqual({ ...numbers.document, name: (await now()).name });
  });
});
