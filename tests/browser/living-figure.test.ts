import axe from 'axe-core';
import type { Locator, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Report, SourceToSee } from '#core/report/report.ts';
import type { Scene } from '#core/scene/document.ts';
import { followJob } from '#engine/server-requests.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';
import { importFiles, PATIENCE, Site, upload } from './site.ts';

const site = new Site();
const PICTURES = { width: 320, passes: 2 };
let page: Page;
let written: string;
let figure: Locator;

const send = async (method: string, address: string, json: unknown): Promise<Response> => {
  const answer = await fetch(site.address + address, {
    method,
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(json),
  });
  expect(answer.ok, `${method} ${address}: ${answer.ok ? '' : await answer.clone().text()}`).toBe(true);
  return answer;
};

beforeAll(async () => {
  await site.start();
  const desk = await site.page();
  const mesh = hexBlock(3);
  // The field of the run: 20 + 10 n + x + 2 y + 3 z, so that every reading can be checked by its place.
  const step = (n: number) =>
    upload(
      `oven_${n}.vtu`,
      writeVtu(mesh, [temperature(mesh, (x, y, z) => 20 + 10 * n + x + 2 * y + 3 * z)], 5 * n, {
        length: 'm',
        time: 's',
      }),
    );
  await importFiles(desk, [step(0), step(1)]);
  const scene = new URL(desk.url()).pathname.split('/').at(-1)!;
  const { document } = await site.get<{ document: Scene }>(`/api/scenes/${scene}`);
  const chain = [{ id: 'cut', op: 'section', options: { normal: [0, 0, 1], offset: 0.4 }, off: false }];
  const layers = [{ ...document.layers[0], chain }];
  const shot = await send('POST', `/api/scenes/${scene}/shots`, {
    name: 'Cut',
    document: { ...document, layers, step: 0 },
    thumbnail: 'data:image/png;base64,AAAA',
  });
  const of = { kind: 'shot' as const, id: ((await shot.json()) as { id: string }).id };
  await desk.close();

  const { id } = (await (await send('POST', '/api/reports', { name: 'Living' })).json()) as { id: string };
  const address = `/api/reports/${id}`;
  const begun = await site.get<{ document: Report; revision: number }>(address);
  const order: SourceToSee = { id: 's', of, run: null, pictured: true, living: true };
  const { job } = (await (
    await send('POST', '/api/seen', { sources: [order], pictures: PICTURES, quality: 'final' })
  ).json()) as { job: string };
  const { keys } = await followJob<{ keys: { s: string } }>(job, () => undefined, undefined, site.address);
  const block = { readers: null, source: 's', captions: {}, alt: null, width: 'full', living: true };
  await send('PUT', address, {
    revision: begun.revision,
    changes: [
      ...Object.entries(PICTURES).map(([key, now]) => ({
        at: ['pictures', key],
        was: begun.document.pictures[key as keyof typeof PICTURES],
        now,
      })),
      {
        at: ['sources', 's'],
        was: null,
        now: { id: 's', name: 'Cut', of, run: null, seen: keys.s, before: null },
      },
      { at: ['blocks', 'f'], was: null, now: { id: 'f', kind: 'figure', ...block }, after: null },
    ],
  });
  const ahead = await site.get<{ bytes: number; living: number }>(`${address}/file`);
  written = await (await send('POST', `${address}/file`, { format: 'html' })).text();
  expect(ahead.living).toBe(1);
  // Its size is told beforehand within a hundredth.
  expect(Math.abs(ahead.bytes - written.length) / written.length).toBeLessThan(0.01);

  const alone = await (await site.page())
    .context()
    .browser()!
    .newContext({ offline: true, viewport: { width: 1280, height: 800 } });
  page = await alone.newPage();
  page.setDefaultTimeout(PATIENCE);
  const asked: string[] = [];
  page.on('request', (r) => asked.push(r.url()));
  await page.setContent(written, { waitUntil: 'load' });
  figure = page.locator('.living');
  expect(asked.filter((a) => !a.startsWith('data:'))).toEqual([]);
});
afterAll(() => site.stop());

const status = () => figure.locator('.living-panel [role=status]');

/** What the middle of the figure reads, and where: the value and its place. */
async function readMiddle(): Promise<{ value: number; x: number; y: number; z: number }> {
  await figure.locator('.living-stage canvas').press('Enter');
  const said = (await status().textContent())!;
  const numbers = /^Temperature: ([\d.−]+) °C \(oven, at \(([\d.−]+), ([\d.−]+), ([\d.−]+)\) m\)$/.exec(said);
  expect(numbers, said).not.toBeNull();
  const [value, x, y, z] = numbers!.slice(1).map((n) => Number(n.replace('−', '-')));
  return { value, x, y, z };
}

/** Whether a reading is what the run has there, as far as its four digits tell. */
function expectOfRun({ value, x, y, z }: Awaited<ReturnType<typeof readMiddle>>, step: number): void {
  expect(Math.abs(value - (20 + 10 * step + x + 2 * y + 3 * z))).toBeLessThan(0.008);
}

describe('a figure that lives in its page', () => {
  it('runs no script but its own', () => {
    expect(written).toMatch(/script-src (?:'|&apos;|&#39;)sha256-[A-Za-z0-9+/=]+(?:'|&apos;|&#39;);/);
    expect(written.match(/<script(?! type="application\/octet-stream")[^>]*>/g)).toEqual(['<script>']);
  });

  it('is woken by a button, and reads the value in its middle at a key', async () => {
    await figure.getByRole('button', { name: 'Turn in 3D' }).press('Enter');
    const canvas = figure.locator('.living-stage canvas');
    await canvas.waitFor();
    expect(await canvas.evaluate((e) => e === document.activeElement)).toBe(true);
    expect(await figure.locator('img').isVisible()).toBe(false);
    const read = await readMiddle();
    expectOfRun(read, 0);
    expect(read.z).toBeCloseTo(0.4, 3);
    expect(await figure.locator('.living-legend').textContent()).toContain('Temperature (°C)');
  });

  it('turns by keys, comes nearer, and goes back to its first view', async () => {
    const before = await readMiddle();
    const canvas = figure.locator('.living-stage canvas');
    for (const key of ['ArrowRight', 'ArrowRight', 'ArrowUp', '+']) await canvas.press(key);
    const turned = await readMiddle();
    expectOfRun(turned, 0);
    await canvas.press('Home');
    expect(await readMiddle()).toEqual(before);
  });

  it('shows another step, and its section elsewhere, and says where it cannot do both', async () => {
    await figure.getByLabel('Step').press('ArrowRight');
    expect(await figure.locator('.living-stamp').textContent()).toBe('t = 5 s');
    const later = await readMiddle();
    expectOfRun(later, 1);
    expect(later.z).toBeCloseTo(0.4, 3);
    const section = figure.getByLabel('Section');
    await section.press('ArrowRight');
    expect(await status().textContent()).toMatch(
      /section elsewhere at one step only: now at z = .* m, t = 0 s/,
    );
    const place = Number((await section.getAttribute('aria-valuetext'))!.replace(/z = | m/g, ''));
    expect(place).toBeGreaterThan(0.45);
    const moved = await readMiddle();
    expectOfRun(moved, 0);
    expect(moved.z).toBeCloseTo(place, 3);
  });

  it('plays', async () => {
    const says = () => figure.getByLabel('Step').getAttribute('aria-valuetext');
    await figure.getByRole('button', { name: 'Play' }).click();
    await expect.poll(says).toBe('t = 5 s');
    await expect.poll(says).toBe('t = 0 s');
    await figure.getByRole('button', { name: 'Pause' }).click();
  });

  it('can be read by everybody while it is awake, and sleeps again', async () => {
    await page.evaluate(axe.source);
    const found = await page.evaluate(() => (window as never as { axe: typeof axe }).axe.run());
    expect(found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(' ')}`)).toEqual([]);
    await page.emulateMedia({ media: 'print' });
    expect(await figure.locator('img').isVisible()).toBe(true);
    expect(await figure.locator('.living-panel').isVisible()).toBe(false);
    await page.emulateMedia({ media: 'screen' });
    await figure.getByRole('button', { name: 'Back to the picture' }).click();
    expect(await figure.locator('img').isVisible()).toBe(true);
    expect(await figure.getByRole('button', { name: 'Turn in 3D' }).isVisible()).toBe(true);
  });
});
