// What a fresh clone still needs: packages, a build, Chromium. Each step is skipped when it is done already.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { wasImported } from './import-demo.mjs';

export const home = join(dirname(fileURLToPath(import.meta.url)), '..');
process.chdir(home);

const time = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0);

export function ensurePackages() {
  const mark = 'node_modules/.dresser-installed';
  if (time(mark) > time('package-lock.json') && time(mark) > time('package.json')) return;
  console.log('Installing packages ...');
  // Not `npm ci`: it refuses a lock file that lacks the builds of other platforms, which not every registry serves.
  execFileSync('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error'], {
    stdio: 'inherit',
    shell: process.platform === 'win32',
  });
  writeFileSync(mark, '');
}

/** Newest change below the given folders and files. */
function newest(paths) {
  let latest = 0;
  for (const path of paths) {
    if (!existsSync(path)) continue;
    if (statSync(path).isDirectory())
      latest = Math.max(latest, newest(readdirSync(path).map((n) => join(path, n))));
    else latest = Math.max(latest, time(path));
  }
  return latest;
}

const sources = [
  'core',
  'engine',
  'stage',
  'web',
  'cli',
  'demo',
  'scripts/build.mjs',
  'scripts/build-programs.mjs',
  'scripts/bundled-packages.mjs',
  'scripts/empty-database.mjs',
  'astro.config.mjs',
  'package-lock.json',
];

export function ensureBuild() {
  const mark = 'dist/.built';
  if (time(mark) > newest(sources)) return;
  console.log('Building ...');
  execFileSync(process.execPath, ['scripts/build.mjs'], {
    stdio: 'inherit',
    env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
  });
  mkdirSync('dist', { recursive: true });
  writeFileSync(mark, '');
}

/** Computes the files of the first run of the bench where they are not there yet. */
export function ensureFirstDemo(data, [first]) {
  if (wasImported(data, first) || existsSync(join(data, 'demo', `${first.id}.complete`))) return;
  console.log('Computing the demo oven, once, in about a minute ...');
  execFileSync(process.execPath, ['dist/demo.mjs', join(data, 'demo'), first.id], { stdio: 'inherit' });
}

const installed = (command) =>
  spawnSync('sh', ['-c', `command -v ${command}`], { stdio: 'ignore' }).status === 0;

/** Installs Debian packages that are missing; needs rights for that, and says so when they lack. */
export function ensureDebian(packages) {
  const missing = Object.entries(packages).filter(([command]) => !installed(command));
  if (missing.length === 0) return;
  const names = missing.map(([, name]) => name);
  console.log(`Installing ${names.join(', ')} ...`);
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args];
    execFileSync(command, rest, {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  };
  try {
    apt('update', '-qq');
    apt('install', '-y', '-qq', '--no-install-recommends', ...names);
  } catch {
    console.error(`Please install these yourself and try again: ${names.join(', ')}`);
    process.exit(1);
  }
}
