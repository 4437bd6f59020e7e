// Everything that must hold before a change is given to others. Installs what is missing, Chromium included.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuild, ensureDebian, ensurePackages, home } from './ensure.mjs';

ensurePackages();
ensureDebian({
  chromium: 'chromium',
  ffprobe: 'ffmpeg',
  pdftotext: 'poppler-utils',
  pg_createcluster: 'postgresql',
});

function run(title, command, args) {
  console.log(`\n== ${title}`);
  const started = Date.now();
  const { status } = spawnSync(command, args, { stdio: 'inherit' });
  console.log(
    `   ${title}: ${status === 0 ? 'good' : 'FAILED'} in ${((Date.now() - started) / 1000).toFixed(0)} s`,
  );
  if (status !== 0) process.exit(status ?? 1);
}
const node = process.execPath;
run('format and lint', node, ['node_modules/@biomejs/biome/bin/biome', 'ci', '--error-on-warnings', '.']);
run('types of core', node, ['node_modules/typescript/bin/tsc', '-p', 'core']);
run('types', node, ['node_modules/typescript/bin/tsc', '-p', '.']);
run('import arrows', node, ['scripts/check-arrows.mjs']);
run('share of tests', node, ['scripts/share-of-tests.mjs', '--check']);
console.log('\n== build');
ensureBuild();

const results = mkdtempSync(join(tmpdir(), 'dresser-test-'));
const file = join(results, 'results.json');
run('tests', node, [
  'node_modules/vitest/vitest.mjs',
  'run',
  '--reporter=default',
  '--reporter=json',
  `--outputFile.json=${file}`,
]);
const counts = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {};
rmSync(results, { recursive: true, force: true });
const files = (counts.testResults ?? []).map(({ name, startTime, endTime }) => ({
  seconds: (endTime - startTime) / 1000,
  name: name.slice(home.length + 1),
}));
console.log('\nThe slowest files:');
for (const { seconds, name } of files.sort((a, b) => b.seconds - a.seconds).slice(0, 25))
  console.log(`${seconds.toFixed(0).padStart(6)} s  ${name}`);
console.log(`\n${counts.numPassedTests ?? 0} passed, ${counts.numFailedTests ?? 0} failed`);
