import { LRUCache } from 'lru-cache';
import { type Rgb, rgbToHex } from '#core/colour/cielab.ts';
import { type Panorama, smallerPanorama } from '#core/light/panorama.ts';
import { softened } from '#core/light/softened.ts';
import { fromLinear, toLinear } from '#core/model/srgb.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Enclosure } from '#core/scene/enclosure.ts';
import { own } from '#core/scene/light-rigs/own.ts';
import { bringEnclosed } from '#engine/enclosed.ts';
import { readPanorama } from './panorama-file.ts';

/** Widest that a panorama, or a picture behind the model, is kept. */
const WIDEST = 4096;

/** How long a file that could not be had is not asked for again, in milliseconds. */
const RETRY = 30_000;

/** Files that were read, by the names of their contents. */
const read = new LRUCache<string, Promise<Panorama>>({ max: 3 });

/** A panorama that goes with a scene. */
export const enclosedPanorama = (enclosure: Enclosure): Promise<Panorama> =>
  known(enclosure, async (bytes) => {
    const panorama = await readPanorama(bytes, enclosure.name);
    return panorama.width > WIDEST ? smallerPanorama(panorama, WIDEST) : panorama;
  });

/** A picture that goes with a scene, in linear light. */
export const enclosedPicture = (enclosure: Enclosure): Promise<Panorama> =>
  known(enclosure, (bytes) => readPicture(bytes, enclosure.name));

/** The panorama that lights a scene, where it is one of its own. */
export const panoramaOf = ({ light }: Pick<Scene, 'light'>): Promise<Panorama> | null =>
  light.rig === own.id && light.panorama ? enclosedPanorama(light.panorama) : null;

function known(
  { name, bytes }: Enclosure,
  make: (bytes: Uint8Array<ArrayBuffer>) => Promise<Panorama>,
): Promise<Panorama> {
  let coming = read.get(bytes.hash);
  if (!coming) {
    coming = bringEnclosed({ name, bytes }).then(make);
    // Whoever asks again may have more luck; but not with every picture that is drawn.
    coming.catch(() => setTimeout(() => read.delete(bytes.hash), RETRY));
    read.set(bytes.hash, coming);
  }
  return coming;
}

/**
 * A picture in linear light, rows from the top.
 *
 * @throws Error when it is damaged or of a kind that cannot be shown
 */
export async function readPicture(bytes: Uint8Array<ArrayBuffer>, name: string): Promise<Panorama> {
  const decoded = await createImageBitmap(new Blob([bytes])).catch(() => {
    throw new Error(`${name} cannot be read as a picture: it is damaged or of another kind. Choose another.`);
  });
  const scale = Math.min(1, WIDEST / Math.max(decoded.width, decoded.height));
  const [width, height] = [decoded.width, decoded.height].map((n) => Math.max(1, Math.round(n * scale)));
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(decoded, 0, 0, width, height);
  decoded.close();
  const { data } = context.getImageData(0, 0, width, height);
  const linear = Float32Array.from({ length: 256 }, (_, v) => toLinear(v / 255));
  const pixels = new Float32Array(3 * width * height);
  for (let i = 0; i < width * height; i++)
    for (let k = 0; k < 3; k++) pixels[3 * i + k] = linear[data[4 * i + k]];
  return { width, height, pixels };
}

/** Standard deviation of the strongest blur, as a share of the width of a picture. */
const FARTHEST = 0.06;
/** A blurred picture needs no more pixels than this many to its standard deviation. */
const FINE = 4;

/** A picture as far blurred as a scene says; the stronger, the fewer pixels. */
export function blurred(given: Panorama, blur: number, around: boolean): Panorama {
  if (blur <= 0) return given;
  const needed = Math.max(64, Math.ceil(FINE / (FARTHEST * blur)));
  const small =
    given.width > 2 * needed
      ? smallerPanorama(given, needed, Math.max(1, Math.round((needed * given.height) / given.width)), around)
      : given;
  return softened(small, FARTHEST * blur * small.width, around);
}

/** The mean colours of the upper and the lower half of a picture in linear light, as `#rrggbb`; what is brighter than a screen is as bright as it. */
export function meanColours({ width, height, pixels }: Panorama): [string, string] {
  const meanOf = (from: number, to: number): string => {
    const sum = [0, 0, 0];
    for (let i = 3 * from * width; i < 3 * to * width; i++) sum[i % 3] += Math.min(1, pixels[i]);
    const count = Math.max(1, (to - from) * width);
    return rgbToHex(sum.map((v) => fromLinear(v / count)) as Rgb);
  };
  const middle = Math.ceil(height / 2);
  return [meanOf(0, middle), meanOf(Math.min(middle, height - 1), height)];
}
