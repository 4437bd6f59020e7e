// Keeps the arrows of imports: core <- engine <- stage <- web/cli. Prints every import that goes the other way.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

const home = join(dirname(fileURLToPath(import.meta.url)), '..');

/** What each folder may import from, besides itself. */
const allowed = {
  core: [],
  engine: ['core'],
  stage: ['core', 'engine'],
  web: ['core', 'engine', 'stage'],
  cli: ['core', 'engine', 'web'],
  demo: ['core'],
};

/** Packages that would break a folder's promise: core computes, the stage draws, only the web knows React. */
const forbidden = {
  core: /^(node:|three|react|zustand|@electric-sql|drizzle|playwright|mediabunny)/,
  engine: /^(node:|three|react|zustand|@electric-sql|drizzle|playwright|mediabunny)/,
  stage: /^(node:|react|zustand|@electric-sql|drizzle|playwright|mediabunny)/,
};

function* filesBelow(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* filesBelow(path);
    else if (/\.(ts|tsx|astro)$/.test(name)) yield path;
  }
}

const wrong = [];
let checked = 0;
for (const folder of Object.keys(allowed)) {
  for (const path of filesBelow(join(home, folder))) {
    if (/\.test\.ts$/.test(path)) continue;
    const text = readFileSync(path, 'utf8');
    for (const [, name] of text.matchAll(/(?:from|import)\s*\(?\s*['"]([^'"]+)['"]/g)) {
      checked++;
      const target = name.startsWith('#')
        ? name.slice(1).split('/')[0]
        : name.startsWith('.')
          ? relative(home, join(dirname(path), name)).split(/[\\/]/)[0]
          : null;
      const outside = target === null && forbidden[folder]?.test(name);
      const upward =
        target !== null && target in allowed && target !== folder && !allowed[folder].includes(target);
      if (outside || upward) wrong.push(`${relative(home, path)} imports ${name}`);
    }
  }
}
if (wrong.length > 0) {
  console.error(`Imports against the arrows:\n  ${wrong.join('\n  ')}`);
  process.exit(1);
}
console.log(`Arrows hold in ${checked} imports.`);
