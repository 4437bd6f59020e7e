import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { ask, followJob } from '#engine/server-requests.ts';
import { Served } from '../attack/served.ts';
import { buildVtu, hexBlock } from '../vtu-builder.ts';

/** A server that is stopped in the middle of an import, and started again while somebody waits for it. */
const results = mkdtempSync(join(tmpdir(), 'dresser-stopped-'));
const served = new Served({ DRESSER_FOLDERS: results });
beforeAll(() => served.start(), 240_000);
afterAll(async () => {
  await served.remove();
  rmSync(results, { recursive: true, force: true });
});

const step = (n: number): Uint8Array => {
  const data = Array.from({ length: 13 ** 3 }, (_, i) => i + n);
  return new Uint8Array(
    buildVtu(
      hexBlock(12),
      [{ name: 'temperature', location: 'point', components: 1, type: 'Float64', data }],
      { format: 'ascii', header: 4, big: false, zlib: false },
    ),
  );
};

const steps = 40;

/** Begins an import, kills the server in its middle, starts it again and follows the import to its end. */
async function importedOver(fill: (at: string) => Promise<void>): Promise<{ run: string }> {
  const { id } = await ask<{ id: string }>(`${served.address}/api/intake`, { method: 'POST' });
  const at = `${served.address}/api/intake/${id}`;
  await fill(at);
  const preview = await ask<{ job: string }>(`${at}/preview`, { method: 'POST' });
  await followJob(preview.job, undefined, undefined, served.address);
  const { job } = await ask<{ job: string }>(`${at}/import`, {
    method: 'POST',
    json: { plan: 0, choices: {} },
  });
  let done = 0;
  const first = followJob<{ run: string }>(job, (p) => (done = p.done), undefined, served.address);
  while (done === 0) await new Promise((r) => setTimeout(r, 5));
  expect(done).toBeLessThan(1);
  const port = new URL(served.address).port;
  await served.kill();
  await served.start([], Number(port));
  return first;
}

async function expectWhole(run: string): Promise<void> {
  const { description } = await ask<{ description: { steps: unknown[] } }>(
    `${served.address}/api/runs/${run}`,
  );
  expect(description.steps).toHaveLength(steps);
}

it('an import of files on the server goes on by itself when the server is there again', async () => {
  const paths = Array.from({ length: steps }, (_, n) => join(results, `oven_${n}.vtu`));
  for (const [n, path] of paths.entries()) writeFileSync(path, step(n));
  const { run } = await importedOver(async (at) => {
    for (const path of paths) await ask(`${at}/server-path`, { method: 'POST', json: { path } });
  });
  await expectWhole(run);
}, 120_000);

it('so does one of dropped files, whose copies are kept for it', async () => {
  const { run } = await importedOver(async (at) => {
    for (let n = 0; n < steps; n++)
      await ask(`${at}/files?name=oven_${n}.vtu`, {
        method: 'PUT',
        body: readFileSync(join(results, `oven_${n}.vtu`)),
      });
  });
  await expectWhole(run);
}, 120_000);
