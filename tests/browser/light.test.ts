import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RawMesh } from '#core/formats/format.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Vector } from '#core/model/vectors.ts';
import { fitCamera, projectPoint } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { RenderPage, rootMeanSquare } from './render-page.ts';
import { Site } from './site.ts';

const SIZE = { width: 420, height: 300 };

/** Boxes, each of one hexahedron: from x, y, z to x, y, z. */
function boxes(...all: [number, number, number, number, number, number][]): RawMesh {
  const points = all.flatMap(([x0, y0, z0, x1, y1, z1]) =>
    [z0, z1].flatMap((z) => [x0, y0, z, x1, y0, z, x1, y1, z, x0, y1, z]),
  );
  const count = 8 * all.length;
  return {
    points: Float64Array.from(points),
    types: new Uint8Array(all.length).fill(12),
    offsets: Uint32Array.from({ length: all.length + 1 }, (_, i) => 8 * i),
    connectivity: Uint32Array.from({ length: count }, (_, i) => i),
  };
}

describe('a loaf on a tray, drawn with few passes', () => {
  const site = new Site();
  let drawing: RenderPage;
  let run = '';
  let scene: Scene;
  const drawn = new Map<number, PNG>();

  beforeAll(async () => {
    await site.start();
    const mesh = boxes([-2, -2, -0.1, 2, 2, 0], [-0.5, -0.3, 0.02, 0.5, 0.3, 1.2]);
    const made = await site.imported({ 'loaf.vtu': Buffer.from(writeVtu(mesh, [], null, {})) });
    run = made.run;
    scene = (await site.get<{ document: Scene }>(`/api/scenes/${made.scene}`)).document;
    const { projection, fieldOfView } = scene.camera;
    scene.camera = fitCamera([-2, 2, -2, 2, -0.1, 1.2], [0.3, -1, 0.7], [0, 0, 1], SIZE.width / SIZE.height, {
      projection,
      fieldOfView,
    });
    drawing = await RenderPage.open(await site.page(), site.address);
    for (const passes of [20, 48, 200])
      drawn.set(passes, await drawing.draw({ run, scene, passes, ...SIZE }));
  });
  afterAll(() => site.stop());

  /** Levels of a few rows of pixels around a place on the tray. */
  function patch(png: PNG, place: Vector): number[][] {
    const { x, y } = projectPoint(scene.camera, place, SIZE.width / SIZE.height);
    const [px, py] = [Math.round(x * SIZE.width), Math.round(y * SIZE.height)];
    return Array.from({ length: 15 }, (_, r) =>
      Array.from({ length: 15 }, (_, c) => png.data[4 * ((py + r - 7) * png.width + px + c - 7) + 1]),
    );
  }
  const mean = (all: number[]): number => all.reduce((a, b) => a + b, 0) / all.length;
  const deviation = (all: number[]): number => Math.sqrt(mean(all.map((v) => (v - mean(all)) ** 2)));
  /** What is left of a patch when its slow change is taken away: the mean of three by three pixels around each. */
  const grain = (rows: number[][]): number => {
    const rest: number[] = [];
    for (let r = 1; r < 14; r++)
      for (let c = 1; c < 14; c++)
        rest.push(rows[r][c] - mean([-1, 0, 1].flatMap((k) => rows[r + k].slice(c - 1, c + 2))));
    return deviation(rest);
  };

  it('has an even patch where the light is free, and no grain in the shadow', () => {
    const free = patch(drawn.get(20)!, [-1.5, -1.5, 0]).flat();
    expect(deviation(free)).toBeLessThan(1);
    const dark = [0.05, 0.2].map((y) => patch(drawn.get(20)!, [0.66, y, 0]));
    // It is a shadow indeed.
    for (const rows of dark) expect(mean(rows.flat())).toBeLessThan(mean(free) - 10);
    for (const rows of dark) expect(grain(rows)).toBeLessThan(0.6);
  });
  it('is within 2 levels of many passes after 20, and within 1 after 48', () => {
    const goal = drawn.get(200)!;
    expect(rootMeanSquare(drawn.get(20)!, goal)).toBeLessThan(2);
    expect(rootMeanSquare(drawn.get(48)!, goal)).toBeLessThan(1);
    // They do differ: the picture is drawn anew each time.
    expect(rootMeanSquare(drawn.get(20)!, goal)).toBeGreaterThan(0.02);
  });
  it('without a backdrop keeps its shadow as darkness of its own', async () => {
    const bare = await drawing.draw({ run, scene, passes: 20, transparent: true, ...SIZE });
    let covered = 0;
    for (let i = 0; i < bare.data.length; i += 4) {
      const alpha = bare.data[i + 3];
      if (alpha > 0 && alpha < 250 && Math.max(...bare.data.subarray(i, i + 3)) > 8) covered++;
    }
    // Only the outline mixes colour and clearness.
    expect(covered / (bare.data.length / 4)).toBeLessThan(0.03);
  });
});
