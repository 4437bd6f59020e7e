import {
  ClampToEdgeWrapping,
  DataArrayTexture,
  DataTexture,
  DataUtils,
  HalfFloatType,
  LinearFilter,
  RepeatWrapping,
  RGBAFormat,
} from 'three';
import type { Panorama } from '#core/light/panorama.ts';

/** Brightest that half floats hold. */
const MOST = 65_000;

/** A panorama, or another picture in linear light, as the card wants it; its first row is the topmost, at 0. */
export function flatTexture(picture: Panorama, around = true): DataTexture {
  const data = new Uint16Array(4 * picture.width * picture.height);
  intoHalves(data, picture);
  return readied(new DataTexture(data, picture.width, picture.height), around);
}

/** Panoramas of one size in layers. */
export function layeredTexture(all: readonly Panorama[]): DataArrayTexture {
  const { width, height } = all[0];
  const data = new Uint16Array(4 * width * height * all.length);
  for (const [i, one] of all.entries()) intoHalves(data, one, 4 * width * height * i);
  return readied(new DataArrayTexture(data, width, height, all.length), true);
}

function intoHalves(out: Uint16Array, { pixels }: Panorama, from = 0): void {
  const one = DataUtils.toHalfFloat(1);
  for (let i = 0; i < pixels.length / 3; i++) {
    for (let k = 0; k < 3; k++)
      out[from + 4 * i + k] = DataUtils.toHalfFloat(Math.min(MOST, pixels[3 * i + k]));
    out[from + 4 * i + 3] = one;
  }
}

function readied<T extends DataTexture | DataArrayTexture>(made: T, around: boolean): T {
  made.type = HalfFloatType;
  made.format = RGBAFormat;
  made.wrapS = around ? RepeatWrapping : ClampToEdgeWrapping;
  made.wrapT = ClampToEdgeWrapping;
  made.minFilter = LinearFilter;
  made.magFilter = LinearFilter;
  made.needsUpdate = true;
  return made;
}
