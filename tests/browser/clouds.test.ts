import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { toLinear } from '#core/model/srgb.ts';
import type { Vector } from '#core/model/vectors.ts';
import { section } from '#core/ops/section.ts';
import { volume } from '#core/ops/volume.ts';
import { projectPoint } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { firstLamp } from '#core/scene/light-rigs/placed.ts';
import { DrawnBalls, floorDarkens, fromFront } from './drawn-balls.ts';

const SIZE = { width: 240, height: 240 };
const GREY = '#808080';
/** Half the side of the cloud. */
const HALF = 0.4;
/** Of the floor below its middle. */
const DEEP = 1;
/** Of a way of one fortieth of its diagonal. */
const OPACITY = 0.05;
const RATE = (-Math.log(1 - OPACITY) * 40) / (2 * HALF * Math.sqrt(3));

const air = (): Buffer => {
  const values = Array.from({ length: 9 ** 3 }, (_, i) => i % 9);
  return Buffer.from(
    `<?xml version="1.0"?><VTKFile type="ImageData" version="1.0" byte_order="LittleEndian"><ImageData WholeExtent="0 8 0 8 0 8" Origin="-0.4 -0.4 -0.4" Spacing="0.1 0.1 0.1"><Piece Extent="0 8 0 8 0 8"><PointData><DataArray type="Float32" Name="wet" format="ascii">${values.join(' ')}</DataArray></PointData></Piece></ImageData></VTKFile>`,
  );
};

describe('a cloud that is equally dense all over', () => {
  let balls: DrawnBalls;
  let cloud: DrawnBalls;
  let scene: Scene;

  beforeAll(async () => {
    balls = await DrawnBalls.of(['0,0,0,1,20']);
    cloud = await balls.others({ 'air.vti': air() });
    scene = {
      ...cloud.scene,
      backdrop: { ...cloud.scene.backdrop, kind: 'own', top: GREY, foot: GREY },
      layers: [asCloud({})],
    };
  });
  afterAll(() => balls.close());

  function asCloud(options: Partial<{ lit: boolean; casts: boolean }>): Scene['layers'][number] {
    const all = volume.schema.parse({
      resolution: 9,
      curve: [
        [0, OPACITY],
        [1, OPACITY],
      ],
      field: 'point:wet',
      ...options,
    });
    return {
      ...cloud.scene.layers[0],
      id: 'cloud',
      sides: 'both',
      parts: null,
      chain: [{ id: 'as-cloud', op: 'volume', off: false, options: all }],
      colour: { kind: 'plain', colour: '#ffffff' },
    };
  }

  const light = ({ data, width, height }: PNG, camera: Scene['camera'], place: Vector): number => {
    const { x, y } = projectPoint(camera, place, 1);
    return toLinear(data[4 * (Math.floor(y * height) * width + Math.floor(x * width))] / 255);
  };

  /** The way of a ray through the cloud. */
  function within(place: Vector, towards: Vector): number {
    let [from, to] = [0, Infinity];
    for (const k of [0, 1, 2]) {
      if (towards[k] === 0) {
        if (Math.abs(place[k]) > HALF) return 0;
        continue;
      }
      const ends = [(-HALF - place[k]) / towards[k], (HALF - place[k]) / towards[k]];
      from = Math.max(from, Math.min(...ends));
      to = Math.min(to, Math.max(...ends));
    }
    return Math.max(0, to - from);
  }

  it('leaves of the light of a lamp what the way through it says, and nothing where it throws no shadow', async () => {
    const rise = (55 * Math.PI) / 180;
    const towards: Vector = [0, Math.cos(rise), Math.sin(rise)];
    const camera = { ...fromFront(3, [0, -1, 1]), target: [0, -0.5, -0.5] as Vector };
    const lamp = { ...firstLamp, turn: 90, rise: 55, wide: 1 };
    const lit: Scene = {
      ...scene,
      camera,
      light: { ...scene.light, rig: 'placed', lights: [lamp], fill: 0, contact: 0, shadow: true },
      floor: { ...scene.floor, kind: 'plain', colour: GREY, height: HALF - DEEP },
    };
    const order = { passes: 16, transparent: false, ...SIZE };
    const png = await cloud.draw({ scene: lit, ...order });
    const bare = await cloud.draw({ scene: { ...lit, layers: [asCloud({ casts: false })] }, ...order });
    const middle = -DEEP / Math.tan(rise);
    for (const [x, y] of [
      [0, middle],
      [0.3, middle],
      [-0.2, middle - 0.15],
      [0.1, middle + 0.15],
      [0, middle - 0.4],
      [0, middle - 0.55],
      [0.6, middle],
    ]) {
      const place: Vector = [x, y, -DEEP];
      const share = light(png, camera, place) / light(bare, camera, place);
      const lost = 1 - Math.exp(-RATE * within(place, towards));
      const wanted = 1 - lost * floorDarkens(place, Math.sqrt(3) * HALF);
      expect(Math.abs(share - wanted), `${x} ${y}: ${share} for ${wanted}`).toBeLessThan(0.02);
    }
  });

  it('is seen before and behind a plane that crosses it', async () => {
    const plane = section.schema.parse({ normal: [0, 1, 0], offset: 0 });
    const crossing: Scene['layers'][number] = {
      ...asCloud({}),
      id: 'plane',
      chain: [{ id: 'cut', op: 'section', off: false, options: plane }],
      colour: { kind: 'plain', colour: '#000000' },
      opacity: 0.5,
    };
    const camera = fromFront(1.6);
    const png = await cloud.draw({
      scene: { ...scene, camera, layers: [asCloud({}), crossing] },
      passes: 16,
      transparent: false,
      ...SIZE,
    });
    const left = Math.exp(-RATE * HALF);
    const behind = 1 - left + left * toLinear(0x80 / 255);
    const wanted = 1 - left + left * 0.5 * behind;
    for (const place of [
      [0, 0, 0],
      [0.2, 0, -0.3],
      [-0.3, 0, 0.1],
    ] as Vector[])
      expect(light(png, camera, place)).toBeCloseTo(wanted, 2);
  });

  it('that takes its light from a lamp is brighter on that side than on the other', async () => {
    const camera = fromFront(1.6);
    const lamp = { ...firstLamp, turn: 0, rise: 0, wide: 1 };
    const drawn = await cloud.draw({
      scene: {
        ...scene,
        camera,
        light: { ...scene.light, rig: 'placed', lights: [lamp], fill: 0, shadow: true },
        backdrop: { ...scene.backdrop, top: '#000000', foot: '#000000' },
        layers: [asCloud({ lit: true })],
      },
      passes: 8,
      transparent: false,
      ...SIZE,
    });
    const [near, far] = [0.3, -0.3].map((x) => light(drawn, camera, [x, 0, 0]));
    expect(near).toBeGreaterThan(1.3 * far);
    expect(far).toBeGreaterThan(0.05);
    expect(near).toBeLessThan(1);
  });
});
