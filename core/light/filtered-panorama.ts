import { add, cross, times, type Vector } from '../model/vectors.ts';
import { directionAt, luminance, matteLight, type Panorama, seenIn, smallerPanorama } from './panorama.ts';
import { facetSample, radicalInverse } from './reflectance-table.ts';

/** Steps of roughness that are kept; the last stands for a surface that is as rough as can be. */
export const ROUGHNESS_STEPS = 6;
/** Size of the blurred ones. */
export const BLURRED = { width: 128, height: 64 };
/** Directions a place of a blurred panorama is the mean of. */
const DIRECTIONS = 48;
/** A matte surface sees it coarser still. */
const MATTE = { width: 32, height: 16 };

/** A panorama, and how matte surfaces see it; scaled so that these get 1 at the most. */
export interface ScaledPanorama {
  sharp: Panorama;
  matte: Panorama;
  /** What the given one was multiplied by. */
  scale: number;
}

/** Called often; whoever must not keep others waiting gives them a turn there. */
export type Pause = () => Promise<void>;

const never: Pause = async () => undefined;

export async function scaledPanorama(given: Panorama, pause: Pause = never): Promise<ScaledPanorama> {
  const coarse = smallerPanorama(given, 64);
  const matte = await resampled(MATTE, (d) => matteLight(coarse, d), pause);
  let most = 0;
  for (let i = 0; i < matte.pixels.length; i += 3)
    most = Math.max(most, luminance(matte.pixels[i], matte.pixels[i + 1], matte.pixels[i + 2]));
  const scale = most > 0 ? 1 / most : 1;
  const scaled = (p: Panorama): Panorama => ({ ...p, pixels: p.pixels.map((v) => v * scale) });
  return { sharp: scaled(given), matte: scaled(matte), scale };
}

/**
 * How surfaces of roughness 1 / ROUGHNESS_STEPS, 2 / ROUGHNESS_STEPS, ... 1 reflect a panorama: the mean over facets of
 * what they mirror, seen straight on (Karis 2013), taken from smaller copies the more facets a direction stands for
 * (Křivánek and Colbert 2008).
 */
export async function glossyPanoramas(sharp: Panorama, pause: Pause = never): Promise<Panorama[]> {
  const copies: Panorama[] = [sharp];
  while (copies.at(-1)!.width > 8) copies.push(smallerPanorama(copies.at(-1)!, copies.at(-1)!.width / 2));
  const glossy: Panorama[] = [];
  for (let step = 1; step <= ROUGHNESS_STEPS; step++) {
    const facets = facetsOf(step / ROUGHNESS_STEPS, sharp.width);
    // The rougher, the less there is to be told apart.
    const width = Math.max(32, BLURRED.width >> (step - 1));
    const made = await resampled({ width, height: width / 2 }, (d) => reflected(copies, facets, d), pause);
    glossy.push(width < BLURRED.width ? await resampled(BLURRED, (d) => seenIn(made, d), pause) : made);
  }
  return glossy;
}

async function resampled(
  { width, height }: { width: number; height: number },
  of: (direction: Vector) => readonly number[],
  pause: Pause,
): Promise<Panorama> {
  const pixels = new Float32Array(3 * width * height);
  for (let row = 0; row < height; row++) {
    for (let column = 0; column < width; column++)
      pixels.set(of(directionAt((column + 0.5) / width, (row + 0.5) / height)), 3 * (row * width + column));
    await pause();
  }
  return { width, height, pixels };
}

interface Facet {
  /** Where it mirrors to, in the frame of the normal. */
  to: Vector;
  /** Cosine to the normal. */
  weight: number;
  /** Which of the smaller copies it is taken from. */
  copy: number;
}

function facetsOf(roughness: number, width: number): Facet[] {
  const alpha = roughness * roughness;
  const found: Facet[] = [];
  for (let i = 0; i < DIRECTIONS; i++) {
    const [x, y, z] = facetSample((i + 0.5) / DIRECTIONS, radicalInverse(i), alpha);
    const to: Vector = [2 * z * x, 2 * z * y, 2 * z * z - 1];
    if (to[2] <= 0) continue;
    const d = z * z * (alpha * alpha - 1) + 1;
    // Density of directions: of facets over four times the cosine, which is that of the facet seen straight on.
    const density = (alpha * alpha) / (Math.PI * d * d) / 4;
    const share = 1 / (DIRECTIONS * density);
    const ofPixel = (4 * Math.PI) / (width * (width / 2));
    found.push({ to, weight: to[2], copy: Math.max(0, 0.5 * Math.log2(share / ofPixel) + 0.5) });
  }
  return found;
}

function reflected(copies: readonly Panorama[], facets: readonly Facet[], normal: Vector): number[] {
  const helper: Vector = Math.abs(normal[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  const side = cross(helper, normal);
  const size = Math.hypot(...side);
  const right = times(side, 1 / size);
  const rise = cross(normal, right);
  const sum = [0, 0, 0];
  let weights = 0;
  for (const { to, weight, copy } of facets) {
    const direction = add(add(times(right, to[0]), times(rise, to[1])), times(normal, to[2]));
    const seen = seenIn(copies[Math.min(copies.length - 1, Math.round(copy))], direction);
    for (let k = 0; k < 3; k++) sum[k] += weight * seen[k];
    weights += weight;
  }
  return sum.map((v) => v / (weights || 1));
}
