// Builds the site, the reading thread, the command line, the demo solver and an empty database into dist/.
import { execFileSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { buildPrograms } from './build-programs.mjs';
import { makeEmptyDatabase } from './empty-database.mjs';

rmSync('dist', { recursive: true, force: true });
await buildPrograms();
await makeEmptyDatabase();
execFileSync(process.execPath, ['node_modules/astro/astro.js', 'build', '--silent'], { stdio: 'inherit' });
