// Bundles the programs that run in Node beside the site.
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { bundledPackages } from './bundled-packages.mjs';

const home = join(dirname(fileURLToPath(import.meta.url)), '..');

/** The program that pages of reports carry to turn their figures. */
const buildLivingViewer = () =>
  build({
    absWorkingDir: home,
    entryPoints: { 'living-viewer': 'stage/living/main.ts' },
    outdir: 'dist',
    bundle: true,
    minify: true,
    platform: 'browser',
    format: 'iife',
    target: 'es2022',
    legalComments: 'inline',
    logLevel: 'warning',
  });

const { dependencies } = JSON.parse(readFileSync(join(home, 'package.json'), 'utf8'));
const packages = Object.keys(dependencies);

export async function buildPrograms() {
  await buildLivingViewer();
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
    external: packages.filter((name) => !bundledPackages.includes(name)),
    // What is built in may ask for parts of Node in the old way.
    banner: {
      js: "import { createRequire as ofNode } from 'node:module'; const require = ofNode(import.meta.url);",
    },
    logLevel: 'warning',
  });
}
