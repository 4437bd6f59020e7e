import { FloatType } from 'three';
import type { Panorama } from '#core/light/panorama.ts';

/** Brightest light that is taken over, as half floats on the card hold it. */
const BRIGHTEST = 65_000;
/** Most pixels that are read. */
const MOST_PIXELS = 16_384 * 8_192;

/**
 * Reads a panorama from a Radiance file (`.hdr`) or an OpenEXR file. What files show goes to the right as one looks at it
 * from within; our panoramas go around the other way, against the clock as seen from above.
 *
 * @throws Error saying what is wrong with the file, and what to do
 */
export async function readPanorama(bytes: Uint8Array<ArrayBuffer>, name: string): Promise<Panorama> {
  const { width, height, data, fromTop } = await decoded(bytes, name);
  if (Math.abs(width / height - 2) > 0.02)
    throw new Error(
      `${name} is ${width} pixels wide and ${height} high; a panorama of all directions is twice as wide as high. Choose one of that shape (equirectangular).`,
    );
  const channels = data.length / (width * height);
  const pixels = new Float32Array(3 * width * height);
  for (let row = 0; row < height; row++) {
    const from = (fromTop ? row : height - 1 - row) * width;
    for (let column = 0; column < width; column++)
      for (let k = 0; k < 3; k++) {
        const value = data[channels * (from + width - 1 - column) + Math.min(k, channels - 1)];
        // What is not a number is dark, as are less than none.
        pixels[3 * (row * width + column) + k] = value > 0 ? Math.min(BRIGHTEST, value) : 0;
      }
  }
  return { width, height, pixels };
}

interface Decoded {
  width: number;
  height: number;
  data: Float32Array;
  /** Whether the first row is the topmost. */
  fromTop: boolean;
}

async function decoded(bytes: Uint8Array<ArrayBuffer>, name: string): Promise<Decoded> {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 10));
  try {
    if (head.startsWith('#?')) {
      const { HDRLoader } = await import('three/examples/jsm/loaders/HDRLoader.js');
      ensureWhole(bytes);
      const read = new HDRLoader().setDataType(FloatType).parse(bytes.buffer);
      return { ...sizeOf(read), data: read.data as Float32Array, fromTop: true };
    }
    if (head.startsWith('v/1\u0001')) {
      ensureWholeExr(bytes);
      const { EXRLoader } = await import('three/examples/jsm/loaders/EXRLoader.js');
      const read = new EXRLoader().setDataType(FloatType).parse(bytes.buffer);
      return { ...sizeOf(read), data: read.data as Float32Array, fromTop: false };
    }
  } catch (error) {
    throw new Error(
      `${name} cannot be read: it is damaged or cut off (${(error as Error).message}). Choose another file.`,
    );
  }
  throw new Error(
    `${name} is neither a Radiance file (.hdr) nor an OpenEXR file (.exr). Choose one of these.`,
  );
}

const sizeOf = ({ width = 0, height = 0 }: { width?: number; height?: number }) => ({ width, height });

/** What the reader of Radiance files does not look at: their size, and whether rows that are not packed are all there. */
function ensureWhole(bytes: Uint8Array): void {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 4096));
  const size = /[-+]Y (\d+) [-+]X (\d+)\n/.exec(head);
  if (!size) return;
  const pixels = Number(size[1]) * Number(size[2]);
  if (pixels > MOST_PIXELS) throw new Error(`${size[2]} x ${size[1]} pixels are more than can be read`);
  const body = bytes.subarray(size.index + size[0].length);
  const packed = body[0] === 2 && body[1] === 2;
  if (!packed && body.length < 4 * pixels)
    throw new Error(`${Math.floor(body.length / 4)} of ${pixels} pixels are there`);
}

/** Rows that are packed together, by the number of the way they are packed (OpenEXR, "Technical Introduction"). */
const ROWS_PACKED = [1, 1, 1, 16, 32, 16, 32, 32, 32, 256];

/**
 * Looks whether all of an OpenEXR file is there: the reader of such files goes on without end where one is cut off.
 *
 * @throws Error when it is not
 */
function ensureWholeExr(bytes: Uint8Array<ArrayBuffer>): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let at = 8;
  const word = (): string => {
    const end = bytes.indexOf(0, at);
    if (end < 0) throw new Error('its head has no end');
    const read = new TextDecoder('latin1').decode(bytes.subarray(at, end));
    at = end + 1;
    return read;
  };
  const head = new Map<string, number>();
  for (let name = word(); name !== ''; name = word()) {
    word();
    if (at + 4 > bytes.length) throw new Error('its head has no end');
    const size = view.getInt32(at, true);
    head.set(name, at + 4);
    at += 4 + size;
    if (size < 0 || at >= bytes.length) throw new Error('its head has no end');
  }
  const [window, packing] = [head.get('dataWindow'), head.get('compression')];
  if (window === undefined || packing === undefined) throw new Error('its head does not say how large it is');
  const [left, top, right, foot] = [0, 4, 8, 12].map((k) => view.getInt32(window + k, true));
  const [width, height] = [right - left + 1, foot - top + 1];
  if (width < 1 || height < 1 || width * height > MOST_PIXELS)
    throw new Error(`${width} x ${height} pixels cannot be read`);
  if (head.has('tiles')) return;
  const blocks = Math.ceil(height / (ROWS_PACKED[bytes[packing]] ?? 1));
  for (let block = 0; block < blocks; block++) {
    const place = at + 8 * block;
    const begins = place + 8 > bytes.length ? 0 : Number(view.getBigUint64(place, true));
    const ends = begins === 0 || begins + 8 > bytes.length ? 0 : begins + 8 + view.getInt32(begins + 4, true);
    if (ends === 0 || ends > bytes.length) throw new Error(`${block} of ${blocks} blocks of rows are there`);
  }
}
