import type { FilmFrame, FilmWriter } from './film-writer.ts';

const COLOURS = 256;
/** Regions along each side, and the pixels that are taken of each: small ones, such as a legend, count as much as large ones. */
const REGIONS = 6;
const TAKEN = 1200;

/** Graphics Interchange Format (89a): pictures of 256 colours each, for mail and chat. */
export const gif: FilmWriter = {
  id: 'gif',
  name: 'GIF',
  purpose: 'for mail and chat, 256 colours a picture',
  ending: 'gif',
  type: 'image/gif',
  preview: 'image',
  grain: 1,
  supported: async () => true,
  async begin({ rate, loop }, sink) {
    // Only once it is needed: the server, which knows the formats and writes none, could not load it.
    const { applyPalette, GIFEncoder, quantize } = await import('gifenc');
    const encoder = GIFEncoder();
    let [n, at] = [0, 0];
    const flush = async (): Promise<void> => {
      const bytes = encoder.bytes() as Uint8Array<ArrayBuffer>;
      encoder.stream.reset();
      await sink(bytes, at);
      at += bytes.length;
    };
    /** Its times are hundredths of a second: what is rounded off of one picture is given to the next. */
    const hundredths = (picture: number): number => Math.round((100 * picture) / rate);
    return {
      async add(frame) {
        const palette = quantize(sampledByRegion(frame), COLOURS);
        const delay = 10 * (hundredths(n + 1) - hundredths(n));
        encoder.writeFrame(applyPalette(frame.data, palette), frame.width, frame.height, {
          palette,
          delay,
          repeat: loop ? 0 : -1,
        });
        n++;
        await flush();
      },
      async finish() {
        encoder.finish();
        await flush();
      },
      cancel: async () => undefined,
    };
  },
};

/** As many pixels of each region of a picture, evenly spread over it. */
function sampledByRegion({ width, height, data }: FilmFrame): Uint8ClampedArray {
  const pixels: number[] = [];
  for (let row = 0; row < REGIONS; row++)
    for (let column = 0; column < REGIONS; column++) {
      const [x0, x1] = [column, column + 1].map((c) => Math.floor((c * width) / REGIONS));
      const [y0, y1] = [row, row + 1].map((r) => Math.floor((r * height) / REGIONS));
      const count = (x1 - x0) * (y1 - y0);
      const every = Math.max(1, count / TAKEN);
      for (let i = 0; i < count; i += every) {
        const k = Math.floor(i);
        pixels.push((y0 + Math.floor(k / (x1 - x0))) * width + x0 + (k % (x1 - x0)));
      }
    }
  const out = new Uint8ClampedArray(4 * pixels.length);
  for (const [i, pixel] of pixels.entries()) out.set(data.subarray(4 * pixel, 4 * pixel + 4), 4 * i);
  return out;
}
