// Builds the site, the reading thread, the command line and the demo solver into dist/.
import { execFileSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { buildPrograms } from './build-programs.mjs';

rmSync('dist', { recursive: true, force: true });
await buildPrograms();
execFileSync(process.execPath, ['node_modules/astro/astro.js', 'build', '--silent'], { stdio: 'inherit' });
