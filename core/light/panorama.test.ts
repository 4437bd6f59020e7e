import { describe, expect, it } from 'vitest';
import { dot, unit, type Vector } from '../model/vectors.ts';
import { glossyPanoramas, ROUGHNESS_STEPS, scaledPanorama } from './filtered-panorama.ts';
import {
  directionAt,
  luminance,
  matteLight,
  paintedPanorama,
  placeOf,
  seenIn,
  smallerPanorama,
  solidAngle,
} from './panorama.ts';
import { SkyAxes } from './sky-axes.ts';

/** Bright around a direction, dim elsewhere. */
const lampAt =
  (towards: Vector) =>
  (d: Vector): [number, number, number] =>
    dot(d, towards) > 0.93 ? [12, 10, 8] : [0.2, 0.25, 0.3];

describe('a panorama', () => {
  it('covers the whole sphere, and finds the place of each of its directions', () => {
    const size = { width: 64, height: 32 };
    let sum = 0;
    for (let row = 0; row < 32; row++) sum += 64 * solidAngle(row, size);
    expect(sum).toBeCloseTo(4 * Math.PI, 9);
    for (const [u, v] of [
      [0.1, 0.3],
      [0.5, 0.5],
      [0.93, 0.8],
    ]) {
      const [u2, v2] = placeOf(directionAt(u, v));
      expect(u2).toBeCloseTo(u, 9);
      expect(v2).toBeCloseTo(v, 9);
    }
  });
  it('shows between its places what lies between, across its seam too', () => {
    const p = paintedPanorama(([x, y, z]) => [1 + x, 1 + y, 1 + z], 256);
    for (const d of [unit([-1, 0.001, 0.2]), unit([-1, -0.001, 0.2]), unit([0.3, -0.5, 0.8])] as Vector[])
      for (let k = 0; k < 3; k++) expect(seenIn(p, d)[k]).toBeCloseTo(1 + d[k], 2);
  });
  it('keeps its light when it is made smaller', () => {
    const light = (p: ReturnType<typeof paintedPanorama>): number => {
      let sum = 0;
      for (let i = 0; i < p.pixels.length; i += 3)
        sum += p.pixels[i] * solidAngle(Math.floor(i / 3 / p.width), p);
      return sum;
    };
    const p = paintedPanorama(lampAt([0.6, 0, 0.8]), 256);
    expect(light(smallerPanorama(p, 32))).toBeCloseTo(light(p), 3);
  });
});

describe('light of a panorama on a matte surface', () => {
  it('is 1 under a sky of 1, and half of it on a wall before half a sky', () => {
    const even = paintedPanorama(() => [1, 1, 1], 128);
    expect(matteLight(even, [0, 0, 1])[0]).toBeCloseTo(1, 3);
    const upper = paintedPanorama((d) => (d[2] > 0 ? [1, 1, 1] : [0, 0, 0]), 128);
    expect(matteLight(upper, [1, 0, 0])[0]).toBeCloseTo(0.5, 3);
    expect(matteLight(upper, [0, 0, -1])[0]).toBeCloseTo(0, 6);
  });
  it('that brightens evenly upwards is Lambert’s: 1 + 2/3 of the slope', () => {
    const sloped = paintedPanorama((d) => [1 + d[2], 1, 1], 128);
    for (const up of [1, 0.4, 0, -0.7])
      expect(matteLight(sloped, [Math.sqrt(1 - up * up), 0, up])[0]).toBeCloseTo(1 + (2 / 3) * up, 3);
  });
});

describe('panoramas as surfaces mirror them', () => {
  it('are as bright as they were where all is even, and matte surfaces get 1 at the most', async () => {
    const { sharp, matte, scale } = await scaledPanorama(paintedPanorama(() => [3, 3, 3], 128));
    const glossy = await glossyPanoramas(sharp);
    expect(scale).toBeCloseTo(1 / 3, 3);
    expect(glossy).toHaveLength(ROUGHNESS_STEPS);
    for (const p of [sharp, ...glossy, matte])
      for (const v of p.pixels) expect(Math.abs(v - 1)).toBeLessThan(2e-3);
  });
  it('blur more with every step, and keep to the side of the lamp', async () => {
    const towards: Vector = [0, 0.6, 0.8];
    const { sharp, matte } = await scaledPanorama(paintedPanorama(lampAt(towards), 256));
    const glossy = await glossyPanoramas(sharp);
    const bright = [...glossy, matte].map((p) => luminance(...seenIn(p, towards)));
    for (let i = 1; i < bright.length; i++) expect(bright[i]).toBeLessThan(bright[i - 1] * 1.02);
    const behind = [...glossy, matte].map((p) => luminance(...seenIn(p, [0, -0.6, -0.8])));
    for (const [i, b] of behind.entries()) expect(b).toBeLessThan(bright[i] / 2);
  });
});

describe('axes of the sky', () => {
  const panorama = paintedPanorama(lampAt(unit([0.5, -0.3, 0.6])), 128);
  const axes = new SkyAxes(panorama);
  const many = Array.from({ length: 4096 }, (_, i) => axes.at((i + 0.5) / 4096, (i * 0.618033988749895) % 1));

  it.each([[[0, 0, 1]], [[1, 0, 0]], [[-0.6, 0.48, 0.64]], [[0.2, -0.4, -0.894427]]] as [Vector][])(
    'light a matte surface facing %j as the whole panorama does',
    (normal) => {
      let sum = 0;
      for (const { towards, ahead, behind } of many) {
        const facing = dot(normal, towards);
        sum += (Math.abs(facing) * (facing > 0 ? ahead : behind)[1]) / many.length;
      }
      const whole = matteLight(smallerPanorama(panorama, 64), normal)[1];
      expect(Math.abs(sum / whole - 1)).toBeLessThan(0.03);
    },
  );
  it('come more often where it is bright: few of them do as well as many spread evenly', () => {
    const even = new SkyAxes(paintedPanorama(() => [1, 1, 1], 64));
    const towardsLamp = (a: Vector): boolean => Math.abs(dot(a, unit([0.5, -0.3, 0.6]))) > 0.93;
    const share = many.filter(({ towards }) => towardsLamp(towards)).length / many.length;
    const plain = Array.from({ length: 4096 }, (_, i) => even.at((i + 0.5) / 4096, (i * 0.618) % 1));
    const evenShare = plain.filter(({ towards }) => towardsLamp(towards)).length / plain.length;
    expect(evenShare).toBeCloseTo(0.07, 2);
    expect(share).toBeGreaterThan(0.4);
  });
});
