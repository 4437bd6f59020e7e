// Attacks the readers, the documents and the server with damaged and hostile input; see docs/security.md.
import { mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ensureBuild, ensurePackages, home } from './ensure.mjs';

ensurePackages();
ensureBuild();
const { build } = await import('esbuild');
const folder = mkdtempSync(join(home, 'node_modules', '.attack-'));
process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
await build({
  absWorkingDir: home,
  entryPoints: ['tests/attack/main.ts'],
  outdir: folder,
  outExtension: { '.js': '.mjs' },
  splitting: true,
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  logLevel: 'warning',
});
await import(pathToFileURL(join(folder, 'main.mjs')).href);
