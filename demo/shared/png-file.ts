import { deflateSync } from 'node:zlib';

const table = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
  return c;
});

/** Checksum of a chunk (W3C PNG specification, annex D, from memory). */
function checksum(bytes: Uint8Array): number {
  let c = 0xffffffff;
  for (const b of bytes) c = table[(c ^ b) & 255] ^ (c >>> 8);
  return (c ^ 0xffffffff) >>> 0;
}

function chunk(type: string, content: Uint8Array): Uint8Array {
  const out = new Uint8Array(content.length + 12);
  const view = new DataView(out.buffer);
  view.setUint32(0, content.length);
  out.set(new TextEncoder().encode(type), 4);
  out.set(content, 8);
  view.setUint32(content.length + 8, checksum(out.subarray(4, content.length + 8)));
  return out;
}

/** A PNG file of 8-bit red, green and blue, top row first. */
function pngFile(width: number, height: number, rgb: Uint8Array): Uint8Array {
  const head = new DataView(new ArrayBuffer(13));
  head.setUint32(0, width);
  head.setUint32(4, height);
  for (const [i, v] of [8, 2, 0, 0, 0].entries()) head.setUint8(8 + i, v);
  const rows = new Uint8Array(height * (3 * width + 1));
  for (let y = 0; y < height; y++)
    rows.set(rgb.subarray(3 * width * y, 3 * width * (y + 1)), y * (3 * width + 1) + 1);
  return Buffer.concat([
    Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10),
    chunk('IHDR', new Uint8Array(head.buffer)),
    chunk('IDAT', new Uint8Array(deflateSync(rows, { level: 9 }))),
    chunk('IEND', new Uint8Array(0)),
  ]);
}

/** Something to draw on: strokes with smooth edges, in the units of a plan. */
export class Drawing {
  private readonly rgb: Uint8Array;

  /**
   * @param perUnit pixels for each unit of the plan
   * @param origin place of the lower left corner
   */
  constructor(
    readonly width: number,
    readonly height: number,
    private readonly perUnit: number,
    private readonly origin: [number, number],
    paper: [number, number, number],
  ) {
    this.rgb = new Uint8Array(3 * width * height);
    for (let i = 0; i < this.rgb.length; i++) this.rgb[i] = paper[i % 3];
  }

  /** A line through places of the plan, of a width in pixels. */
  stroke(places: readonly (readonly [number, number])[], width: number, ink: [number, number, number]): void {
    const on = places.map(([x, y]) => [
      (x - this.origin[0]) * this.perUnit,
      this.height - (y - this.origin[1]) * this.perUnit,
    ]);
    for (let n = 0; n + 1 < on.length; n++) this.segment(on[n], on[n + 1], width / 2, ink);
  }

  file(): Uint8Array {
    return pngFile(this.width, this.height, this.rgb);
  }

  private segment(a: number[], b: number[], half: number, ink: [number, number, number]): void {
    const [low, high] = [0, 1].map((k) => [Math.min(a[k], b[k]) - half - 1, Math.max(a[k], b[k]) + half + 1]);
    const along = [b[0] - a[0], b[1] - a[1]];
    const square = along[0] ** 2 + along[1] ** 2 || 1;
    for (let y = Math.max(0, Math.floor(high[0])); y < Math.min(this.height, high[1]); y++)
      for (let x = Math.max(0, Math.floor(low[0])); x < Math.min(this.width, low[1]); x++) {
        const [px, py] = [x + 0.5 - a[0], y + 0.5 - a[1]];
        const t = Math.min(1, Math.max(0, (px * along[0] + py * along[1]) / square));
        const cover = Math.min(1, Math.max(0, half + 0.5 - Math.hypot(px - t * along[0], py - t * along[1])));
        for (let k = 0; k < 3; k++) {
          const at = 3 * (y * this.width + x) + k;
          this.rgb[at] = Math.round(this.rgb[at] + cover * (ink[k] - this.rgb[at]));
        }
      }
  }
}
