import { describe, expect, it } from 'vitest';
import { apng } from './apng.ts';
import { asYuv } from './bt709.ts';
import { type FilmFrame, FilmInMemory, type FilmWriter, sizeInGrain } from './film-writer.ts';
import { gif } from './gif.ts';
import { filmWriters } from './registry.ts';

const plain = (width: number, height: number, ...rgb: number[]): FilmFrame => ({
  width,
  height,
  data: Uint8ClampedArray.from({ length: 4 * width * height }, (_, i) => (i % 4 < 3 ? rgb[i % 4] : 255)),
});

async function made(writer: FilmWriter, frames: FilmFrame[], rate: number, loop = false): Promise<Buffer> {
  const [{ width, height }] = frames;
  const memory = new FilmInMemory();
  const making = { size: { width, height }, rate, count: frames.length, quality: 'good' as const, loop };
  const encoder = await writer.begin(making, memory.sink);
  for (const frame of frames) await encoder.add(frame);
  await encoder.finish();
  return Buffer.from(await memory.blob(writer.type).arrayBuffer());
}

describe('colours of films', () => {
  it('are those of BT.709 in the range of television, as its 100 % bars have them', () => {
    // 8-bit codes of 100 % colour bars in BT.709 (EBU Tech 3325; from memory): white, yellow, cyan, green, magenta, red, blue, black.
    for (const [rgb, yuv] of [
      [
        [255, 255, 255],
        [235, 128, 128],
      ],
      [
        [255, 255, 0],
        [219, 16, 138],
      ],
      [
        [0, 255, 255],
        [188, 154, 16],
      ],
      [
        [0, 255, 0],
        [173, 42, 26],
      ],
      [
        [255, 0, 255],
        [78, 214, 230],
      ],
      [
        [255, 0, 0],
        [63, 102, 240],
      ],
      [
        [0, 0, 255],
        [32, 240, 118],
      ],
      [
        [0, 0, 0],
        [16, 128, 128],
      ],
    ]) {
      const [y, , , , u, v] = asYuv(plain(2, 2, ...rgb));
      expect([y, u, v], String(rgb)).toEqual(yuv);
    }
  });
  it('are halved to the mean of four pixels', () => {
    const frame = plain(4, 2, 0, 0, 0);
    frame.data.set([255, 0, 0, 255], 0);
    const yuv = asYuv(frame);
    expect(yuv).toHaveLength(8 + 2 + 2);
    // A quarter of red's 240 - 128, and nothing where all is black.
    expect([yuv[10] - 128, yuv[11] - 128]).toEqual([28, 0]);
    expect([...yuv.subarray(0, 8)]).toEqual([63, 16, 16, 16, 16, 16, 16, 16]);
  });
});

describe('a GIF', () => {
  /** Delays of the graphic control extensions, in hundredths of a second, and how often it repeats; null for once. */
  function told(bytes: Buffer): { delays: number[]; repeats: number | null } {
    const delays: number[] = [];
    for (let i = 0; i < bytes.length - 8; i++)
      if (bytes[i] === 0x21 && bytes[i + 1] === 0xf9 && bytes[i + 2] === 4 && bytes[i + 7] === 0)
        delays.push(bytes.readUInt16LE(i + 4));
    const at = bytes.indexOf('NETSCAPE2.0', 0, 'latin1');
    return { delays, repeats: at < 0 ? null : bytes.readUInt16LE(at + 13) };
  }
  it('of a rate that is no whole number of hundredths loses no time over its length', async () => {
    const frames = Array.from({ length: 30 }, (_, i) => plain(8, 6, 8 * i, 20, 40));
    const { delays, repeats } = told(await made(gif, frames, 30, true));
    expect(delays).toHaveLength(30);
    expect(delays.reduce((a, b) => a + b, 0)).toBe(100);
    for (const delay of delays) expect([3, 4]).toContain(delay);
    expect(repeats).toBe(0);
    expect(told(await made(gif, frames.slice(0, 2), 10)).repeats).toBe(null);
  });
  it('gives small regions colours of their own', async () => {
    // A large area of many blues, and a small legend of pure reds in one corner.
    const frame = plain(120, 120, 0, 0, 0);
    for (let i = 0; i < 120 * 120; i++) {
      const [x, y] = [i % 120, Math.floor(i / 120)];
      const legend = x >= 100 && y >= 100;
      frame.data.set(legend ? [55 + 10 * (x - 100), 0, 0, 255] : [x, y, 100 + ((x * y) % 156), 255], 4 * i);
    }
    const bytes = await made(gif, [frame], 10);
    const palette = bytes.subarray(13, 13 + 3 * 2 ** ((bytes[10] & 7) + 1));
    const reds = Array.from({ length: palette.length / 3 }, (_, i) => [
      ...palette.subarray(3 * i, 3 * i + 3),
    ]).filter(([r, g, b]) => r > 60 && g < 12 && b < 40);
    expect(reds.length).toBeGreaterThanOrEqual(6);
  });
});

describe('an animated PNG', () => {
  it('tells its pictures, its pace and only what changes', async () => {
    const first = plain(20, 10, 10, 20, 30);
    const second = { ...first, data: first.data.slice() };
    second.data.set([200, 20, 30, 255], 4 * (3 * 20 + 5));
    const bytes = await made(apng, [first, second, second], 25, true);
    const chunks: { name: string; data: Buffer }[] = [];
    for (let at = 8; at < bytes.length; at += 12 + bytes.readUInt32BE(at))
      chunks.push({
        name: bytes.toString('latin1', at + 4, at + 8),
        data: bytes.subarray(at + 8, at + 8 + bytes.readUInt32BE(at)),
      });
    expect(chunks.map((c) => c.name)).toEqual('IHDR sRGB acTL fcTL IDAT fcTL fdAT fcTL fdAT IEND'.split(' '));
    const numbers = (data: Buffer, count: number) =>
      Array.from({ length: count }, (_, i) => data.readUInt32BE(4 * i));
    expect(numbers(chunks[2].data, 2)).toEqual([3, 0]);
    // Number in order, width, height, x, y.
    expect(numbers(chunks[3].data, 5)).toEqual([0, 20, 10, 0, 0]);
    expect(numbers(chunks[5].data, 5)).toEqual([1, 1, 1, 5, 3]);
    expect(numbers(chunks[7].data, 5)).toEqual([3, 1, 1, 0, 0]);
    expect([chunks[3].data.readUInt16BE(20), chunks[3].data.readUInt16BE(22)]).toEqual([1, 25]);
  });
});

describe('formats of films', () => {
  it('are told apart, and say what sizes they hold', () => {
    expect(new Set(filmWriters.map((w) => w.id)).size).toBe(filmWriters.length);
    const [mp4] = filmWriters;
    expect(sizeInGrain(mp4, { width: 161, height: 1 })).toEqual({ width: 162, height: 2 });
    expect(sizeInGrain(gif, { width: 161, height: 121 })).toEqual({ width: 161, height: 121 });
  });
});
