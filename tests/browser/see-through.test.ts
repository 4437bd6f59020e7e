import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { randomNumbers } from '#core/model/random-numbers.ts';
import { fromLinear, toLinear } from '#core/model/srgb.ts';
import { cross, dot, subtract, unit, type Vector } from '#core/model/vectors.ts';
import { projectPoint } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { partLook } from '#core/scene/things/part-look.ts';
import { DrawnBalls, fromFront } from './drawn-balls.ts';

const SIZE = { width: 160, height: 160 };
const GREY = '#404040';

/** A square sheet, wider than the picture. */
interface Sheet {
  middle: Vector;
  normal: Vector;
  colour: string;
  opacity: number;
}

const hex = (rgb: readonly number[]): string =>
  `#${rgb.map((v) => Math.round(v).toString(16).padStart(2, '0')).join('')}`;
const channels = (colour: string): number[] =>
  [1, 3, 5].map((i) => Number.parseInt(colour.slice(i, i + 2), 16));

function stack(count: number, seed: number): Sheet[] {
  const random = randomNumbers(seed);
  const within = (low: number, high: number): number => low + (high - low) * random();
  return Array.from({ length: count }, () => ({
    middle: [0, within(-0.8, 0.8), 0],
    normal: unit([within(-0.5, 0.5), 1, within(-0.5, 0.5)]),
    colour: hex([within(0, 255), within(0, 255), within(0, 255)]),
    opacity: Math.round(within(0.15, 0.75) * 100) / 100,
  }));
}

function objOf(sheets: readonly Sheet[]): Buffer {
  const lines = sheets.flatMap(({ middle, normal }, n) => {
    const right = unit(cross(normal, [0, 0, 1]));
    const rise = cross(right, normal);
    const corners = [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ].map(([a, b]) => middle.map((m, k) => m + 4 * (a * right[k] + b * rise[k])));
    return [
      `o sheet ${n}`,
      ...corners.map((c) => `v ${c.join(' ')}`),
      `f ${[1, 2, 3, 4].map((k) => 4 * n + k).join(' ')}`,
    ];
  });
  return Buffer.from(`${lines.join('\n')}\n`);
}

describe('what is seen through', () => {
  let balls: DrawnBalls;
  beforeAll(async () => {
    balls = await DrawnBalls.of(['0,0,0,1,20']);
  });
  afterAll(() => balls.close());

  async function shown(sheets: readonly Sheet[]) {
    const made = await balls.others({ 'sheets.obj': objOf(sheets) });
    const scene: Scene = {
      ...made.scene,
      backdrop: { ...made.scene.backdrop, kind: 'own', top: GREY, foot: GREY },
      layers: made.scene.layers.slice(0, 1).map((l) => {
        const parts = sheets.map((_, n) => `sheet ${n}`);
        return { ...l, sides: 'both', parts, edges: { ...l.edges, shown: false } };
      }),
      parts: Object.fromEntries(
        sheets.map(({ colour, opacity }, n) => [`sheet ${n}`, { ...partLook.plain, colour, opacity }]),
      ),
    };
    return { made, scene };
  }

  /** The colour of a line of sight: what it meets, sorted by how far away that is, one over the other in light. */
  function sorted(sheets: readonly Sheet[], eye: Vector, ray: Vector) {
    const met = sheets
      .map((s) => ({ ...s, way: dot(subtract(s.middle, eye), s.normal) / dot(ray, s.normal) }))
      .filter((s) => s.way > 0)
      .sort((a, b) => b.way - a.way);
    const light = channels(GREY).map((v) => toLinear(v / 255));
    for (const { colour, opacity } of met)
      channels(colour).forEach((v, k) => {
        light[k] = (1 - opacity) * light[k] + opacity * toLinear(v / 255);
      });
    const apart = Math.min(...met.slice(1).map((s, i) => met[i].way - s.way));
    return { levels: light.map((v) => 255 * fromLinear(v)), apart };
  }

  /** Lines of sight through the middles of pixels, of a parallel view. */
  function* lines(camera: Scene['camera'], png: PNG) {
    const back = unit(subtract(camera.position, camera.target));
    const right = unit(cross([0, 0, 1], back));
    const rise = cross(back, right);
    for (let y = 8; y < png.height; y += 13)
      for (let x = 8; x < png.width; x += 13) {
        const [u, v] = [(x + 0.5) / png.width - 0.5, 0.5 - (y + 0.5) / png.height].map(
          (s) => s * camera.height,
        );
        const place = camera.target.map((t, k) => t + u * right[k] + v * rise[k] + 20 * back[k]) as Vector;
        const at = 4 * (y * png.width + x);
        const seen = projectPoint(camera, place, 1);
        expect([seen.x * png.width, seen.y * png.height]).toEqual([
          expect.closeTo(x + 0.5, 3),
          expect.closeTo(y + 0.5, 3),
        ]);
        yield { eye: place, ray: back.map((b) => -b) as Vector, levels: [...png.data.subarray(at, at + 3)] };
      }
  }

  it('is blended as if it were sorted, however it crosses and from whichever side, in any order of the scene', async () => {
    for (const [count, seed] of [
      [6, 1],
      [14, 2],
      [24, 3],
    ]) {
      const sheets = stack(count, seed);
      const { made, scene } = await shown(sheets);
      for (const from of [
        [0, -1, 0],
        [0.3, 1, 0.2],
        [-0.4, -1, 0.5],
      ] as Vector[]) {
        const camera = fromFront(1.6, from);
        const png = await made.draw({ scene: { ...scene, camera }, passes: 1, transparent: false, ...SIZE });
        let tried = 0;
        for (const { eye, ray, levels } of lines(camera, png)) {
          const wanted = sorted(sheets, eye, ray);
          // Where two of them cross either may be in front.
          if (wanted.apart < 0.001) continue;
          tried++;
          for (const k of [0, 1, 2]) expect(Math.abs(levels[k] - wanted.levels[k])).toBeLessThan(1.6);
        }
        expect(tried).toBeGreaterThan(100);
      }
    }
  });

  it('looks the same without a finish whether something else wears one or not', async () => {
    const sheet = (y: number, opacity: number): Sheet => {
      return { middle: [0, y, 0], normal: [0, 1, 0], colour: '#b07040', opacity };
    };
    // The last is hidden by the one before it.
    const { made, scene } = await shown([sheet(-0.5, 0.5), sheet(0, 1), sheet(0.5, 1)]);
    const lit: Scene = { ...scene, camera: fromFront(1.6), light: { ...scene.light, rig: 'studio' } };
    const hidden = { ...lit.parts['sheet 2'], finish: 'brushed-steel' };
    const drawn = (of: Scene) => made.draw({ scene: of, passes: 2, transparent: false, ...SIZE });
    const bare = await drawn(lit);
    const other = await drawn({ ...lit, parts: { ...lit.parts, 'sheet 2': hidden } });
    const off = bare.data.map((level, i) => Math.abs(level - other.data[i]));
    expect(Math.max(...off)).toBeLessThanOrEqual(1);
  });

  it('is there once where neighbours share a face, and all of it beyond the layers that are told apart', async () => {
    for (const [count, gap, opacity] of [
      [3, 0, 0.4],
      [45, 0.02, 0.05],
    ]) {
      const sheets = Array.from({ length: count }, (_, n): Sheet => {
        return { middle: [0, n * gap - 0.5, 0], normal: [0, 1, 0], colour: '#ffffff', opacity };
      });
      const { made, scene } = await shown(sheets);
      const camera = fromFront(1.6);
      const png = await made.draw({ scene: { ...scene, camera }, passes: 1, transparent: false, ...SIZE });
      const free = (1 - opacity) ** (gap === 0 ? 1 : count);
      const wanted = 255 * fromLinear(1 - free + free * toLinear(0x40 / 255));
      for (const { levels } of lines(camera, png))
        for (const level of levels) expect(Math.abs(level - wanted)).toBeLessThan(1.6);
    }
  });
});
