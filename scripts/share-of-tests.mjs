// Says how much of the code is tests, and fails under a quarter. Counted are lines that are not empty.
import { readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { filesBelow } from './files-below.mjs';

const home = join(dirname(fileURLToPath(import.meta.url)), '..');
const folders = ['core', 'engine', 'stage', 'web', 'cli', 'demo', 'scripts', 'bench', 'tests'];
const LEAST = 0.25;

const isTest = (path) => path.startsWith('tests') || path.endsWith('.test.ts');
const linesOf = (path) =>
  readFileSync(path, 'utf8')
    .split('\n')
    .filter((line) => line.trim() !== '').length;

let tests = 0;
let all = 0;
for (const folder of folders)
  for (const path of filesBelow(join(home, folder), /\.(ts|tsx|mjs|astro|css)$/)) {
    const lines = linesOf(path);
    all += lines;
    if (isTest(relative(home, path))) tests += lines;
  }
const share = tests / all;
console.log(`Tests are ${(100 * share).toFixed(1)} % of ${all} lines.`);
if (process.argv.includes('--check') && share < LEAST) {
  console.error(`They should be at least ${100 * LEAST} %: test what is thin.`);
  process.exit(1);
}
