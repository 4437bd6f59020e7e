import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from 'playwright-core';
import { chromiumFlags, chromiumPath } from '#web/server/chromium.ts';
import { freePort } from '../../cli/free-port.ts';
import { ovenSteps } from '../sample-run.ts';
import { actsOnTheDesk } from './desk-acts.ts';
import type { Finding } from './readers.ts';
import { Served } from './served.ts';

/** The site with React's development build, which tells of more than the built one does. */
class DevelopedSite extends Served {
  private site: ChildProcess | null = null;

  override async start(folders: string[] = []): Promise<this> {
    const port = await freePort();
    this.address = `http://127.0.0.1:${port}`;
    this.site = spawn(
      process.execPath,
      ['node_modules/astro/astro.js', 'dev', '--port', String(port), '--host', '127.0.0.1'],
      {
        env: {
          ...process.env,
          ASTRO_TELEMETRY_DISABLED: '1',
          DRESSER_DATA: this.data,
          DRESSER_HOME: process.cwd(),
          DRESSER_FOLDERS: folders.join(':'),
        },
        stdio: 'ignore',
      },
    );
    for (let i = 0; i < 600; i++) {
      if ((await this.send('GET', '/api/folders')).status === 200) return this;
      await new Promise((r) => setTimeout(r, 100));
    }
    throw new Error('the site did not start');
  }

  override async kill(): Promise<void> {
    this.site?.kill();
  }
}

/** Everything the page complains of. */
function complaints(page: Page, into: (what: string) => void): void {
  page.on('pageerror', (error) => into(error.message));
  page.on('console', (message) => {
    if (message.type() === 'error' || message.text().includes('Maximum update depth')) into(message.text());
  });
}

/**
 * Does many things to the desk from a seed, several at a time, with pictures in between: the page must not complain,
 * React's endless updates (its error 185) least of all.
 */
export async function driveEdits(
  rounds: number,
  seed: number,
): Promise<{ inputs: number; findings: Finding[] }> {
  const findings: Finding[] = [];
  const folder = mkdtempSync(join(tmpdir(), 'dresser-edits-'));
  const site = new DevelopedSite();
  const browser = await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
  try {
    const files = ovenSteps().map(({ parts }, i) => [`oven_${i}.vtu`, parts.oven] as const);
    for (const [name, bytes] of files) writeFileSync(join(folder, name), bytes);
    await site.start([folder]);
    const made = await site.importPaths(files.map(([name]) => join(folder, name)));
    const page = await browser.newPage({ viewport: { width: 900, height: 600 } });
    let at = 'at opening';
    complaints(page, (what) => findings.push({ input: `${seed}/${at}`, what: what.slice(0, 400) }));
    await page.goto(`${site.address}/scene/${made!.scene}`, { timeout: 300_000 });
    await page.locator('[data-settled=true]').waitFor({ timeout: 120_000 });
    await page.evaluate(actsOnTheDesk, seed);
    for (let round = 0; round < rounds && findings.length < 10; round++) {
      at = await page.evaluate(() => (window as never as { act(): string }).act());
      at = `${round} ${at}`;
      if (round % 3 === 0) await page.waitForTimeout(60 + ((round * 37) % 200));
    }
    await page.waitForTimeout(500);
  } finally {
    await browser.close();
    await site.remove();
    rmSync(folder, { recursive: true, force: true });
  }
  return { inputs: rounds, findings };
}
