import { dot, type Vector } from '../model/vectors.ts';

/**
 * Light from everywhere around: linear red, green and blue of every direction, rows from the zenith down. The frame has
 * z up; columns go around from -x over -y, +x and +y.
 */
export interface Panorama {
  width: number;
  height: number;
  /** Three numbers a place. */
  pixels: Float32Array;
}

export const luminance = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** The direction of a place in a panorama, both from 0 to 1. */
export function directionAt(u: number, v: number): Vector {
  const turn = 2 * Math.PI * (u - 0.5);
  const sine = Math.sin(Math.PI * v);
  return [sine * Math.cos(turn), sine * Math.sin(turn), Math.cos(Math.PI * v)];
}

/** Where a direction lies in a panorama, both from 0 to 1. */
export const placeOf = ([x, y, z]: Vector): [number, number] => [
  Math.atan2(y, x) / (2 * Math.PI) + 0.5,
  Math.acos(Math.min(1, Math.max(-1, z))) / Math.PI,
];

/** Solid angle of each place of a row, in steradians. */
export const solidAngle = (row: number, { width, height }: Pick<Panorama, 'width' | 'height'>): number =>
  ((2 * Math.PI) / width) * (Math.cos((Math.PI * row) / height) - Math.cos((Math.PI * (row + 1)) / height));

/** A panorama of what is said of each direction. */
export function paintedPanorama(
  light: (direction: Vector) => readonly [number, number, number],
  width: number,
  height = width / 2,
): Panorama {
  const pixels = new Float32Array(3 * width * height);
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++)
      pixels.set(
        light(directionAt((column + 0.5) / width, (row + 0.5) / height)),
        3 * (row * width + column),
      );
  return { width, height, pixels };
}

/**
 * A smaller panorama, each place the mean of those it stands for, by their solid angles.
 *
 * @param around false for a flat picture, all of whose pixels count alike
 */
export function smallerPanorama(given: Panorama, width: number, height = width / 2, around = true): Panorama {
  if (given.width <= width && given.height <= height) return given;
  const pixels = new Float32Array(3 * width * height);
  const weights = new Float32Array(width * height);
  for (let row = 0; row < given.height; row++) {
    const weight = around ? solidAngle(row, given) : 1;
    const toRow = Math.floor((row * height) / given.height);
    for (let column = 0; column < given.width; column++) {
      const into = toRow * width + Math.floor((column * width) / given.width);
      const from = 3 * (row * given.width + column);
      for (let k = 0; k < 3; k++) pixels[3 * into + k] += weight * given.pixels[from + k];
      weights[into] += weight;
    }
  }
  for (let i = 0; i < pixels.length; i++) pixels[i] /= weights[Math.floor(i / 3)] || 1;
  return { width, height, pixels };
}

/** What a panorama shows in a direction, between its places. */
export function seenIn({ width, height, pixels }: Panorama, direction: Vector): [number, number, number] {
  const [u, v] = placeOf(direction);
  const x = u * width - 0.5;
  const y = Math.min(height - 1, Math.max(0, v * height - 0.5));
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - x0, y - y0];
  const out: [number, number, number] = [0, 0, 0];
  for (const [dx, dy, weight] of [
    [0, 0, (1 - fx) * (1 - fy)],
    [1, 0, fx * (1 - fy)],
    [0, 1, (1 - fx) * fy],
    [1, 1, fx * fy],
  ]) {
    const column = (x0 + dx + width) % width;
    const from = 3 * (Math.min(height - 1, y0 + dy) * width + column);
    for (let k = 0; k < 3; k++) out[k] += weight * pixels[from + k];
  }
  return out;
}

/** What reaches a matte white surface that faces a direction: the mean of the half before it by Lambert's cosine. */
export function matteLight({ width, height, pixels }: Panorama, normal: Vector): [number, number, number] {
  const out: [number, number, number] = [0, 0, 0];
  for (let row = 0; row < height; row++) {
    const weight = solidAngle(row, { width, height }) / Math.PI;
    for (let column = 0; column < width; column++) {
      const cosine = dot(normal, directionAt((column + 0.5) / width, (row + 0.5) / height));
      if (cosine <= 0) continue;
      const from = 3 * (row * width + column);
      for (let k = 0; k < 3; k++) out[k] += weight * cosine * pixels[from + k];
    }
  }
  return out;
}
