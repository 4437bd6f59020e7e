import type { PictureAbout } from './about.ts';
import { intoExr } from './embed-about.ts';
import type { Picture } from './picture.ts';
import { wholePicture } from './whole-picture.ts';
import type { PictureWriter } from './writer.ts';

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
  const light = await wholePicture(picture);
  const { EXRExporter, ZIP_COMPRESSION } = await import('three/examples/jsm/exporters/EXRExporter.js');
  const { DataTexture, FloatType, HalfFloatType, RGBAFormat } = await import('three');
  // Textures begin with their lowest row.
  const rows = new Float32Array(light.length);
  for (let row = 0; row < height; row++)
    rows.set(light.subarray(4 * row * width, 4 * (row + 1) * width), 4 * (height - 1 - row) * width);
  const texture = new DataTexture(rows, width, height, RGBAFormat, FloatType);
  const bytes = (await new EXRExporter().parse(texture, {
    type: kind === 'half' ? HalfFloatType : FloatType,
    compression: ZIP_COMPRESSION,
  })) as Uint8Array;
  const said = about ? intoExr(bytes, about) : bytes;
  return new Blob([said as Uint8Array<ArrayBuffer>], { type: 'image/x-exr' });
}
