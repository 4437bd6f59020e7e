#!/usr/bin/env node
// Starts the command line; builds it first where that was not done yet.
import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const home = join(dirname(fileURLToPath(import.meta.url)), '..');
process.env.DRESSER_HOME ??= home;
const program = join(home, 'dist', 'dresser.mjs');
if (!existsSync(program)) {
  const { buildPrograms } = await import('../scripts/build-programs.mjs');
  await buildPrograms();
}
await import(pathToFileURL(program).href);
