// Bundles the programs that run in Node beside the site.
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const home = join(dirname(fileURLToPath(import.meta.url)), '..');

export async function buildPrograms() {
  await build({
    absWorkingDir: home,
    entryPoints: {
      server: 'web/server/serve.ts',
      'reader-process': 'web/server/reader-process.ts',
      'reader-watch': 'web/server/reader-watch.ts',
      dresser: 'cli/main.ts',
      demo: 'demo/main.ts',
    },
    outdir: 'dist',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    logLevel: 'warning',
  });
}
