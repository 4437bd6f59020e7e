import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { ovenFiles } from './sample-files.ts';
import { importFiles, Site } from './site.ts';

/** A cube of 0.5 m with four steps, 2 s apart, on the desk while the tests of a file last; and a folder for what they save. */
export function openedOven() {
  const site = new Site();
  const opened = {
    page: null as unknown as Page,
    folder: mkdtempSync(join(tmpdir(), 'dresser-oven-')),
    /** The scene as it is saved. */
    async sceneNow(): Promise<Scene> {
      const id = new URL(opened.page.url()).pathname.split('/').pop();
      return (await site.send<{ document: Scene }>('GET', `/api/scenes/${id}`)).answer.document;
    },
  };
  beforeAll(async () => {
    await site.start();
    opened.page = await site.page();
    await importFiles(opened.page, ovenFiles(4));
  });
  afterAll(async () => {
    await site.stop();
    rmSync(opened.folder, { recursive: true, force: true });
  });
  return opened;
}
