import { describe, expect, it } from 'vitest';
import { paintedPanorama } from '#core/light/panorama.ts';
import { SkyAxes } from '#core/light/sky-axes.ts';
import { dot, type Vector } from '#core/model/vectors.ts';
import { cameraAxes, fitCamera, viewDirections } from '#core/scene/camera.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { studio } from '#core/scene/light-rigs/studio.ts';
import { shownScales } from '#core/scene/shown-scales.ts';
import { light } from '#core/scene/things/light.ts';
import { ovenRun } from '../tests/sample-run.ts';
import { rigFrame, shiningLights } from './lit-by.ts';
import { usefulPasses } from './pictures/render-picture.ts';
import { axisSample, discSample, pixelSample, slopeSample } from './samples.ts';
import { legendTitle } from './words/paint-words.ts';

/** The direction of a sample under a sky that is as bright everywhere. */
const evenSky = new SkyAxes(paintedPanorama(() => [1, 1, 1], 64));
const axisOf = (n: number, of: number): Vector => evenSky.at(...axisSample(n, of)).towards;

describe('the facets of a rough mirror', () => {
  it('are as steep as the distribution of Trowbridge and Reitz says: half of them below the width of the slopes', () => {
    // Its share below a slope r is r^2 / (alpha^2 + r^2) (Walter et al. 2007, eq. 35 and 36 solved for the angle).
    const alpha = 0.2;
    const all = Array.from({ length: 500 }, (_, n) => Math.hypot(...slopeSample(n, 500, alpha)));
    for (const slope of [0.1, 0.2, 0.4]) {
      const share = all.filter((r) => r < slope).length / all.length;
      expect(Math.abs(share - slope ** 2 / (alpha ** 2 + slope ** 2))).toBeLessThan(0.03);
    }
    expect(slopeSample(3, 20, 0)).toEqual([0, 0].map((v) => expect.closeTo(v, 12)));
  });
});

describe('the passes', () => {
  it.each([16, 20, 48, 97])('look along %i axes that share the sphere evenly', (of) => {
    // The mean of d dᵀ over a sphere is a third of the unit matrix.
    const sum = Array.from({ length: 3 }, () => [0, 0, 0]);
    for (let n = 0; n < of; n++) {
      const d = axisOf(n, of);
      expect(Math.hypot(...d)).toBeCloseTo(1, 12);
      expect(d[2]).toBeGreaterThan(0);
      for (let j = 0; j < 3; j++) for (let k = 0; k < 3; k++) sum[j][k] += (d[j] * d[k]) / of;
    }
    for (let j = 0; j < 3; j++)
      for (let k = 0; k < 3; k++) expect(Math.abs(sum[j][k] - (j === k ? 1 / 3 : 0))).toBeLessThan(0.7 / of);
  });
  it.each([20, 48, 128])('light a free wall six times better than axes by chance, %i of them', (of) => {
    // Lambert: the mean over the hemisphere of 2 n·d is 1, its variance 4/3 - 1.
    const byChance = Math.sqrt((4 / 3 - 1) / of);
    let squares = 0;
    for (let i = 0; i < 200; i++) {
      const normal = axisOf(i, 200);
      let light = 0;
      for (let n = 0; n < of; n++) light += (2 / of) * Math.abs(dot(normal, axisOf(n, of)));
      squares += (light - 1) ** 2 / 200;
    }
    expect(Math.sqrt(squares)).toBeLessThan(byChance / 6);
  });
  it('take each axis once, and are spread from the start', () => {
    const seen = new Set(Array.from({ length: 48 }, (_, n) => axisOf(n, 48)[2].toFixed(6)));
    expect(seen.size).toBe(48);
    for (let n = 0; n + 4 <= 48; n += 4) {
      const heights = [0, 1, 2, 3].map((k) => axisOf(n + k, 48)[2]);
      expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(0.35);
    }
  });
  it('stay within the pixel and the face of the lamp, evenly around the middle', () => {
    let [x, y] = [0, 0];
    for (let n = 0; n < 64; n++) {
      const p = pixelSample(n, 64);
      expect(Math.max(...p.map(Math.abs))).toBeLessThan(0.8);
      expect(Math.hypot(...discSample(n, 64))).toBeLessThanOrEqual(1);
      x += p[0] / 64;
      y += p[1] / 64;
    }
    expect(Math.hypot(x, y)).toBeLessThan(0.03);
    expect(pixelSample(0, 64)).toEqual([0, 0]);
    // Half of the places lie in the inner half of the face.
    const inner = Array.from({ length: 64 }, (_, n) => discSample(n, 64)).filter(
      (d) => Math.hypot(...d) < Math.SQRT1_2,
    );
    expect(inner).toHaveLength(32);
  });
});

describe('the lamp', () => {
  it('shines from above and from the side of whoever looks, wherever that is', () => {
    for (const { from, up } of Object.values(viewDirections)) {
      const camera = fitCamera([0, 1, 0, 1, 0, 1], [...from], [...up], 1, {
        projection: 'perspective',
        fieldOfView: 30,
      });
      for (const pass of [null, { n: 0, of: 20 }, { n: 5, of: 20 }, { n: 17, of: 48 }]) {
        const frame = rigFrame(studio, light.plain, camera, [0, 0, 1]);
        const [{ to: d }] = shiningLights(studio, light.plain, frame, pass);
        expect(Math.hypot(...d)).toBeCloseTo(1, 9);
        expect(d[2]).toBeGreaterThan(0.3);
        if (Math.abs(from[2]) < 0.9) expect(dot(d, cameraAxes(camera).back)).toBeGreaterThan(0);
      }
    }
  });
});

describe('the words', () => {
  it('title a legend by its quantity and unit, and show legends of visible lines only', async () => {
    const run = await ovenRun();
    const scene = defaultScene(run);
    expect(legendTitle(scene.scales[0], run)).toEqual({ title: 'Temperature', unit: '°C' });
    expect(
      legendTitle({ ...scene.scales[0], legend: { ...scene.scales[0].legend, title: 'warmth' } }, run).title,
    ).toBe('Warmth');
    expect(shownScales(scene)).toHaveLength(1);
    expect(
      shownScales({ ...scene, layers: scene.layers.map((l) => ({ ...l, visible: false })) }),
    ).toHaveLength(0);
  });
  it('even light needs fewer passes', async () => {
    const scene = defaultScene(await ovenRun());
    expect(usefulPasses(scene, 48)).toBe(48);
    expect(usefulPasses({ ...scene, light: { ...scene.light, rig: 'even' } }, 48)).toBe(16);
  });
});
