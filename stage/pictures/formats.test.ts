import { converter } from 'culori';
import { PNG } from 'pngjs';
import sharp from 'sharp';
import { FloatType } from 'three';
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js';
import { describe, expect, it } from 'vitest';
import { type PictureAbout, sceneInPicture } from './about.ts';
import { intoAvif, intoExr, intoJpeg, intoPng, intoWebp } from './embed-about.ts';
import { exr } from './exr.ts';
import type { Picture } from './picture.ts';
import { layOver } from './picture-rows.ts';
import { png16 } from './png16.ts';
import { tiff } from './tiff.ts';

const WIDTH = 70;
const HEIGHT = 45;
const toRgb = converter('rgb');

/** Light of a pixel: colours that change along both ways, opaque above and less and less so below. */
function lightAt(x: number, y: number): [number, number, number, number] {
  const alpha = y < 20 ? 1 : (HEIGHT - 1 - y) / HEIGHT;
  return [(x / WIDTH) * alpha, (y / HEIGHT) ** 2 * alpha, 0.0021 * alpha, alpha];
}

/** A picture in two tiles beside each other. */
const picture: Picture = {
  width: WIDTH,
  height: HEIGHT,
  words: null,
  tiles: [
    { x: 0, width: 40 },
    { x: 40, width: WIDTH - 40 },
  ].map(({ x, width }) => ({
    tile: { x, y: 0, width, height: HEIGHT },
    pixels: Float32Array.from({ length: 4 * width * HEIGHT }, (_, i) => {
      const p = i >> 2;
      return lightAt(x + (p % width), Math.floor(p / width))[i % 4];
    }),
  })),
};

/** What a file of 16 bits should hold of a pixel, by a colour library (culori). */
function wanted(x: number, y: number): number[] {
  const [r, g, b, alpha] = lightAt(x, y);
  if (alpha === 0) return [0, 0, 0, 0];
  const shown = toRgb({ mode: 'lrgb', r: r / alpha, g: g / alpha, b: b / alpha });
  return [shown.r, shown.g, shown.b, alpha].map((v) => 65_535 * v);
}

const bytesOf = async (blob: Blob): Promise<Buffer> => Buffer.from(await blob.arrayBuffer());

function expectDeep(data: ArrayLike<number>): void {
  for (let y = 0; y < HEIGHT; y += 4)
    for (let x = 0; x < WIDTH; x += 3)
      for (const [k, value] of wanted(x, y).entries())
        expect(Math.abs(data[4 * (y * WIDTH + x) + k] - value), `${x}, ${y}, ${k}`).toBeLessThan(1);
}

describe('a picture of 16 bits a channel', () => {
  it('as PNG is read back by another reader (pngjs), within one of 65,535 levels', async () => {
    const read = PNG.sync.read(await bytesOf(await png16.write(picture)), { skipRescale: true });
    expect([read.width, read.height]).toEqual([WIDTH, HEIGHT]);
    expectDeep(read.data as unknown as ArrayLike<number>);
  });
  it('as TIFF is read back by another reader (libtiff), with its opacity and in its proportions', async () => {
    const bytes = await bytesOf(await tiff.write(picture));
    const told = await sharp(bytes).metadata();
    expect(told).toMatchObject({
      format: 'tiff',
      width: WIDTH,
      height: HEIGHT,
      channels: 4,
      depth: 'ushort',
    });
    expect(told.density).toBe(300);
    const raw = await sharp(bytes).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer();
    expectDeep(new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2));
  });
});

describe('a picture as OpenEXR', () => {
  it('is read back as the light it is, upright, within what half floats hold', async () => {
    const bytes = await exr.write(picture).then((blob) => blob.arrayBuffer());
    const read = new EXRLoader().setDataType(FloatType).parse(bytes);
    expect([read.width, read.height]).toEqual([WIDTH, HEIGHT]);
    const data = read.data as Float32Array;
    for (let y = 0; y < HEIGHT; y += 4)
      for (let x = 0; x < WIDTH; x += 3)
        // Its reader begins with the lowest row; of a half float's 11 bits its writer cuts off what follows.
        for (const [k, value] of lightAt(x, y).entries())
          expect(Math.abs(data[4 * ((HEIGHT - 1 - y) * WIDTH + x) + k] - value)).toBeLessThanOrEqual(
            value / 1024 + 1e-7,
          );
  });
});

describe('words over a picture', () => {
  it('cover as much of it as they are opaque, in the numbers of a screen', () => {
    const pixels = Float32Array.from([0.2140411, 0.2140411, 0.2140411, 1, 0, 0, 0, 0, 0.5, 0.5, 0.5, 1]);
    layOver(pixels, { data: Uint8ClampedArray.from([255, 255, 255, 128, 255, 0, 0, 255, 9, 9, 9, 0]) });
    // Half way between 0.5 and 1 of a screen: 0.75, which is 0.522 of light (IEC 61966-2-1).
    expect(pixels[0]).toBeCloseTo(0.5235, 2);
    expect([...pixels.subarray(4)]).toEqual([1, 0, 0, 1, 0.5, 0.5, 0.5, 1]);
  });
  it('too many pixels are refused with what to do', async () => {
    await expect(exr.write({ ...picture, width: 20_000, height: 20_000, tiles: [] })).rejects.toThrow(
      /20000 × 20000 is too large.*Make it smaller, or choose another format/,
    );
  });
});

/** Where the table of blocks of an OpenEXR file begins: 8 bytes a block before the first block, to which its first entry leads. */
const tableOf = (bytes: Uint8Array): number => {
  const view = new DataView(bytes.buffer);
  const blocks = Math.ceil(HEIGHT / 16);
  for (let at = 8; at < bytes.length; at++)
    if (view.getBigUint64(at, true) === BigInt(at + 8 * blocks)) return at;
  throw new Error('no table');
};

describe('what a picture file says of itself', () => {
  const about: PictureAbout = {
    scene: {
      name: 'Crumb & "crust" <2>',
      layers: Array.from({ length: 40 }, (_, i) => ({ id: `layer-${i}` })),
    } as never,
    run: 'Oven "warm-up" & rest, größer',
    step: '80 s',
    settings: '70 x 45, 48 passes',
    made: new Date('2026-01-02T03:04:05Z'),
  };
  const held = { scene: about.scene, run: about.run };
  const plain = (format: 'png' | 'jpeg' | 'webp' | 'avif', options: object): Promise<Buffer> =>
    sharp({
      create: { width: 31, height: 17, channels: 4, background: { r: 200, g: 90, b: 30, alpha: 0.5 } },
    })
      .toFormat(format, options)
      .toBuffer();
  const pixels = (bytes: Uint8Array): Promise<Buffer> => sharp(bytes).ensureAlpha().raw().toBuffer();

  it.each([
    ['PNG', intoPng, () => plain('png', {})],
    ['JPEG', intoJpeg, () => plain('jpeg', {})],
    ['WebP with loss', intoWebp, () => plain('webp', { quality: 80 })],
    ['WebP without loss', intoWebp, () => plain('webp', { lossless: true })],
  ])('is found in %s by another reader and by us, and changes no pixel', async (_, embed, make) => {
    const given = new Uint8Array(await make());
    const said = embed(given, about);
    expect(await pixels(said)).toEqual(await pixels(given));
    const { xmp, width, height, hasAlpha } = await sharp(said).metadata();
    expect([width, height]).toEqual([31, 17]);
    expect(hasAlpha).toBe((await sharp(given).metadata()).hasAlpha);
    const packet = xmp!.toString('utf8');
    expect(packet).toContain('Crumb &amp; &quot;crust&quot; &lt;2&gt;');
    expect(packet).toContain('Oven &quot;warm-up&quot; &amp; rest, größer; 80 s; 70 x 45, 48 passes');
    expect(sceneInPicture(said)).toEqual(held);
  });
  it('is the last box of an AVIF file, which other readers pass over', async () => {
    const given = new Uint8Array(await plain('avif', { quality: 80 }));
    const said = intoAvif(given, about);
    expect(await pixels(said)).toEqual(await pixels(given));
    // Boxes, each a length and a name, fill the file (ISO 14496-12).
    const view = new DataView(said.buffer);
    const names: string[] = [];
    let at = 0;
    for (; at < said.length; at += view.getUint32(at))
      names.push(String.fromCharCode(...said.subarray(at + 4, at + 8)));
    expect(at).toBe(said.length);
    expect(names.at(0)).toBe('ftyp');
    expect(names.at(-1)).toBe('uuid');
    expect(sceneInPicture(said)).toEqual(held);
    const other = new TextEncoder().encode('no picture at all');
    expect(intoAvif(other, about)).toBe(other);
  });
  it('is in files of 16 bits too', async () => {
    for (const writer of [png16, tiff]) {
      const bytes = await bytesOf(await writer.write(picture, about));
      expect((await sharp(bytes).metadata()).xmp!.toString('utf8')).toContain('Oven &quot;warm-up');
      expect(sceneInPicture(bytes)).toEqual(held);
    }
  });
  it('is in OpenEXR as attributes that another reader finds, and moves no pixel', async () => {
    const read = async (said?: PictureAbout) => {
      const bytes = await bytesOf(await exr.write(picture, said));
      const loader = new EXRLoader().setDataType(FloatType);
      return { bytes, found: loader.parse(bytes.buffer as ArrayBuffer) };
    };
    const [bare, told] = [await read(), await read(about)];
    expect(told.found.data).toEqual(bare.found.data);
    const { header } = told.found as unknown as { header: Record<string, string> };
    expect(header.comments).toBe(`Crumb & "crust" <2>; ${about.run}; 80 s; 70 x 45, 48 passes`);
    // Blocks of 16 rows begin where the table says, each with the number of its first row ("OpenEXR File Layout").
    const view = new DataView(told.bytes.buffer);
    const first = view.byteLength - (bare.bytes.length - tableOf(bare.bytes));
    for (let i = 0; i < Math.ceil(HEIGHT / 16); i++)
      expect(view.getInt32(Number(view.getBigUint64(first + 8 * i, true)), true)).toBe(16 * i);
    expect(header.capDate).toBe('2026:01:02 03:04:05');
    expect(sceneInPicture(told.bytes)).toEqual(held);
  });
  it('is nothing in other pictures, and damaged where it is', async () => {
    expect(sceneInPicture(new Uint8Array(await plain('png', {})))).toBeNull();
    const damaged = new TextEncoder().encode('<dresser:scene>AAAA</dresser:scene>');
    expect(() => sceneInPicture(damaged)).toThrow(/damaged/);
  });
  it('leaves alone what is no such file', () => {
    const other = new TextEncoder().encode('no picture at all, but long enough to be looked at');
    expect(intoJpeg(other, about)).toBe(other);
    expect(intoWebp(other, about)).toBe(other);
    expect(intoExr(other, about)).toBe(other);
  });
});
