import type { PictureAbout } from './about.ts';
import { intoExr } from './embed-about.ts';
import type { Picture } from './picture.ts';
import { lightRows, nextTurn } from './picture-rows.ts';
import { type PictureWriter, tooLarge } from './writer.ts';

/** Most pixels of which all numbers are held at once. */
const MOST_PIXELS = 100_000_000;
/** Rows worked on before the page may do something else. */
const ROWS_AT_ONCE = 64;

/** OpenEXR: linear light as half floats, premultiplied, as programs that put pictures together want it. */
export const exr: PictureWriter = {
  id: 'exr',
  name: 'OpenEXR',
  purpose: 'linear light, for compositing',
  ending: 'exr',
  opacity: true,
  write: (picture, about) => exrFile(picture, about, 'half'),
};

/** The same to seven digits, for pictures that hold numbers. */
export const exactExr: PictureWriter = {
  ...exr,
  id: 'exr32',
  name: 'OpenEXR, 32 bit',
  purpose: 'numbers, for compositing',
  write: (picture, about) => exrFile(picture, about, 'float'),
};

async function exrFile(
  picture: Picture,
  about: PictureAbout | undefined,
  kind: 'half' | 'float',
): Promise<Blob> {
  const { width, height } = picture;
  if (width * height > MOST_PIXELS) throw tooLarge(picture, 'for an OpenEXR file');
  const { EXRExporter, ZIP_COMPRESSION } = await import('three/examples/jsm/exporters/EXRExporter.js');
  const { DataTexture, FloatType, HalfFloatType, RGBAFormat } = await import('three');
  // Textures begin with their lowest row.
  const rows = new Float32Array(4 * width * height);
  for (let from = 0; from < height; from += ROWS_AT_ONCE) {
    const count = Math.min(ROWS_AT_ONCE, height - from);
    const light = lightRows(picture, from, count);
    for (let row = 0; row < count; row++)
      rows.set(light.subarray(4 * row * width, 4 * (row + 1) * width), 4 * (height - 1 - from - row) * width);
    await nextTurn();
  }
  const texture = new DataTexture(rows, width, height, RGBAFormat, FloatType);
  const bytes = (await new EXRExporter().parse(texture, {
    type: kind === 'half' ? HalfFloatType : FloatType,
    compression: ZIP_COMPRESSION,
  })) as Uint8Array;
  const said = about ? intoExr(bytes, about) : bytes;
  return new Blob([said as Uint8Array<ArrayBuffer>], { type: 'image/x-exr' });
}
