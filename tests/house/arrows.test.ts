import { describe, expect, it } from 'vitest';
import { reached, wrongWay } from '../../scripts/check-arrows.mjs';

describe('the check of the import arrows', () => {
  it('sees every way to reach another file', () => {
    const text = `
      import a from './a.ts';
      import type { B } from '#core/b.ts';
      export { c } from "./c.ts";
      export * from './d.ts';
      const e = await import('./e.ts');
      const f = require('f');
      const g = new Worker(new URL('./g.ts', import.meta.url), { type: 'module' });
      type H = import('./h.ts').H;
      const none = 'import x from "./not.ts"'; // from './comment.ts'
      const site = new URL('/path', base);
    `;
    expect(reached('x.ts', text)).toEqual([
      './a.ts',
      '#core/b.ts',
      './c.ts',
      './d.ts',
      './e.ts',
      'f',
      './g.ts',
      './h.ts',
    ]);
    expect(reached('x.astro', "---\nimport a from './a.ts';\n---\n<p>import b from './b.ts'</p>")).toEqual([
      './a.ts',
    ]);
  });

  it.each([
    ['engine/a.ts', '#core/model/run.ts', true],
    ['core/model/a.ts', '../ops/registry.ts', false],
    ['core/fields/a.ts', '../ops/registry.ts', false],
    ['core/scene/a.ts', '../ops/registry.ts', true],
    ['core/ops/a.ts', '../scene/document.ts', false],
    ['core/scene/a.ts', '../motion/play-clock.ts', false],
    ['core/motion/a.ts', '../scene/document.ts', true],
    ['core/model/a.ts', '#engine/scene-source.ts', false],
    ['core/model/a.ts', 'fs', false],
    ['core/model/a.ts', 'node:fs', false],
    ['engine/a.ts', 'fs/promises', false],
    ['core/model/schema.ts', 'zod', true],
    ['core/ops/a.ts', 'zod', false],
    ['engine/a.ts', 'zod', false],
    ['core/formats/a.ts', '@gltf-transform/core', true],
    ['stage/a.ts', 'three/addons/a.js', true],
    ['stage/a.ts', 'react', false],
    ['stage/a.ts', '#web/desks/a.ts', false],
    ['web/desks/stage/a.ts', '../../../engine/geometry-worker.ts', true],
    ['cli/a.ts', '#web/server/reading.ts', true],
    ['cli/a.ts', '../package.json', true],
    ['web/a.ts', '../tests/site.ts', false],
  ])('%s reaches %s: %s', (from, name, allowed) => {
    expect(wrongWay(from, name) === null).toBe(allowed);
  });
});
