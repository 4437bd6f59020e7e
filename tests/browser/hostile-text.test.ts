import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writers } from '#core/formats/writer.ts';
import { encodeText } from '#core/formats/xml/xml-tags.ts';
import type { Scene } from '#core/scene/document.ts';
import { partLook } from '#core/scene/things/part-look.ts';
import { buildVtu, hexBlock } from '../vtu-builder.ts';
import { downloaded, importFiles, Site, settled, upload } from './site.ts';

/** Text that would run, or draw, wherever it is taken for markup, for a sheet's formula or for an address. */
const evil = '"><img src=x onerror="window.hurt=1"><script>window.hurt=1</script>';

const block = (t: number): Uint8Array => {
  const data = Array.from({ length: 27 }, (_, i) => t + i);
  const field = { name: 'FIELD', location: 'point', components: 1, type: 'Float64', data } as const;
  const vtu = buildVtu(hexBlock(2), [field], { format: 'ascii', header: 4, big: false, zlib: false });
  const time = `<FieldData><DataArray type="Float64" Name="TimeValue [${encodeText(evil)}]" NumberOfTuples="1" format="ascii">${t}</DataArray></FieldData><Piece`;
  const text = new TextDecoder().decode(vtu).replaceAll('FIELD', `${encodeText(evil)} [${encodeText(evil)}]`);
  return new TextEncoder().encode(text.replace('<Piece', time));
};

/** A scene that has the text in every place that takes one. */
function hostileScene(scene: Scene): Scene {
  const copy = structuredClone(scene);
  const [first] = copy.layers;
  copy.name = evil;
  first.name = evil;
  const coloured = { ...structuredClone(first), id: `second ${evil}`, name: null };
  coloured.parts = [evil];
  coloured.set = evil;
  coloured.from = evil;
  coloured.colour = { kind: 'field', field: `point:${evil}`, component: 0, scale: evil };
  coloured.chain = [{ id: evil, op: evil, options: { [evil]: evil }, off: false }];
  copy.layers.push(coloured);
  copy.parts = { [evil]: { ...partLook.plain } };
  copy.sets = [{ name: evil, rule: { kind: 'parts', parts: [evil] } as never }];
  for (const scale of copy.scales) {
    scale.name = evil;
    scale.legend.title = evil;
  }
  copy.scales.push({ ...structuredClone(copy.scales[0]), id: evil, quantity: evil, map: evil });
  copy.stamp.unit = evil.slice(0, 40);
  return copy;
}

describe('hostile text in everything a run, a scene, a shot and a file can hold', () => {
  const site = new Site();
  const folder = mkdtempSync(join(tmpdir(), 'dresser-hostile-'));
  let page: Page;
  beforeAll(async () => {
    await site.start();
    page = await site.page();
  });
  afterAll(async () => {
    await site.stop();
    rmSync(folder, { recursive: true, force: true });
  });
  const hurt = (p: Page): Promise<unknown> => p.evaluate(() => (window as never as { hurt?: number }).hurt);
  const send = async <T>(method: string, path: string, body: unknown): Promise<T> =>
    (await fetch(site.address + path, { method, body: JSON.stringify(body) })).json() as Promise<T>;
  const idOf = (): string => page.url().split('/').pop()!;
  const fileName = (n: number): string => `${evil.replaceAll('/', '')}_${n}.vtu`;

  it('is shown as text on every desk', async () => {
    await importFiles(page, [upload(fileName(0), block(0)), upload(fileName(1), block(1))]);
    expect(await hurt(page)).toBeUndefined();
    const row = await site.get<{ run: string; document: Scene }>(`/api/scenes/${idOf()}`);
    const { id } = await send<{ id: string }>('POST', '/api/scenes', {
      run: row.run,
      document: hostileScene(row.document),
    });
    const thumbnail = 'data:image/png;base64,AAAA';
    const shot = { name: evil, document: hostileScene(row.document), thumbnail };
    const kept = await send<{ id: string }>('POST', `/api/scenes/${id}/shots`, shot);
    await send('PUT', `/api/shots/${kept.id}`, { caption: evil });
    for (const address of ['/', `/run/${row.run}`, `/scene/${id}`]) {
      await page.goto(site.address + address);
      if (address.startsWith('/scene')) await settled(page);
      await page.waitForTimeout(400);
      expect(await hurt(page), address).toBeUndefined();
      expect(await page.locator('img[src="x"]').count(), address).toBe(0);
      expect(await page.locator('body').textContent(), address).toContain('window.hurt=1');
    }
    // Every menu and list of the stage, opened once.
    const buttons = page.locator('button[aria-expanded=false], button[aria-haspopup]');
    expect(await buttons.count()).toBeGreaterThan(5);
    for (const button of await buttons.all()) {
      if (await button.isVisible()) await button.click({ timeout: 1000 }).catch(() => undefined);
      await page.keyboard.press('Escape');
    }
    expect(await hurt(page)).toBeUndefined();
  });

  it('leaves as text in a page and in a scene', async () => {
    await page.reload();
    await settled(page);
    await page.getByRole('button', { name: 'Give out' }).click();
    for (const [tab, make, save] of [
      ['Page', 'Make the page', 'Save page'],
      ['Scene', null, 'Save scene file'],
      ['Scene', null, 'Save as sentences'],
    ] as const) {
      await page.getByRole('tab', { name: tab }).click();
      if (make) {
        await page.getByLabel('Title').fill(evil);
        await page.getByLabel('Opening words').fill(evil);
        await page.getByRole('button', { name: make }).click();
        await page.getByRole('button', { name: save }).waitFor({ timeout: 300_000 });
      }
      const { name, bytes } = await downloaded(page, save);
      const path = join(folder, name);
      writeFileSync(path, bytes);
      expect(bytes.toString('utf8')).toContain('window.hurt=1');
      await opens(path);
      if (make) {
        expect(bytes.toString('utf8').match(/<img /g)).toHaveLength(1);
        expect(bytes.toString('utf8')).toContain('default-src &apos;none&apos;');
      }
    }
  });

  it('leaves as text in every format that is written', async () => {
    const from = join(folder, fileName(0));
    writeFileSync(from, block(0));
    for (const { id } of writers) {
      const out = join(folder, id);
      execFileSync(process.execPath, ['cli/bin.mjs', 'convert', from, '--to', id, '--out', out]);
      const names = readdirSync(out);
      expect(names.length, id).toBeGreaterThan(0);
      for (const name of names) await opens(join(out, name));
    }
  });

  /** Opens a file in the browser, and, where it is XML, as XML. */
  async function opens(path: string): Promise<void> {
    const other = await page.context().browser()!.newPage();
    await other
      .goto(`file://${encodeURI(path).replace(/[?#]/g, encodeURIComponent)}`)
      .catch((error: Error) => {
        // Formats a browser does not show are saved instead.
        if (!/Download is starting|ERR_ABORTED/.test(error.message)) throw error;
      });
    await other.waitForTimeout(200);
    expect(await hurt(other), path).toBeUndefined();
    expect(await other.locator('script').count(), path).toBe(0);
    await other.close();
  }
});
