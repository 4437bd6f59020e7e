import { pngChunk } from '../pictures/embed-about.ts';
import type { FilmFrame, FilmWriter } from './film-writer.ts';

const SIGNATURE = Uint8Array.of(137, 80, 78, 71, 13, 10, 26, 10);
/** Red, green and blue, 8 bits each. */
const COLOURS = 2;
/** Each row is told by what differs from the one above. */
const UP = 2;

interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Animated PNG (W3C, Portable Network Graphics, third edition): without loss, as large as that is. */
export const apng: FilmWriter = {
  id: 'apng',
  name: 'APNG',
  purpose: 'without loss, for web pages',
  ending: 'png',
  type: 'image/apng',
  preview: 'image',
  grain: 1,
  supported: async () => true,
  async begin({ size, rate, count, loop }, sink) {
    let at = 0;
    const write = async (...chunks: Uint8Array<ArrayBuffer>[]): Promise<void> => {
      for (const chunk of chunks) {
        await sink(chunk, at);
        at += chunk.length;
      }
    };
    await write(
      SIGNATURE,
      chunk('IHDR', [4, size.width], [4, size.height], [1, 8], [1, COLOURS], [1, 0], [1, 0], [1, 0]),
    );
    await write(chunk('sRGB', [1, 0]), chunk('acTL', [4, count], [4, loop ? 0 : 1]));
    let [n, sequence] = [0, 0];
    let before: Uint8ClampedArray | null = null;
    return {
      async add(frame) {
        const area = before ? changedArea(frame, before) : { x: 0, y: 0, ...size };
        const [above, below] = delayOf(rate);
        await write(
          chunk(
            'fcTL',
            [4, sequence++],
            [4, area.width],
            [4, area.height],
            [4, area.x],
            [4, area.y],
            [2, above],
            [2, below],
            [1, 0],
            [1, 0],
          ),
        );
        const packed = await packedRows(frame, area);
        if (n === 0) await write(pngChunk('IDAT', packed) as Uint8Array<ArrayBuffer>);
        else {
          const numbered = new Uint8Array(4 + packed.length);
          new DataView(numbered.buffer).setUint32(0, sequence++);
          numbered.set(packed, 4);
          await write(pngChunk('fdAT', numbered) as Uint8Array<ArrayBuffer>);
        }
        before = frame.data;
        n++;
      },
      finish: () => write(pngChunk('IEND', new Uint8Array(0)) as Uint8Array<ArrayBuffer>),
      cancel: async () => undefined,
    };
  },
};

/** A chunk of numbers, each with its length in bytes, the highest byte first. */
function chunk(name: string, ...numbers: [1 | 2 | 4, number][]): Uint8Array<ArrayBuffer> {
  const out = new DataView(new ArrayBuffer(numbers.reduce((sum, [length]) => sum + length, 0)));
  let at = 0;
  for (const [length, value] of numbers) {
    if (length === 1) out.setUint8(at, value);
    else if (length === 2) out.setUint16(at, value);
    else out.setUint32(at, value);
    at += length;
  }
  return pngChunk(name, new Uint8Array(out.buffer)) as Uint8Array<ArrayBuffer>;
}

/** How long a picture stays, as a fraction of a second of two numbers up to 65,535. */
function delayOf(rate: number): [number, number] {
  const whole = Number.isInteger(rate) && rate <= 65_535;
  return whole ? [1, rate] : [Math.round(1000 / rate), 1000];
}

/** The smallest area outside of which nothing has changed; one pixel where nothing has. */
function changedArea({ width, height, data }: FilmFrame, before: Uint8ClampedArray): Area {
  const now = new Uint32Array(data.buffer, data.byteOffset, width * height);
  const then = new Uint32Array(before.buffer, before.byteOffset, width * height);
  let [left, right, top, bottom] = [width, -1, height, -1];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (now[y * width + x] === then[y * width + x]) continue;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      bottom = y;
    }
  if (right < 0) return { x: 0, y: 0, width: 1, height: 1 };
  return { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
}

/** The rows of an area, told by their differences and packed (RFC 1950). */
async function packedRows({ width, data }: FilmFrame, area: Area): Promise<Uint8Array<ArrayBuffer>> {
  const row = 3 * area.width;
  const out = new Uint8Array(area.height * (row + 1));
  for (let y = 0; y < area.height; y++) {
    const begin = y * (row + 1);
    out[begin] = UP;
    for (let x = 0; x < area.width; x++) {
      const own = 4 * ((area.y + y) * width + area.x + x);
      const over = own - 4 * width;
      for (let k = 0; k < 3; k++)
        out[begin + 1 + 3 * x + k] = y === 0 ? data[own + k] : data[own + k] - data[over + k];
    }
  }
  const stream = new Blob([out]).stream().pipeThrough(new CompressionStream('deflate'));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}
