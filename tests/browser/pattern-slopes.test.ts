import { type Browser, chromium } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { textureKinds } from '#core/light/finish.ts';
import { chromiumFlags, chromiumPath } from '#web/server/chromium.ts';
import { patterns } from '../../stage/shaders/patterns.ts';

/** Places along an edge of the picture: each pixel looks at one of its own. */
const EDGE = 96;
/** Flakes lean by chance, whatever their number is. */
const rising = textureKinds.filter((kind) => kind !== 'none' && kind !== 'flakes');

/** Red: what the pattern is; green: the largest part of its slope; blue: how far that is from what differences say. */
const probe = (kind: number): string => /* glsl */ `#version 300 es
precision highp float;
precision highp int;
${patterns}
out vec4 outColour;
const float STEP = 7e-4;
void main() {
  vec2 at = gl_FragCoord.xy;
  vec3 p = vec3(0.371 * at, 0.0529 * at.x - 0.083 * at.y) - 11.0;
  vec3 normal = normalize(vec3(sin(at.x), cos(at.y), 0.4));
  vec4 found = patternAt(${kind}, p, normal);
  vec3 differences = vec3(0.0);
  for (int i = 0; i < 3; i++) {
    vec3 step = STEP * vec3(i == 0, i == 1, i == 2);
    differences[i] = (patternAt(${kind}, p + step, normal).x - patternAt(${kind}, p - step, normal).x) / (2.0 * STEP);
  }
  vec3 off = abs(found.yzw - differences);
  vec3 steep = abs(found.yzw);
  outColour = vec4(found.x, max(steep.x, max(steep.y, steep.z)), max(off.x, max(off.y, off.z)), 1.0);
}`;

describe('the slope of a pattern', () => {
  let browser: Browser;
  beforeAll(async () => {
    browser = await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
  });
  afterAll(() => browser.close());

  /** Three numbers for each place, as `probe` tells. */
  async function probed(fragment: string): Promise<[number, number, number][]> {
    const page = await browser.newPage();
    const found = await page.evaluate(
      ([text, edge]) => {
        const gl = document.createElement('canvas').getContext('webgl2')!;
        gl.getExtension('EXT_color_buffer_float');
        const program = gl.createProgram()!;
        const vertex =
          '#version 300 es\nvoid main() { gl_Position = vec4(4 * (gl_VertexID & 1) - 1, 2 * (gl_VertexID & 2) - 1, 0, 1); }';
        for (const [kind, source] of [
          [gl.VERTEX_SHADER, vertex],
          [gl.FRAGMENT_SHADER, text],
        ] as const) {
          const shader = gl.createShader(kind)!;
          gl.shaderSource(shader, source);
          gl.compileShader(shader);
          gl.attachShader(program, shader);
        }
        gl.linkProgram(program);
        if (!gl.getProgramParameter(program, gl.LINK_STATUS))
          throw new Error(gl.getProgramInfoLog(program) ?? 'not linked');
        gl.bindTexture(gl.TEXTURE_2D, gl.createTexture());
        gl.texStorage2D(gl.TEXTURE_2D, 1, gl.RGBA32F, edge, edge);
        gl.bindFramebuffer(gl.FRAMEBUFFER, gl.createFramebuffer());
        const texture = gl.getParameter(gl.TEXTURE_BINDING_2D) as WebGLTexture;
        gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, texture, 0);
        gl.viewport(0, 0, edge, edge);
        gl.useProgram(program);
        gl.drawArrays(gl.TRIANGLES, 0, 3);
        const pixels = new Float32Array(4 * edge * edge);
        gl.readPixels(0, 0, edge, edge, gl.RGBA, gl.FLOAT, pixels);
        return [...pixels];
      },
      [fragment, EDGE] as const,
    );
    await page.close();
    return Array.from({ length: EDGE * EDGE }, (_, i) => found.slice(4 * i, 4 * i + 3) as never);
  }

  // The definition of a derivative: the quotient of differences on both sides of a place (any textbook of analysis).
  it.each(rising)('of %s is the one that differences to both sides have', async (kind) => {
    const places = await probed(probe(textureKinds.indexOf(kind)));
    const steepest = Math.max(...places.map(([, steep]) => steep));
    expect(steepest).toBeGreaterThan(0.3);
    const values = places.map(([value]) => value);
    expect(Math.max(...values) - Math.min(...values)).toBeGreaterThan(0.4);
    // A pattern may jump or bend sharply along some lines, between two of its threads or rings; nowhere else is it off.
    const off = places.filter(([, steep, apart]) => apart > 0.02 + 0.02 * steep).length;
    expect(off / places.length).toBeLessThan(0.02);
  });
});
