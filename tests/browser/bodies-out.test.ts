import { WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { unzipSync } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { MeshoptDecoder } from 'meshoptimizer/decoder';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { ovenFiles } from './sample-files.ts';
import { importFiles, Site, settled } from './site.ts';

const site = new Site();
let page: Page;
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await importFiles(page, ovenFiles(3));
  await settled(page);
  await page.getByRole('button', { name: 'Give out' }).click();
  await page.getByRole('tab', { name: '3D' }).click();
});
afterAll(() => site.stop());

const panel = () => page.getByRole('tabpanel', { name: '3D' });

/** Makes the file and saves it. */
async function made(name: string): Promise<{ bytes: Buffer; said: string }> {
  await panel()
    .getByRole('button', { name: `Make the ${name}` })
    .click();
  const save = panel().getByRole('button', { name: 'Save', exact: true });
  await save.waitFor({ timeout: 120_000 });
  const said = (await panel().getByRole('status').textContent()) ?? '';
  const coming = page.waitForEvent('download');
  await save.click();
  const stream = await (await coming).createReadStream();
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part as Buffer);
  return { bytes: Buffer.concat(parts), said };
}

const read = async (bytes: Uint8Array) => {
  await MeshoptDecoder.ready;
  return new WebIO()
    .registerExtensions(ALL_EXTENSIONS)
    .registerDependencies({ 'meshopt.decoder': MeshoptDecoder })
    .readBinary(Uint8Array.from(bytes));
};

const errors = async (bytes: Uint8Array): Promise<string[]> =>
  (await validateBytes(Uint8Array.from(bytes))).issues.messages
    .filter((m) => m.severity < 2)
    .map((m) => `${m.code} ${m.pointer}`);

it('what is on the stage is a GLB with its legend, whose size and triangles are told', async () => {
  const { bytes, said } = await made('GLB');
  expect(await errors(bytes)).toEqual([]);
  const document = await read(bytes);
  const names = document
    .getRoot()
    .listNodes()
    .map((n) => n.getName());
  expect(names).toContain('legend');
  expect(names).toContain('as on the stage');
  const triangles = document
    .getRoot()
    .listMeshes()
    .flatMap((m) => m.listPrimitives())
    .filter((p) => p.getMode() === 4)
    .reduce((sum, p) => sum + p.getIndices()!.getCount() / 3, 0);
  expect(said).toContain(`${triangles.toLocaleString('en')} triangles`);
  expect(said).toMatch(/^\d+(\.\d)? (KB|MB)/);
});

it('all steps in turn, packed, are an animation', async () => {
  await panel()
    .getByRole('button', { name: /in turn$/ })
    .click();
  await panel().getByText('Packed by meshopt').click();
  const { bytes, said } = await made('GLB');
  expect(said).toContain('3 steps');
  const document = await read(bytes);
  expect(document.getRoot().listAnimations()[0].listChannels()).toHaveLength(3);
  expect(
    document
      .getRoot()
      .listExtensionsRequired()
      .map((e) => e.extensionName),
  ).toContain('EXT_meshopt_compression');
  expect(await errors(bytes)).toEqual([]);
});

it('the same is a USDZ, and stands on the stage again as scenery where it is dropped', async () => {
  await panel().getByRole('button', { name: 'USDZ', exact: true }).click();
  const { bytes } = await made('USDZ');
  const files = unzipSync(bytes);
  expect(new TextDecoder().decode(files['scene.usda'])).toContain('timeSamples');

  await panel().getByRole('button', { name: 'GLB', exact: true }).click();
  await panel().getByRole('button', { name: 'what is on the stage' }).click();
  const glb = await made('GLB');
  await page.getByRole('button', { name: 'Back to the scene' }).click();
  await page.evaluate((content) => {
    const data = new DataTransfer();
    data.items.add(new File([Uint8Array.from(atob(content), (c) => c.charCodeAt(0))], 'again.glb'));
    document
      .querySelector('#picture')!
      .dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true }));
  }, glb.bytes.toString('base64'));
  await expect
    .poll(async () => {
      await page.getByText('saved', { exact: true }).waitFor();
      const id = page.url().split('/').pop();
      return (await site.get<{ document: Scene }>(`/api/scenes/${id}`)).document.scenery.length;
    })
    .toBe(1);
});
