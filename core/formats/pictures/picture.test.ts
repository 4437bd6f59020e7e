import { describe, expect, it } from 'vitest';
import { memorySource } from '../bytes/byte-source.ts';
import type { OpenedPicture, ReadTools } from '../format.ts';
import { portableTools } from '../portable-tools.ts';
import { picture, worldFileFormat } from './picture.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const open = (data: Uint8Array, tools: Partial<ReadTools> = {}): OpenedPicture =>
  picture.open(memorySource(data), { ...portableTools, name: 'map.png', ...tools }) as OpenedPicture;

/** The beginning of a PNG file: its mark and its header chunk (W3C PNG specification, from memory). */
function png(width: number, height: number): Uint8Array {
  const out = new DataView(new ArrayBuffer(33));
  for (const [i, b] of [0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10].entries()) out.setUint8(i, b);
  out.setUint32(8, 13);
  out.setUint32(12, 0x49484452);
  out.setUint32(16, width);
  out.setUint32(20, height);
  return new Uint8Array(out.buffer);
}

/** The beginning of a JPEG file: a comment, a table, and the frame with the size (ITU-T T.81, from memory). */
const jpeg = (width: number, height: number, frame = 0xc0): Uint8Array =>
  Uint8Array.of(
    ...[0xff, 0xd8, 0xff, 0xfe, 0, 4, 65, 66, 0xff, 0xc4, 0, 3, 0],
    ...[0xff, frame, 0, 11, 8, height >> 8, height & 255, width >> 8, width & 255, 1, 1, 0x11, 0],
    ...Array(20).fill(0),
  );

describe('pictures', () => {
  it('have the size their header says', () => {
    expect(open(png(640, 480))).toMatchObject({ type: 'image/png', width: 640, height: 480 });
    expect(open(jpeg(1000, 300))).toMatchObject({ type: 'image/jpeg', width: 1000, height: 300 });
    expect(open(jpeg(1000, 300, 0xc2))).toMatchObject({ width: 1000, height: 300 });
  });
  it('are told by their first bytes', () => {
    expect([png(1, 1), jpeg(1, 1), bytes('PNG'), bytes('')].map((b) => picture.detect(b, 'x'))).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
  it('without a world file stand on a unit for each pixel, the foot at zero', () => {
    expect(open(png(4, 3)).corners).toEqual([
      [0, 0, 0],
      [4, 0, 0],
      [4, 3, 0],
      [0, 3, 0],
    ]);
  });
  it('stand where their world file says: size and turn of a pixel, and the middle of the first', () => {
    const world = '2\n0\n0\n-2\n101\n199\n';
    const placed = open(png(4, 3), { beside: (p) => (p === 'map.pgw' ? memorySource(bytes(world)) : null) });
    // Pixels of two by two; the middle of the first at (101, 199), so the corner at (100, 200).
    expect(placed.corners).toEqual([
      [100, 194, 0],
      [108, 194, 0],
      [108, 200, 0],
      [100, 200, 0],
    ]);
    expect(placed.uses).toEqual(['map.pgw']);
  });
  it('with a world file that holds no six numbers stand without it, and say so', () => {
    const placed = open(png(2, 2), {
      beside: (p) => (p === 'map.wld' ? memorySource(bytes('1\n2\n')) : null),
    });
    expect(placed.uses).toEqual([]);
    expect(placed.findings.list[0]).toMatch(/world file map.wld does not hold six numbers/);
  });
  it('that are cut off are refused', () => {
    expect(() => open(png(2, 2).subarray(0, 20))).toThrow(/cut off/);
    expect(() => open(Uint8Array.of(0xff, 0xd8, 0xff, 0xd9))).toThrow(/size of the picture is not found/);
  });
  it('a world file alone is known, and sent to its picture', () => {
    const text = bytes('2\n0\n0\n-2\n101\n199\n');
    expect(worldFileFormat.detect(text, 'map.pgw')).toBe(true);
    expect(worldFileFormat.detect(bytes('1\n2\n3\n4\n5\nx\n'), 'map.pgw')).toBe(false);
    expect(() => worldFileFormat.open(memorySource(text), portableTools)).toThrow(/only places a picture/);
  });
});
