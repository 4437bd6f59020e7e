// Runs the benchmarks; they print ratios of timings taken side by side, so that they hold on any machine.
import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ensurePackages, home } from './ensure.mjs';

ensurePackages();
const { build } = await import('esbuild');
const folder = mkdtempSync(join(home, 'node_modules', '.bench-'));
try {
  const outfile = join(folder, 'bench.mjs');
  await build({
    absWorkingDir: home,
    entryPoints: ['bench/main.ts'],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
  });
  await import(pathToFileURL(outfile).href);
} finally {
  rmSync(folder, { recursive: true, force: true });
}
