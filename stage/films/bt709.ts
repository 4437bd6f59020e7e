import type { FilmFrame } from './film-writer.ts';

/** Shares of red and blue in the lightness (Rec. ITU-R BT.709-6, item 3.2). */
const RED = 0.2126;
const BLUE = 0.0722;
const GREEN = 1 - RED - BLUE;

/** What the colours of a film are said to be: BT.709 throughout, in the range of television. */
export const BT709: VideoColorSpaceInit = {
  primaries: 'bt709',
  transfer: 'bt709',
  matrix: 'bt709',
  fullRange: false,
};

/**
 * A picture as lightness and two differences of colour, these at half the size (4:2:0): 8 bits, from 16 to 235 and 16 to 240
 * (Rec. ITU-R BT.709-6, items 3.2 to 3.6). Browsers differ in what they make of colours themselves.
 *
 * @param frame of even width and height
 */
export function asYuv({ width, height, data }: FilmFrame): Uint8Array<ArrayBuffer> {
  const [half, rows] = [width / 2, height / 2];
  const out = new Uint8Array(width * height + 2 * half * rows);
  const blueAt = width * height;
  const redAt = blueAt + half * rows;
  for (let y = 0; y < height; y += 2)
    for (let x = 0; x < width; x += 2) {
      let [red, green, blue] = [0, 0, 0];
      for (let k = 0; k < 4; k++) {
        const pixel = (y + (k >> 1)) * width + x + (k & 1);
        const [r, g, b] = [data[4 * pixel], data[4 * pixel + 1], data[4 * pixel + 2]];
        out[pixel] = 16.5 + (219 / 255) * (RED * r + GREEN * g + BLUE * b);
        red += r;
        green += g;
        blue += b;
      }
      const light = RED * red + GREEN * green + BLUE * blue;
      const at = (y / 2) * half + x / 2;
      // The mean of four, hence the fourth part.
      out[blueAt + at] = 128.5 + ((224 / 255 / 4) * (blue - light)) / (2 * (1 - BLUE));
      out[redAt + at] = 128.5 + ((224 / 255 / 4) * (red - light)) / (2 * (1 - RED));
    }
  return out;
}
