import { DataTexture, FloatType, RGBAFormat } from 'three';
import { EXRExporter } from 'three/examples/jsm/exporters/EXRExporter.js';
import { describe, expect, it } from 'vitest';
import { seenIn } from '#core/light/panorama.ts';
import { readPanorama } from './panorama-file.ts';

const WIDTH = 16;
const HEIGHT = 8;

/**
 * Red on the upper half, green on the lower; blue on the right half as one looks at the file. So the light that falls from above
 * is red, and what is to the right of the middle of the file is blue.
 */
const colourAt = (row: number, column: number): [number, number, number] => [
  row < HEIGHT / 2 ? 4 : 0,
  row < HEIGHT / 2 ? 0 : 0.5,
  column >= WIDTH / 2 ? 2 : 0,
];

/** A Radiance file with plain rows, written by its description: a text head, then red, green, blue and exponent. */
function radiance(): Uint8Array<ArrayBuffer> {
  const head = new TextEncoder().encode(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${HEIGHT} +X ${WIDTH}\n`);
  const body = new Uint8Array(4 * WIDTH * HEIGHT);
  for (let row = 0; row < HEIGHT; row++)
    for (let column = 0; column < WIDTH; column++) {
      const colour = colourAt(row, column);
      const exponent = Math.ceil(Math.log2(Math.max(...colour, 1e-30))) + 1;
      const scale = 256 / 2 ** exponent;
      const dark = Math.max(...colour) === 0;
      body.set(
        dark ? [0, 0, 0, 0] : [...colour.map((v) => v * scale), exponent + 128],
        4 * (row * WIDTH + column),
      );
    }
  const out = new Uint8Array(head.length + body.length);
  out.set(head);
  out.set(body, head.length);
  return out;
}

/** The same by the writer of a library of its own, which takes rows from the bottom. */
async function openExr(): Promise<Uint8Array<ArrayBuffer>> {
  const data = new Float32Array(4 * WIDTH * HEIGHT);
  for (let row = 0; row < HEIGHT; row++)
    for (let column = 0; column < WIDTH; column++)
      data.set([...colourAt(HEIGHT - 1 - row, column), 1], 4 * (row * WIDTH + column));
  const texture = new DataTexture(data, WIDTH, HEIGHT, RGBAFormat, FloatType);
  return new Uint8Array(await new EXRExporter().parse(texture, { type: FloatType }));
}

describe('a panorama from a file', () => {
  it.each([
    ['Radiance', async () => radiance()],
    ['OpenEXR', openExr],
  ])('of %s has its top above and goes to the right as seen from within', async (_, written) => {
    const panorama = await readPanorama(await written(), 'hall');
    expect([panorama.width, panorama.height]).toEqual([WIDTH, HEIGHT]);
    // Looking along +x, the middle of the file, with z up, the right is at -y.
    const right = seenIn(panorama, [0.5, -0.8, 0.6]);
    const left = seenIn(panorama, [0.5, 0.8, 0.6]);
    for (const [k, wanted] of [4, 0, 2].entries()) expect(right[k]).toBeCloseTo(wanted, 1);
    for (const [k, wanted] of [4, 0, 0].entries()) expect(left[k]).toBeCloseTo(wanted, 1);
    expect(seenIn(panorama, [0.5, 0.8, -0.6])[1]).toBeCloseTo(0.5, 2);
  });
  it('that is none, damaged or of another shape is refused in words', async () => {
    const text = new TextEncoder().encode('no panorama at all') as Uint8Array<ArrayBuffer>;
    await expect(readPanorama(text, 'a.txt')).rejects.toThrow(/neither a Radiance file .* nor an OpenEXR/);
    await expect(readPanorama(radiance().slice(0, 90), 'cut.hdr')).rejects.toThrow(/cut.hdr cannot be read/);
    const exr = await openExr();
    for (const length of [12, 200, 320, exr.length >> 1, exr.length - 1])
      await expect(readPanorama(exr.slice(0, length), 'cut.exr')).rejects.toThrow(/cut.exr cannot be read/);
    const square = new TextEncoder().encode(
      `#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 4 +X 4\n${'a'.repeat(64)}`,
    ) as Uint8Array<ArrayBuffer>;
    await expect(readPanorama(square, 'square.hdr')).rejects.toThrow(/4 pixels wide and 4 high/);
  });
});
