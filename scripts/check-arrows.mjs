// Keeps the arrows of imports: core <- engine <- stage <- web/cli, and those between the folders of core. Knows every
// way to reach another file: import, export from, import(), require and new URL(..., import.meta.url). Prints every
// one that goes the other way, and every outside package a folder may not use.
import { readFileSync } from 'node:fs';
import { builtinModules } from 'node:module';
import { dirname, join, relative, sep } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import { filesBelow } from './files-below.mjs';

const home = join(dirname(fileURLToPath(import.meta.url)), '..');

/** What each folder may reach besides itself: folders of ours, and packages from outside by name (`node` is Node's). */
const rules = {
  'core/model': { folders: [], packages: ['zod', 'mathjs', 'fastest-levenshtein'] },
  'core/colour': {
    folders: ['core/model'],
    packages: ['d3-scale-chromatic', 'd3-scale', 'd3-format', 'culori', 'colormap'],
  },
  'core/light': { folders: ['core/model'], packages: [] },
  'core/language': { folders: ['core/model'], packages: ['d3-format'] },
  'core/formats': {
    folders: ['core/model'],
    packages: [
      '@gltf-transform/core',
      '@gltf-transform/extensions',
      'meshoptimizer',
      'draco3dgltf',
      'fflate',
    ],
  },
  'core/fields': { folders: ['core/model'], packages: ['mathjs'] },
  'core/ops': {
    folders: ['core/model', 'core/formats', 'core/language', 'core/fields', 'core/colour'],
    packages: ['lru-cache'],
  },
  'core/measure': {
    folders: ['core/model', 'core/language', 'core/fields', 'core/ops'],
    packages: ['fft.js', 'ml-levenberg-marquardt', 'mathjs'],
  },
  'core/scene': {
    folders: [
      'core/model',
      'core/language',
      'core/light',
      'core/fields',
      'core/colour',
      'core/ops',
      'core/measure',
    ],
    packages: [],
  },
  'core/motion': { folders: ['core/model', 'core/language', 'core/ops', 'core/scene'], packages: [] },
  'core/response': { folders: ['core/model'], packages: ['ml-matrix'] },
  'core/sets': { folders: ['core/model', 'core/batch', 'core/response'], packages: [] },
  'core/beside': {
    folders: ['core/model', 'core/language', 'core/colour', 'core/fields', 'core/scene'],
    packages: [],
  },
  'core/preflight': {
    folders: [
      'core/model',
      'core/language',
      'core/colour',
      'core/fields',
      'core/ops',
      'core/measure',
      'core/scene',
      'core/motion',
    ],
    packages: [],
  },
  'core/report': {
    folders: [
      'core/preflight',
      'core/model',
      'core/formats',
      'core/language',
      'core/colour',
      'core/fields',
      'core/scene',
      'core/motion',
      'core/batch',
    ],
    packages: ['mdast', 'mdast-util-from-markdown'],
  },
  'core/watch': { folders: [], packages: [] },
  'core/batch': { folders: ['core/model', 'core/language'], packages: [] },
  engine: { folders: ['core'], packages: ['lru-cache'] },
  stage: {
    folders: ['core', 'engine'],
    packages: [
      'three',
      'three-mesh-bvh',
      'lru-cache',
      'echarts',
      'fflate',
      'fast-png',
      'draco3dgltf',
      'mediabunny',
      'gifenc',
    ],
  },
  web: { folders: ['core', 'engine', 'stage'], packages: null },
  cli: { folders: ['core', 'engine', 'web'], packages: ['commander', 'node'] },
  demo: { folders: ['core'], packages: ['node'] },
};

/** Everything a file reaches, by the words it names it with. */
export function reached(path, text) {
  const found = [];
  // Of a page only the part between its lines of dashes is code.
  const code = path.endsWith('.astro') ? (/^---([\s\S]*?)^---/m.exec(text)?.[1] ?? '') : text;
  const source = ts.createSourceFile(path.replace(/\.astro$/, '.ts'), code, ts.ScriptTarget.Latest, false);
  const literal = (node) => (node && ts.isStringLiteralLike(node) ? node.text : null);
  const visit = (node) => {
    let name = null;
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) name = literal(node.moduleSpecifier);
    else if (ts.isImportTypeNode(node)) name = literal(node.argument.literal);
    else if (ts.isCallExpression(node)) {
      const { expression } = node;
      const asks =
        expression.kind === ts.SyntaxKind.ImportKeyword ||
        (ts.isIdentifier(expression) && expression.text === 'require') ||
        (ts.isPropertyAccessExpression(expression) && expression.expression.getText?.(source) === 'require');
      if (asks) name = literal(node.arguments[0]);
    } else if (
      ts.isNewExpression(node) &&
      ts.isIdentifier(node.expression) &&
      node.expression.text === 'URL'
    ) {
      const [first, second] = node.arguments ?? [];
      if (second && ts.isPropertyAccessExpression(second)) name = literal(first);
    }
    if (name !== null) found.push(name);
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** The folder of a path that has rules of its own; a file right in core counts as core. */
const folderOf = (path) => {
  const [first, second] = path.split(sep);
  return `${first}/${second}` in rules ? `${first}/${second}` : first;
};

const packageOf = (name) =>
  name.startsWith('node:') || builtinModules.includes(name.split('/')[0])
    ? 'node'
    : name
        .split('/')
        .slice(0, name.startsWith('@') ? 2 : 1)
        .join('/');

/** Why a file may not reach something, or null. */
export function wrongWay(from, name) {
  const folder = folderOf(from);
  const rule = rules[folder];
  if (!rule) return `${folder} has no rule`;
  if (!/^[.#]/.test(name)) {
    const outside = packageOf(name);
    return rule.packages === null || rule.packages.includes(outside)
      ? null
      : `${folder} may not use the package ${outside}`;
  }
  const target = name.startsWith('#') ? join(...name.slice(1).split('/')) : join(dirname(from), name);
  const to = folderOf(target);
  if (to === folder || !(to in rules)) return to in rules || target.startsWith(folder) ? null : outsideOf(to);
  return rule.folders.some((f) => to === f || to.startsWith(`${f}/`)) ? null : `${folder} may not know ${to}`;
}

/** Plain files at the top, such as package.json, are nobody's. */
const outsideOf = (to) => (/\.\w+$/.test(to) ? null : `${to} is not part of the application`);

function main() {
  const wrong = [];
  let checked = 0;
  for (const top of new Set(Object.keys(rules).map((f) => f.split('/')[0]))) {
    for (const path of filesBelow(join(home, top), /\.(ts|tsx|astro)$/)) {
      if (/\.(test|d)\.ts$/.test(path)) continue;
      const from = relative(home, path);
      for (const name of reached(path, readFileSync(path, 'utf8'))) {
        checked++;
        const why = wrongWay(from, name);
        if (why) wrong.push(`${from} reaches ${name}: ${why}`);
      }
    }
  }
  if (wrong.length > 0) {
    console.error(`Imports against the arrows:\n  ${wrong.join('\n  ')}`);
    process.exit(1);
  }
  console.log(`Arrows hold in ${checked} imports.`);
}

if (process.argv[1] === fileURLToPath(import.meta.url)) main();
