import { converter } from 'culori';
import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { finishById, finishes } from '#core/light/finishes/registry.ts';
import type { FinishOf, OwnFinish } from '#core/light/own-finish.ts';
import { toneCurve } from '#core/light/tone-curve.ts';
import { hexOfLinear } from '#core/model/srgb.ts';
import { fitCamera } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { isEven } from '#core/scene/light-rigs/light-rig.ts';
import { lightRigs } from '#core/scene/light-rigs/registry.ts';
import { DrawnBalls } from './drawn-balls.ts';

const SIZE = { width: 108, height: 108 };
const toLab = converter('lab65');

/** Red, green, blue and opacity of a pixel, 0..1. */
const pixelOf = ({ data }: PNG, i: number): number[] => [0, 1, 2, 3].map((k) => data[4 * i + k] / 255);

/** Pixels well within what covers the picture. */
function inner(png: PNG): number[] {
  const covered = (i: number): boolean => png.data[4 * i + 3] === 255;
  const { width, height } = png;
  return Array.from({ length: width * height }, (_, i) => i).filter((i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    if (x < 2 || y < 2 || x >= width - 2 || y >= height - 2) return false;
    return [0, -2, 2, -2 * width, 2 * width].every((d) => covered(i + d));
  });
}

const linear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** The same material in white, without a pattern. */
function inWhite(id: string, more: Partial<OwnFinish> = {}): OwnFinish {
  const { id: _, group: _g, ...values } = finishById(id)!;
  return {
    ...values,
    name: 'in white',
    colour: '#ffffff',
    sheenColour: '#ffffff',
    texture: 'none',
    uneven: 0,
    ...more,
  };
}

describe('finishes on a ball', () => {
  let drawn: DrawnBalls;
  let scene: Scene;

  beforeAll(async () => {
    drawn = await DrawnBalls.of(['0,0,0,1,20', '0,0,1,0.8,80']);
    scene = {
      ...drawn.scene,
      // Colours that are neither dark nor pale.
      scales: drawn.scene.scales.map((s) => ({ ...s, range: { kind: 'fixed', low: -30, high: 110 } })),
      camera: fitCamera([-0.5, 0.5, -0.5, 0.5, -0.5, 1.4], [0.4, -1, 0.35], [0, 0, 1], 1, {
        projection: 'perspective',
        fieldOfView: 24,
      }),
    };
  });
  afterAll(() => drawn.close());

  function draw(
    light: Partial<Scene['light']>,
    finish: FinishOf,
    plain: string | null,
    passes: number,
    more: Partial<Scene> = {},
  ): Promise<PNG> {
    const dressed: Scene = {
      ...scene,
      light: { ...scene.light, ...light },
      layers: scene.layers.map((layer) => ({
        ...layer,
        finish,
        ...(plain ? { colour: { kind: 'plain', colour: plain } as const } : {}),
      })),
    };
    const transparent = !more.backdrop;
    return drawn.draw({ scene: { ...dressed, ...more }, passes, transparent, ...SIZE });
  }

  /** Places of the upper ball, which hides nothing of itself; below it lies in the shade of the other. */
  const above = (png: PNG): number[] => inner(png).filter((i) => i < 0.34 * png.width * png.height);

  it('white ones vanish in a white room (furnace test): what comes back is what came, within 1 %', async () => {
    const [wanted] = toneCurve([0.5, 0.5, 0.5]);
    const all = [
      inWhite('matte-paint'),
      inWhite('satin-paint'),
      inWhite('gloss-paint'),
      inWhite('polished-steel'),
      inWhite('satin-aluminium'),
      inWhite('cast-iron', { metal: 1 }),
    ];
    for (const finish of all) {
      const png = await draw({ rig: 'tent', fill: 0.5 }, finish, '#ffffff', 12);
      const places = above(png);
      expect(places.length).toBeGreaterThan(100);
      const mean = places.reduce((sum, i) => sum + linear(pixelOf(png, i)[1]), 0) / places.length;
      expect(Math.abs(mean / wanted - 1), JSON.stringify(finish)).toBeLessThan(0.01);
      // Light is kept to 8 bits of a screen, half a level of which is 1 % there.
      for (const i of places)
        expect(Math.abs(linear(pixelOf(png, i)[1]) / wanted - 1), JSON.stringify(finish)).toBeLessThan(0.025);
    }
  });

  it('of every kind send out no more light than comes, at every angle', async () => {
    const [most] = toneCurve([0.5, 0.5, 0.5]);
    for (const { id, glow, clear } of finishes) {
      if (glow > 0 || clear > 0) continue;
      const png = await draw(
        { rig: 'tent', fill: 0.5 },
        inWhite(id, { texture: finishById(id)!.texture }),
        '#ffffff',
        6,
      );
      for (const i of above(png)) expect(linear(pixelOf(png, i)[0]), id).toBeLessThan(most * 1.025);
    }
  });

  it('clear ones are as bright as the white room around them, and no brighter', async () => {
    const [room] = toneCurve([0.5, 0.5, 0.5]);
    const white = hexOfLinear([room, room, room]);
    const places = above(await draw({ rig: 'tent' }, 'matte-paint', '#ffffff', 2));
    expect(places.length).toBeGreaterThan(100);
    const backdrop: Scene['backdrop'] = { ...scene.backdrop, kind: 'own', top: white, foot: white };
    for (const { id, clear } of finishes) {
      if (clear === 0) continue;
      const own = inWhite(id, { depth: 0 });
      const png = await draw({ rig: 'tent', fill: 0.5 }, own, '#ffffff', 6, { backdrop });
      for (const i of places) {
        const light = linear(pixelOf(png, i)[1]);
        expect(Math.abs(light / room - 1), id).toBeLessThan(0.01);
      }
    }
  });

  it('glowing ones reflect no more than comes, beside the light of their own', async () => {
    const glowing = finishes.filter(({ glow }) => glow > 0);
    expect(glowing.length).toBeGreaterThan(1);
    for (const { id } of glowing) {
      const own = inWhite(id, { glow: 0.2 });
      const lit = await draw({ rig: 'tent', fill: 0.5 }, own, '#ffffff', 6);
      const alone = await draw({ rig: 'tent', fill: 0 }, own, '#ffffff', 6);
      const [both] = toneCurve([0.7, 0.7, 0.7]);
      const [single] = toneCurve([0.2, 0.2, 0.2]);
      const places = above(lit);
      expect(places.length).toBeGreaterThan(100);
      for (const i of places) {
        expect(Math.abs(linear(pixelOf(alone, i)[1]) / single - 1), id).toBeLessThan(0.025);
        expect(Math.abs(linear(pixelOf(lit, i)[1]) / both - 1), id).toBeLessThan(0.025);
      }
    }
  });

  it('in every rig keep the hue of values within 3°, and in even light the colour of the legend', async () => {
    const legend = await draw({ rig: 'even' }, null, null, 6);
    const places = inner(legend);
    expect(places.length).toBeGreaterThan(600);
    const labs = places.map((i) => {
      const [r, g, b] = pixelOf(legend, i);
      return toLab({ mode: 'rgb', r, g, b });
    });
    const tried: [string, FinishOf][] = [
      ...lightRigs.flatMap(({ id }) =>
        ['satin-paint', 'brushed-steel', 'gloss-paint', 'crust'].map((f): [string, string] => [id, f]),
      ),
      ...finishes.filter((f) => f.glow === 0).map(({ id }): [string, string] => ['studio', id]),
    ];
    for (const [rig, finish] of tried) {
      const png = await draw({ rig, highlights: false }, finish, null, 4);
      let compared = 0;
      for (const [n, i] of places.entries()) {
        const [r, g, b, a] = pixelOf(png, i);
        const found = toLab({ mode: 'rgb', r, g, b });
        const wanted = labs[n];
        if (isEven(lightRigs.find((l) => l.id === rig)!)) {
          for (const k of ['l', 'a', 'b'] as const)
            expect(Math.abs(found[k] - wanted[k]), `${rig} ${finish}`).toBeLessThan(1);
          compared++;
          continue;
        }
        // Of pixels that are dark or nearly grey 8 bits do not tell the hue.
        if (found.l < 25 || Math.hypot(found.a, found.b) < 15 || a < 1) continue;
        const [now, then] = [found, wanted].map((c) => Math.atan2(c.b, c.a));
        const apart = Math.abs(Math.atan2(Math.sin(now - then), Math.cos(now - then))) * (180 / Math.PI);
        expect(apart, `${rig} ${finish}: ${[r, g, b].map((v) => Math.round(255 * v))}`).toBeLessThan(3);
        compared++;
      }
      // Nights are dark.
      if (rig === 'studio' || rig === 'even') expect(compared, `${rig} ${finish}`).toBeGreaterThan(100);
    }
  });

  it('highlights only add light, and are gone where they are switched off', async () => {
    const off = await draw({ rig: 'product', highlights: false }, 'gloss-paint', null, 8);
    const on = await draw({ rig: 'product', highlights: true }, 'gloss-paint', null, 8);
    const changes = inner(off).map((i) => pixelOf(on, i)[1] - pixelOf(off, i)[1]);
    for (const c of changes) expect(c).toBeGreaterThan(-0.005);
    expect(Math.max(...changes)).toBeGreaterThan(0.1);
    expect(changes.filter((c) => c < 0.02).length).toBeGreaterThan(0.3 * changes.length);
  });

  it('metal mirrors the lights, glass is seen through, what glows is bright at night', async () => {
    const brightness = (png: PNG): number[] => inner(png).map((i) => pixelOf(png, i)[1]);
    const steel = brightness(await draw({ rig: 'product' }, 'polished-steel', '#888888', 8));
    const matte = brightness(await draw({ rig: 'product' }, 'matte-paint', '#888888', 8));
    const spread = (v: number[]): number => Math.max(...v) - Math.min(...v);
    expect(spread(steel)).toBeGreaterThan(1.5 * spread(matte));
    const glass = await draw({ rig: 'product' }, 'clear-glass', '#888888', 8);
    const clear = Array.from({ length: SIZE.width * SIZE.height }, (_, i) => pixelOf(glass, i)[3]).filter(
      (a) => a > 0,
    );
    expect(clear.filter((a) => a < 0.4).length).toBeGreaterThan(0.3 * clear.length);
    const [dark, hot] = [
      brightness(await draw({ rig: 'night' }, 'soot', '#888888', 8)),
      brightness(await draw({ rig: 'night' }, 'hot-element', '#888888', 8)),
    ];
    expect(Math.min(...hot)).toBeGreaterThan(Math.max(...dark) / 2);
  });
});
