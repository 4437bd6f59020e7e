import { readdirSync } from 'node:fs';
import { type Browser, chromium, type Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chromiumFlags, chromiumPath } from '#web/server/chromium.ts';

const folder = new URL('../../stage/shaders/', import.meta.url);
const texts = new Map<string, string>();
for (const file of readdirSync(folder))
  for (const [name, value] of Object.entries(await import(new URL(file, folder).href)))
    if (typeof value === 'string' && value.includes('void main()')) texts.set(name, value);

/** What is drawn with: vertex shader, fragment shader, and the variants they are used in. */
const lit = ['', 'FINISHED', 'SURFACES', 'PEELED', 'PEELED FINISHED', 'PEELED SURFACES'];
const programs: [vertex: string, fragment: string, variants: string[]][] = [
  ['surfaceVertex', 'surfaceFragment', lit],
  ['casterVertex', 'casterFragment', ['', 'HIDES']],
  ['arrowVertex', 'arrowFragment', lit],
  ['arrowVertex', 'arrowCasterFragment', ['']],
  ['sphereVertex', 'sphereFragment', lit],
  ['sphereVertex', 'sphereCasterFragment', ['']],
  ['lineVertex', 'lineFragment', ['', 'SURFACES', 'PEELED', 'PEELED SURFACES']],
  ['dotVertex', 'dotFragment', ['', 'SURFACES', 'PEELED', 'PEELED SURFACES']],
  ['textVertex', 'textFragment', ['']],
  ['worldVertex', 'volumeFragment', ['', 'LIT', 'LIT CLOUDED']],
  ['floorVertex', 'floorFragment', ['', 'SURFACES']],
  ['screenVertex', 'backdropFragment', ['']],
  [
    'screenVertex',
    'litFragment',
    ['SAMPLED', 'SAMPLED FINISHED', 'SAMPLED CLOUDED', 'SAMPLED FINISHED CLOUDED'],
  ],
  [
    'screenVertex',
    'layerFragment',
    ['', 'SAMPLED', 'FINISHED', 'SAMPLED FINISHED', 'SAMPLED FINISHED CLOUDED'],
  ],
  ['screenVertex', 'edgesFragment', ['']],
  ['screenVertex', 'inkFragment', ['']],
  ['screenVertex', 'excessFragment', ['']],
  ['screenVertex', 'spreadFragment', ['']],
  ['screenVertex', 'averageFragment', ['']],
  ['screenVertex', 'layersFragment', ['']],
  ['screenVertex', 'partFragment', ['', 'DEEP']],
  ['screenVertex', 'developFragment', ['']],
  ['screenVertex', 'smallerFragment', ['']],
  ['screenVertex', 'copyFragment', ['']],
  ['screenVertex', 'shapeFragment', ['']],
  ['screenVertex', 'gatherFragment', ['']],
  ['screenVertex', 'smoothFragment', ['']],
  ['screenVertex', 'relightFragment', ['']],
  ['screenVertex', 'shareFragment', ['']],
];

describe('the shaders of the stage', () => {
  let browser: Browser;
  let page: Page;
  beforeAll(async () => {
    browser = await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
    page = await browser.newPage();
  });
  afterAll(() => browser.close());

  it('are all in the list below', () => {
    expect([...texts.keys()].sort()).toEqual([...new Set(programs.flatMap(([v, f]) => [v, f]))].sort());
  });

  /** What the card says of a program; nothing where it takes it. */
  const trouble = (vertex: string, fragment: string, variant: string): Promise<string> =>
    page.evaluate(
      ([v, f, defines]) => {
        const gl = document.createElement('canvas').getContext('webgl2')!;
        const program = gl.createProgram()!;
        const said: string[] = [];
        for (const [kind, text] of [
          [gl.VERTEX_SHADER, v],
          [gl.FRAGMENT_SHADER, f],
        ] as const) {
          const shader = gl.createShader(kind)!;
          gl.shaderSource(shader, `#version 300 es\n${defines}\n${text}`);
          gl.compileShader(shader);
          if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS))
            said.push(gl.getShaderInfoLog(shader) ?? 'not compiled');
          gl.attachShader(program, shader);
        }
        gl.linkProgram(program);
        if (!gl.getProgramParameter(program, gl.LINK_STATUS))
          said.push(gl.getProgramInfoLog(program) ?? 'not linked');
        gl.getExtension('WEBGL_lose_context')?.loseContext();
        return said.join('\n');
      },
      [
        texts.get(vertex)!,
        texts.get(fragment)!,
        variant
          .split(' ')
          .filter(Boolean)
          .map((name) => `#define ${name}`)
          .join('\n'),
      ] as const,
    );

  it.each(programs.flatMap(([v, f, variants]) => variants.map((variant) => [v, f, variant] as const)))(
    '%s with %s %s is understood by the card',
    async (vertex, fragment, variant) => {
      expect(await trouble(vertex, fragment, variant)).toBe('');
    },
  );
  it('that say a thing twice are not: the check tells', async () => {
    texts.set(
      'twice',
      texts.get('copyFragment')!.replace('void main()', 'uniform float a;\nuniform vec2 a;\nvoid main()'),
    );
    expect(await trouble('screenVertex', 'twice', '')).toMatch(/redefinition/);
  });
});
