import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { DotMark, LineMark, SphereMark, SurfaceMark } from '#core/model/mark.ts';
import { buildSurface } from '#core/model/mark-geometry.ts';
import type { Bounds, Mesh } from '#core/model/mesh.ts';
import { randomNumbers } from '#core/model/random-numbers.ts';
import type { Vector } from '#core/model/vectors.ts';
import { projectPoint, rayThrough, straight } from '#core/scene/camera.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Camera } from '#core/scene/document.ts';
import { partLook } from '#core/scene/things/part-look.ts';
import type { Frame } from '#engine/scene-source.ts';
import { ovenRun } from '../tests/sample-run.ts';
import { cellsWithin } from './cells-within.ts';
import { type Pickable, pick, pickablesOf } from './picking.ts';
import { buildTree } from './search-tree.ts';

/** A sheet of n x n squares in the plane z = height, from 0 to 1. */
function sheet(n: number, height: number): SurfaceMark {
  const points: number[] = [];
  for (let j = 0; j <= n; j++) for (let i = 0; i <= n; i++) points.push(i / n, j / n, height);
  const connectivity: number[] = [];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const a = j * (n + 1) + i;
      connectivity.push(a, a + 1, a + n + 2, a + n + 1);
    }
  const mesh: Mesh = {
    points: Float32Array.from(points),
    types: new Uint8Array(n * n).fill(9),
    offsets: Uint32Array.from({ length: n * n + 1 }, (_, c) => 4 * c),
    connectivity: Uint32Array.from(connectivity),
  };
  const { positions, normals, triangles, triangleCells, edges } = buildSurface(mesh, false);
  return { kind: 'surface', positions, normals, triangles, cells: triangleCells, edges, shades: null };
}

const above: Camera = {
  position: [0.5, 0.5, 3],
  target: [0.5, 0.5, 0],
  up: [0, 1, 0],
  projection: 'perspective',
  fieldOfView: 40,
  height: 2,
  ...straight,
};
const parallel: Camera = { ...above, projection: 'parallel' };
const moved: Camera = { ...above, roll: 35, shiftAcross: 15, shiftRise: -10 };

const shown = (
  marks: Pickable['marks'],
  values: Pickable['values'],
  more: Partial<Pickable> = {},
): Pickable => ({
  layer: 'l',
  part: 'tin',
  marks,
  values,
  inside: false,
  side: 'both',
  hides: null,
  ...more,
});
const at = (camera: Camera, place: Vector) => {
  const { x, y } = projectPoint(camera, place, 1.5);
  return { x, y, width: 900, height: 600 };
};

describe('pointing at the picture', () => {
  it('looks through what the colours hide', async () => {
    const near = shown([sheet(1, 1)], [new Float32Array([90, 90, 90, 90])], {
      layer: 'near',
      hides: (v) => v > 50,
    });
    const far = shown([sheet(1, 0)], [new Float32Array([10, 10, 10, 10])], { layer: 'far' });
    const place: Vector = [0.5, 0.5, 0];
    const found = (some: Pickable[]) => pick(some, above, [0, 0, 0], at(above, place), 1);
    expect(await found([near, far])).toMatchObject({ layer: 'far', value: 10 });
    expect(await found([near])).toBeNull();
    expect(await found([{ ...near, hides: (v) => v > 95 }, far])).toMatchObject({ layer: 'near', value: 90 });
  });
  it('a ray through a place of the picture runs through every point that is seen there', () => {
    const number = fc.double({ min: -3, max: 3, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(number, number, number), fc.boolean(), (place, flat) => {
        const camera = { ...(flat ? parallel : moved), position: [2, -4, 6] as Vector };
        const { x, y } = projectPoint(camera, place, 1.5);
        const { from, along } = rayThrough(camera, x, y, 1.5);
        const d = place.map((v, k) => v - from[k]);
        const way = d.reduce((s, v, k) => s + v * along[k], 0);
        for (let k = 0; k < 3; k++) expect(d[k] - way * along[k]).toBeCloseTo(0, 6);
      }),
    );
  });

  it('finds place, cell and value on a surface, also relative to an origin far away', async () => {
    const n = 8;
    const mark = sheet(n, 0);
    // The value is a plane over the sheet, so it is exact everywhere.
    const values = Float32Array.from({ length: mark.positions.length / 3 }, (_, v) => {
      const [x, y] = mark.positions.subarray(3 * v, 3 * v + 2);
      return 20 + 3 * x + 5 * y;
    });
    const origin: Vector = [4000, -7000, 100];
    const there = { position: [4000.5, -6999.5, 103], target: [4000.5, -6999.5, 100] } as const;
    const places = [
      [0.3, 0.7, 0],
      [0.95, 0.05, 0],
      [0.51, 0.49, 0],
    ] as Vector[];
    const views = places.flatMap((place) => [above, moved].map((view) => ({ place, view })));
    for (const { place, view } of views) {
      const camera = { ...view, ...there } as Camera;
      const found = await pick(
        [shown([mark], [values])],
        camera,
        origin,
        at(camera, [place[0] + origin[0], place[1] + origin[1], origin[2]]),
        1,
      );
      expect(found).toMatchObject({ layer: 'l', part: 'tin' });
      for (let k = 0; k < 3; k++) expect(found!.place[k] - origin[k]).toBeCloseTo(place[k], 4);
      expect(found!.value).toBeCloseTo(20 + 3 * place[0] + 5 * place[1], 3);
      expect(found!.cell).toBe(Math.floor(place[1] * n) * n + Math.floor(place[0] * n));
      expect(found!.normal[2]).toBeCloseTo(1, 6);
    }
  });

  it('takes the nearest; from behind the normal still looks at the viewer; beside everything there is nothing', async () => {
    const stack = [
      shown([sheet(2, 0)], [null], { part: 'low' }),
      shown([sheet(2, 1)], [null], { part: 'high' }),
    ];
    const middle = at(above, [0.4, 0.4, 1]);
    expect(await pick(stack, above, [0, 0, 0], middle, 1)).toMatchObject({ part: 'high', value: null });
    const below: Camera = { ...above, position: [0.5, 0.5, -3] };
    const seen = await pick(stack, below, [0, 0, 0], at(below, [0.4, 0.4, 0]), 1);
    expect(seen!.part).toBe('low');
    expect(seen!.normal[2]).toBeCloseTo(-1, 6);
    expect(await pick(stack, above, [0, 0, 0], { ...middle, x: 0.01, y: 0.01 }, 1)).toBeNull();
  });

  it('of a body seen from its inside only, looks through what turns its front to the camera', async () => {
    const inside = { inside: true };
    const stack = [shown([sheet(2, 0)], [null], inside)];
    expect(await pick(stack, above, [0, 0, 0], at(above, [0.4, 0.4, 0]), 1)).toBeNull();
    const below: Camera = { ...above, position: [0.5, 0.5, -3] };
    expect(await pick(stack, below, [0, 0, 0], at(below, [0.4, 0.4, 0]), 1)).not.toBeNull();
  });

  it.each([
    ['perspective', above],
    ['parallel', parallel],
  ])('finds lines and dots within a few pixels, on top of what they lie on, in %s', async (_, camera) => {
    const line: LineMark = {
      kind: 'line',
      positions: Float32Array.from([0, 0.5, 0, 1, 0.5, 0]),
      segments: Uint32Array.from([0, 1]),
    };
    const dots: DotMark = {
      kind: 'dot',
      positions: Float32Array.from([0.25, 0.75, 0]),
      dots: Uint32Array.from([0]),
    };
    const all = [
      shown([sheet(4, 0)], [null], { part: 'sheet' }),
      shown([line], [Float32Array.from([10, 20])], { part: 'line' }),
      shown([dots], [Float32Array.from([7])], { part: 'dot' }),
    ];
    const look = (place: Vector, x = 0, y = 0) => {
      const p = at(camera, place);
      return pick(all, camera, [0, 0, 0], { ...p, x: p.x + x / p.width, y: p.y + y / p.height }, 1);
    };
    const onLine = await look([0.3, 0.5, 0], 0, 2);
    expect(onLine).toMatchObject({ part: 'line', cell: null });
    expect(onLine!.value).toBeCloseTo(13, 1);
    expect((await look([0.3, 0.5, 0], 0, 8))!.part).toBe('sheet');
    expect(await look([0.25, 0.75, 0], 2)).toMatchObject({ part: 'dot', value: 7 });
    expect((await look([0.25, 0.75, 0], 7))!.part).toBe('sheet');
  });

  it('of a hundred thousand spheres of all sizes finds the one that a line of sight meets first', async () => {
    const n = 100_000;
    const number = randomNumbers(7);
    const positions = Float32Array.from({ length: 3 * n }, number);
    // A few have no size at all.
    const radii = Float32Array.from({ length: n }, (_, i) => (i % 50 === 0 ? 0 : 0.001 + 0.006 * number()));
    const spheres = Uint32Array.from({ length: n }, (_, i) => i);
    const mark: SphereMark = { kind: 'sphere', positions, spheres, radius: 0.007, radii, onPicture: false };
    const values = Float32Array.from({ length: n }, (_, i) => i);
    let met = 0;
    for (let k = 0; k < 40; k++) {
      const place: Vector = [number(), number(), number()];
      const seen = at(above, place);
      const { from, along } = rayThrough(above, seen.x, seen.y, 1.5);
      // |from + t along - centre| = r as a quadratic equation, for each of them.
      let [first, depth] = [-1, Infinity];
      for (let i = 0; i < n; i++) {
        const to = [0, 1, 2].map((j) => from[j] - positions[3 * i + j]);
        const b = 2 * (to[0] * along[0] + to[1] * along[1] + to[2] * along[2]);
        const c = to[0] ** 2 + to[1] ** 2 + to[2] ** 2 - radii[i] ** 2;
        const root = b * b - 4 * c;
        if (radii[i] === 0 || root < 0) continue;
        const t = (-b - Math.sqrt(root)) / 2;
        if (t > 0 && t < depth) [first, depth] = [i, t];
      }
      const found = await pick([shown([mark], [values])], above, [0, 0, 0], seen, 1);
      if (first < 0) {
        expect(found).toBeNull();
        continue;
      }
      met++;
      expect(found!.value).toBe(first);
      for (let j = 0; j < 3; j++) {
        const there = from[j] + depth * along[j];
        expect(found!.place[j]).toBeCloseTo(there, 4);
        expect(found!.normal[j]).toBeCloseTo((there - positions[3 * first + j]) / radii[first], 2);
      }
    }
    expect(met).toBeGreaterThan(20);
  });

  it.each([
    ['in perspective', above],
    ['in parallel projection', parallel],
  ])('of a sphere of a size on the picture takes what is within its circle there, %s', async (_, camera) => {
    const mark: SphereMark = {
      kind: 'sphere',
      positions: Float32Array.of(0.5, 0.5, 1.2),
      spheres: Uint32Array.of(0),
      radius: 0.05,
      radii: null,
      onPicture: true,
    };
    const middle = at(camera, [0.5, 0.5, 1.2]);
    const look = (share: number) =>
      pick([shown([mark], [null])], camera, [0, 0, 0], { ...middle, y: middle.y + share }, 1);
    // Seen in perspective, a sphere is a little larger than its cut through the middle.
    expect(await look(0.049)).not.toBeNull();
    expect(await look(0.0505)).toBeNull();
    expect(await look(-0.049)).not.toBeNull();
  });

  it('what is not a number is no value', async () => {
    const mark = sheet(1, 0);
    const values = new Float32Array(4).fill(Number.NaN);
    const found = await pick([shown([mark], [values])], above, [0, 0, 0], at(above, [0.4, 0.4, 0]), 1);
    expect(found!.value).toBeNull();
  });

  it('a tree keeps the triangles where they are', () => {
    const mark = sheet(30, 0);
    const before = mark.triangles.slice();
    buildTree(mark);
    expect(mark.triangles).toEqual(before);
  });
});

describe('a rectangle on the picture', () => {
  it('holds the cells whose middle lies in it, and none that look away', () => {
    const n = 10;
    const mark = sheet(n, 0);
    const wanted: number[] = [];
    for (let j = 3; j < 7; j++) for (let i = 2; i < 6; i++) wanted.push(j * n + i);
    for (const camera of [above, { ...above, shiftAcross: 15, shiftRise: -10 }]) {
      const corner = (x: number, y: number) => projectPoint(camera, [x, y, 0], 1.5);
      const [low, high] = [corner(0.2, 0.3), corner(0.6, 0.7)];
      const rectangle = { left: low.x, right: high.x, top: high.y, bottom: low.y };
      const found = cellsWithin(rectangle, [{ part: 'tin', marks: [mark] }], camera, 1.5, [0, 0, 0]);
      expect(found).toEqual({ tin: wanted });
    }
    const below: Camera = { ...above, position: [0.5, 0.5, -3] };
    const all = { left: 0, right: 1, top: 0, bottom: 1 };
    expect(cellsWithin(all, [{ part: 'tin', marks: [mark] }], below, 1.5, [0, 0, 0])).toEqual({});
  });
});

describe('what can be pointed at', () => {
  it('is what the scene shows; a part in a colour of its own has no values', async () => {
    const run = await ovenRun();
    const scene = defaultScene(run);
    const [layer] = scene.layers;
    const mark = sheet(1, 0);
    const values = [new Float32Array(4)];
    const shape = { marks: [mark], bounds: [0, 1, 0, 1, 0, 0] as Bounds, report: {} };
    const part = {
      layer: layer.id,
      part: 'oven',
      key: 'k',
      shape,
      values,
      edgeValues: [],
      spread: null,
      picture: null,
    };
    const frame: Frame = {
      run,
      step: 0,
      parts: [part, { ...part, layer: 'gone' }],
      bounds: shape.bounds,
      news: {},
      attached: {},
      readings: {},
      curves: {},
    };
    expect(pickablesOf(frame, scene)).toMatchObject([
      { layer: layer.id, part: 'oven', values, inside: false },
    ]);
    const own = {
      ...scene,
      parts: { oven: { ...partLook.plain, colour: '#b4733f' } },
    };
    expect(pickablesOf(frame, own)[0].values).toEqual([null]);
    for (const change of [{ visible: false }, { opacity: 0 }])
      expect(pickablesOf(frame, { ...scene, layers: [{ ...layer, ...change }] })).toEqual([]);
    expect(pickablesOf(frame, { ...scene, layers: [{ ...layer, sides: 'inside' }] })[0].inside).toBe(true);
  });
});
