import { describe, expect, it } from 'vitest';
import { cameraAxes, dot, fitCamera, viewDirections } from '#core/scene/camera.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { studio } from '#core/scene/light-rigs/studio.ts';
import { ovenRun } from '../tests/sample-run.ts';
import { keyDirection } from './key-light.ts';
import { usefulPasses } from './pictures/render-picture.ts';
import { discSample, pixelSample, planeSample, sphereSample } from './samples.ts';
import { legendTitle, shownScales } from './words.ts';

describe('the passes', () => {
  it('spread over the plane: every tenth of it gets its share', () => {
    const counts = new Array(100).fill(0);
    for (let n = 0; n < 5000; n++) {
      const [a, b] = planeSample(n);
      counts[10 * Math.floor(10 * a) + Math.floor(10 * b)]++;
    }
    for (const c of counts) expect(c > 40 && c < 60).toBe(true);
  });
  it('look in all directions alike', () => {
    const sum = [0, 0, 0];
    for (let n = 0; n < 48; n++) {
      const d = sphereSample(n);
      expect(Math.hypot(...d)).toBeCloseTo(1, 12);
      for (let k = 0; k < 3; k++) sum[k] += d[k] / 48;
    }
    expect(Math.hypot(...sum)).toBeLessThan(0.08);
    // A wall gathers 4 times the mean of its cosines from all around: 1 when nothing stands before it.
    for (const normal of [
      [0, 0, 1],
      [1, 0, 0],
      [0, -1, 0],
      [0.6, 0, -0.8],
    ] as [number, number, number][]) {
      let light = 0;
      for (let n = 0; n < 48; n++) light += (4 / 48) * Math.max(0, dot(normal, sphereSample(n)));
      expect(light).toBeCloseTo(1, 1);
    }
  });
  it('stay within the pixel and the face of the lamp, evenly around the middle', () => {
    let [x, y] = [0, 0];
    for (let n = 0; n < 64; n++) {
      const p = pixelSample(n);
      expect(Math.max(...p.map(Math.abs))).toBeLessThan(0.8);
      expect(Math.hypot(...discSample(n))).toBeLessThanOrEqual(1);
      x += p[0] / 64;
      y += p[1] / 64;
    }
    expect(Math.hypot(x, y)).toBeLessThan(0.03);
  });
});

describe('the lamp', () => {
  it('shines from above and from the side of whoever looks, wherever that is', () => {
    for (const { from, up } of Object.values(viewDirections)) {
      const camera = fitCamera([0, 1, 0, 1, 0, 1], [...from], [...up], 1, {
        projection: 'perspective',
        fieldOfView: 30,
      });
      for (const pass of [null, 0, 5, 17]) {
        const d = keyDirection(studio.key!, camera, pass);
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
