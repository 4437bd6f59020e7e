import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { toneCurve } from '#core/light/tone-curve.ts';
import { fitCamera } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Enclosure } from '#core/scene/enclosure.ts';
import { DrawnBalls } from './drawn-balls.ts';

const SIZE = { width: 120, height: 120 };

/** A Radiance file of two colours: one above the horizon, one below. */
function twoColours(above: readonly number[], below: readonly number[]): Uint8Array<ArrayBuffer> {
  const [width, height] = [64, 32];
  const head = new TextEncoder().encode(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${height} +X ${width}\n`);
  const out = new Uint8Array(head.length + 4 * width * height);
  out.set(head);
  for (let i = 0; i < width * height; i++) {
    const colour = i < (width * height) / 2 ? above : below;
    out.set([...colour.map((v) => v * 128), 129], head.length + 4 * i);
  }
  return out;
}

const pixelOf = ({ data, width }: PNG, x: number, y: number): number[] =>
  [0, 1, 2, 3].map((k) => data[4 * (Math.round(y * width) * width + Math.round(x * width)) + k]);

describe('the room a ball stands in', () => {
  let drawn: DrawnBalls;
  let scene: Scene;

  beforeAll(async () => {
    // Two, one hanging over the other.
    drawn = await DrawnBalls.of(['0,0,0.5,1,20', '0,0,2,0.6,80']);
    const { backdrop, layers } = drawn.scene;
    scene = {
      ...drawn.scene,
      backdrop: { ...backdrop, kind: 'own', top: '#808080', foot: '#808080' },
      layers: layers.map((layer) => ({ ...layer, colour: { kind: 'plain', colour: '#c02020' } as const })),
      camera: fitCamera([-1, 1, -1, 1, -2.3, 2.3], [0, -1, 1], [0, 0, 1], 1, {
        projection: 'parallel',
        fieldOfView: 24,
      }),
    };
  });
  afterAll(() => drawn.close());

  const draw = (more: Partial<Scene>, passes = 4, transparent = false): Promise<PNG> =>
    drawn.draw({ scene: { ...scene, ...more }, passes, transparent, ...SIZE });
  const floor = (more: Partial<Scene['floor']>): Scene['floor'] => ({ ...scene.floor, ...more });
  const isRed = ([r, g]: number[]): boolean => r > 1.6 * g;
  /** How red each row of the middle column is, from the foot upwards. */
  const column = (png: PNG): boolean[] =>
    Array.from({ length: SIZE.height }, (_, y) => isRed(pixelOf(png, 0.5, 1 - (y + 0.5) / SIZE.height)));

  it('is mirrored by its floor: what stands on it touches its picture, which hangs as far below', async () => {
    const png = await draw({ floor: floor({ kind: 'mirror', mirrors: 1, roughness: 0 }) });
    const red = column(png);
    // The ball on the floor and its picture are one piece; there is a gap between it and the other, above and below.
    const runs: [from: number, to: number][] = [];
    red.forEach((is, y) => {
      if (is && !red[y - 1]) runs.push([y, y]);
      if (is) runs[runs.length - 1][1] = y;
    });
    expect(runs.length).toBe(3);
    const lengths = runs.map(([from, to]) => to - from + 1);
    // Straight on a parallel view shows a picture as large as what it is of.
    expect(Math.abs(lengths[0] - lengths[2])).toBeLessThanOrEqual(1);
    expect(Math.abs(runs[1][0] - runs[0][1] - (runs[2][0] - runs[1][1]))).toBeLessThanOrEqual(2);
  });
  it('is mirrored by half as much light by a mirror of half the share, and not at all by none', async () => {
    const at = (png: PNG): number[] => pixelOf(png, 0.5, 0.761);
    const linear = (v: number): number => (v <= 10.3 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4);
    const found: number[] = [];
    for (const mirrors of [1, 0.5, 0])
      found.push(linear(at(await draw({ floor: floor({ kind: 'mirror', mirrors, roughness: 0 }) }))[0]));
    const [all, half, none] = found;
    // By Schlick's formula; one looks at the floor half from above.
    const share = 0.5 + 0.5 * (1 - Math.SQRT1_2) ** 5;
    expect(Math.abs((half - none) / (all - none) - share)).toBeLessThan(0.03);
  });
  it('is mirrored more blurred the rougher the floor, sharply where it touches it', async () => {
    const edges = (png: PNG, y: number): number => {
      // How many pixels from the backdrop to the body, across the side of the picture below.
      const reds = Array.from({ length: 60 }, (_, x) => pixelOf(png, x / SIZE.width, y)[0]);
      const [low, high] = [Math.min(...reds), Math.max(...reds)];
      return reds.filter((v) => v > low + 0.2 * (high - low) && v < low + 0.8 * (high - low)).length;
    };
    const mirror = (roughness: number) =>
      draw({ floor: floor({ kind: 'mirror', mirrors: 1, roughness }) }, 48);
    const [sharp, rough] = [await mirror(0), await mirror(0.5)];
    // The middle of the picture of the ball that hangs above is farther from the floor than the foot of the one below.
    expect(edges(rough, 0.761)).toBeGreaterThan(edges(sharp, 0.761) + 3);
  });
  it('has tiles of both colours, as long as said, and what is below a raised floor is hidden', async () => {
    const above = fitCamera([-1.2, 1.2, -1.2, 1.2, 0, 0], [0, 0, 1], [0, 1, 0], 1, {
      projection: 'parallel',
      fieldOfView: 24,
    });
    const tiles = floor({ kind: 'tiles', edge: 0.4, colour: '#ffffff', second: '#0000ff', height: 0.5 });
    const png = await draw({ floor: tiles, camera: { ...above, height: 2.4 } });
    // A pixel is 0.02; the middle of the picture is the origin, where tiles meet.
    const seen = (x: number, y: number): number[] => pixelOf(png, 0.5 + x / 2.4, 0.5 - y / 2.4);
    expect(seen(-1, 1).slice(0, 3)).toEqual([0, 0, 255]);
    expect(seen(-0.6, 1).slice(0, 3)).toEqual([255, 255, 255]);
    expect(seen(1, 1).slice(0, 3)).toEqual([255, 255, 255]);
    // The floor cuts the lower ball, which is 1 wide, in its middle.
    expect(isRed(seen(0, 0.48))).toBe(true);
    const side = await draw({ floor: tiles });
    expect(column(side).indexOf(true)).toBeGreaterThan(
      column(await draw({ floor: floor({ kind: 'none' }) })).indexOf(true),
    );
  });
  it('without a backdrop leaves the floor, and only it, where it has colours of its own', async () => {
    const png = await draw({ floor: floor({ kind: 'plain', colour: '#00ff00' }) }, 4, true);
    expect(pixelOf(png, 0.5, 0.6).slice(0, 3)).toEqual([0, 255, 0]);
    expect(pixelOf(png, 0.5, 0.6)[3]).toBe(255);
    // Far away it fades out.
    expect(pixelOf(png, 0.03, 0.03)[3]).toBeLessThan(230);
  });

  const sent = async (name: string, bytes: Uint8Array): Promise<Enclosure> => {
    const { status, answer } = await drawn.served.send<Enclosure>(
      'POST',
      `/api/enclosures?name=${name}`,
      bytes,
    );
    expect(status).toBe(200);
    return answer;
  };

  it('lights it from its own panorama: above with its upper colour, below with its lower one; and shows it', async () => {
    const panorama = await sent('two.hdr', twoColours([1, 0.25, 0.25], [0.25, 0.25, 1]));
    const lit = await draw(
      {
        light: { ...scene.light, rig: 'own', panorama, contact: 0 },
        layers: scene.layers.map((layer) => ({
          ...layer,
          colour: { kind: 'plain', colour: '#ffffff' } as const,
          finish: 'matte-paint',
        })),
        floor: floor({ kind: 'none' }),
        backdrop: { ...scene.backdrop, kind: 'surroundings' },
        camera: {
          ...scene.camera,
          ...fitCamera([-1, 1, -1, 1, -2.3, 2.3], [0, -1, 0], [0, 0, 1], 1, {
            projection: 'perspective',
            fieldOfView: 40,
          }),
        },
      },
      16,
    );
    const [top, foot] = [pixelOf(lit, 0.1, 0.1), pixelOf(lit, 0.1, 0.9)];
    expect(top[0]).toBeGreaterThan(1.5 * top[2]);
    expect(foot[2]).toBeGreaterThan(1.5 * foot[0]);
    // As bright as it is said to be: scaled so that matte surfaces get 1 at the most, then as every light is shown.
    const luminance = 0.2126 + 0.7152 * 0.25 + 0.0722 * 0.25;
    const shown = toneCurve([1 / luminance, 0.25 / luminance, 0.25 / luminance]).map(
      (v) => 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055),
    );
    for (const k of [0, 1, 2]) expect(Math.abs(top[k] - shown[k])).toBeLessThan(3);
    // The crown of the upper ball is lit from above, the foot of the lower one from below.
    const [crown, below] = [pixelOf(lit, 0.5, 0.09), pixelOf(lit, 0.5, 0.47)];
    expect(crown[0]).toBeGreaterThan(crown[2]);
    expect(below[2]).toBeGreaterThan(below[0]);
  });
  it('shows a picture behind it as it is, from edge to edge', async () => {
    const image = new PNG({ width: 80, height: 40 });
    for (let i = 0; i < 80 * 40; i++)
      image.data.set(i % 80 < 40 ? [200, 100, 50, 255] : [20, 60, 220, 255], 4 * i);
    const picture = await sent('wall.png', PNG.sync.write(image));
    const png = await draw({
      floor: floor({ kind: 'none' }),
      backdrop: { ...scene.backdrop, kind: 'picture', picture },
    });
    for (const [x, colour] of [
      [0.1, [200, 100, 50]],
      [0.9, [20, 60, 220]],
    ] as const)
      for (const [k, value] of pixelOf(png, x, 0.1).slice(0, 3).entries())
        expect(Math.abs(value - colour[k])).toBeLessThanOrEqual(1);
  });
  it('has a sweep of one colour, floor and wall, in which no edge is seen; in light, with its shadow', async () => {
    const low = fitCamera([-1, 1, -1, 1, 0, 2.3], [0, -1, 0.25], [0, 0, 1], 1, {
      projection: 'perspective',
      fieldOfView: 30,
    });
    const swept: Partial<Scene> = {
      camera: low,
      floor: floor({ kind: 'none' }),
      backdrop: { ...scene.backdrop, kind: 'sweep', top: '#4080c0' },
    };
    const even = await draw(swept, 4, true);
    // From the floor before the balls, up the wall behind them.
    for (const [x, y] of [
      [0.5, 0.97],
      [0.1, 0.8],
      [0.1, 0.5],
      [0.1, 0.2],
    ])
      expect(pixelOf(even, x, y)).toEqual([0x40, 0x80, 0xc0, 255]);
    const lit = await draw({ ...swept, light: { ...scene.light, rig: 'studio', shadow: true } }, 24);
    const rows = Array.from({ length: 100 }, (_, i) => pixelOf(lit, 0.04, 0.995 - 0.009 * i));
    for (const [i, [r, , b]] of rows.entries()) {
      expect(b).toBeGreaterThan(2 * r);
      if (i > 0) expect(Math.abs(b - rows[i - 1][2])).toBeLessThan(8);
    }
    // Around the foot of the ball it is darker than at the side of the picture.
    const around = Array.from({ length: 60 }, (_, i) => 0.6 + 0.006 * i).map((y) => pixelOf(lit, 0.5, y));
    const darkest = Math.min(...around.filter((pixel) => !isRed(pixel)).map(([, , b]) => b));
    expect(darkest).toBeLessThan(Math.min(...rows.slice(0, 40).map(([, , b]) => b)) - 15);
  });
  it('says which file is not there any more', async () => {
    const panorama: Enclosure = { name: 'gone.hdr', bytes: { hash: 'f'.repeat(64), type: 'u8', length: 9 } };
    await expect(draw({ light: { ...scene.light, rig: 'own', panorama } })).rejects.toThrow(
      /"gone.hdr" that goes with this scene is not there any more. Choose it again/,
    );
  });
  it('refuses an empty file in words', async () => {
    const { status, answer } = await drawn.served.send(
      'POST',
      '/api/enclosures?name=x.hdr',
      new Uint8Array(0),
    );
    expect(status).toBe(422);
    expect(answer).toMatchObject({ reason: 'the file is empty', where: 'x.hdr' });
  });
});
