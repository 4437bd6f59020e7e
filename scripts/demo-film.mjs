// Makes the film of the demo oven, in docs/film: npm run film
import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ensureBuild, ensureDebian, ensurePackages, home } from './ensure.mjs';

/** Small enough to be kept: 240 pictures in some hundred kilobytes. */
const SIZE = '512x288';
const PASSES = '4';

ensurePackages();
ensureDebian({ chromium: 'chromium' });
ensureBuild();
const demo = resolve(process.env.DRESSER_DATA ?? 'data', 'demo');
const node = (...args) => execFileSync(process.execPath, args, { cwd: home, stdio: 'inherit' });
if (!existsSync(join(demo, 'oven-warm-up.complete'))) node('dist/demo.mjs', demo, 'oven-warm-up');
const film = (ending) => `docs/film/warm-oven.${ending}`;
node(
  ...['cli/bin.mjs', 'film', 'demo/oven/warm-oven-film.txt', '--run', join(demo, 'oven-warm-up')],
  ...['--units', 'time=s', 'length=m', 'temperature=°C'],
  ...['--out', film('mp4'), film('poster.png'), '--size', SIZE, '--passes', PASSES, '--quality', 'small'],
);
