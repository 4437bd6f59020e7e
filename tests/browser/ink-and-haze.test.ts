import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { hexToRgb } from '#core/colour/cielab.ts';
import { fromLinear, toLinear } from '#core/model/srgb.ts';
import { lengthOf, subtract, type Vector } from '#core/model/vectors.ts';
import { cameraAxes, fitCamera } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { DrawnBalls, fromFront } from './drawn-balls.ts';

const SIZE = { width: 200, height: 200 };
/** Height of what is seen; a pixel is a hundredth of a unit. */
const HIGH = 2;
const PIXEL = HIGH / SIZE.height;
const BALL = '#3060a0';
/** As green as the ball: where both share a pixel its green tells of the ink alone. */
const BEHIND = '#d060d0';
const INK = '#ff0000';

const linear = (hex: string): number[] => hexToRgb(hex).map(toLinear);
/** A mixture of two colours in light, as levels of a screen. */
const mixed = (a: number[], b: number[], share: number): number[] =>
  a.map((v, k) => 255 * fromLinear(v + share * (b[k] - v)));

/** How much ink is on a picture, in pixels: by the green light it takes from what is equally green everywhere. */
function inked(plain: PNG, drawn: PNG): number {
  const light = (png: PNG, i: number): number => toLinear(png.data[i + 1] / 255);
  let sum = 0;
  for (let i = 0; i < plain.data.length; i += 4) sum += 1 - light(drawn, i) / light(plain, i);
  return sum;
}

const at = ({ data, width }: PNG, x: number, y: number): number[] => [
  ...data.subarray(4 * (y * width + x), 4 * (y * width + x) + 3),
];

describe('a body drawn with ink', () => {
  let balls: DrawnBalls;
  let cube: DrawnBalls;
  let scene: Scene;
  let boxed: Scene;

  const inEvenLight = (given: Scene, camera: Scene['camera']): Scene => ({
    ...given,
    camera,
    backdrop: { ...given.backdrop, kind: 'own', top: BEHIND, foot: BEHIND },
    layers: given.layers.map((l) => ({ ...l, colour: { kind: 'plain', colour: BALL } as const })),
  });
  beforeAll(async () => {
    // Two that go through one another, side by side as they are seen.
    balls = await DrawnBalls.of(['-0.3,0,0,1,20', '0.3,0,0,1,80']);
    scene = inEvenLight(balls.scene, fromFront(HIGH));
    cube = await balls.others({ 'cube.stl': Buffer.from(box('cube', [-0.3, 0.3])) });
    boxed = inEvenLight(cube.scene, fromFront(HIGH, [1, 1, 1]));
  });
  afterAll(() => balls.close());

  const draw = (of: DrawnBalls, document: Scene, more: Partial<Scene>, passes = 16): Promise<PNG> =>
    of.draw({ scene: { ...document, ...more }, passes, transparent: false, ...SIZE });
  const ink = (more: Partial<Scene['ink']>): Pick<Scene, 'ink'> => ({
    ink: { ...scene.ink, shown: true, unit: 'pixels', colour: INK, ...more },
  });

  it('has an outline as long as it is, as wide as was asked for', async () => {
    const plain = await draw(balls, scene, {});
    // Both circles, less the arcs within the other: those behind the plane between them.
    const angle = 2 * Math.acos(0.3 / 0.5);
    const outline = (2 * (2 * Math.PI - angle) * 0.5) / PIXEL;
    for (const width of [1, 3, 5]) {
      const drawn = await draw(balls, scene, ink({ width, creases: false, meetings: false }));
      expect(Math.abs(inked(plain, drawn) / (outline * width) - 1), `${width}`).toBeLessThan(0.12);
      // None within the balls.
      expect(at(drawn, 70, 100)).toEqual(at(plain, 70, 100));
    }
  });
  it('in points grows with the picture: half as wide in one of half the height', async () => {
    const share = async (size: { width: number; height: number }): Promise<number> => {
      const of = (more: Partial<Scene>): Promise<PNG> =>
        balls.draw({ scene: { ...scene, ...more }, passes: 16, transparent: false, ...size });
      const lines = ink({ width: 9, unit: 'points', creases: false, meetings: false });
      return inked(await of({}), await of(lines)) / (size.width * size.height);
    };
    const [whole, half] = [
      await share({ width: 240, height: 240 }),
      await share({ width: 120, height: 120 }),
    ];
    expect(Math.abs(half / whole - 1)).toBeLessThan(0.12);
  });
  it('has lines where it bends by more than was asked for', async () => {
    const plain = await draw(cube, boxed, {});
    // Three edges meet in the corner that is seen; each is seen at the square root of two thirds of its length.
    const edges = (3 * 0.6 * Math.sqrt(2 / 3)) / PIXEL;
    const lines = (more: Partial<Scene['ink']>) =>
      ink({ width: 2, outlines: false, meetings: false, ...more });
    const drawn = inked(plain, await draw(cube, boxed, lines({ angle: 80 })));
    expect(Math.abs(drawn / (2 * edges) - 1)).toBeLessThan(0.15);
    expect(inked(plain, await draw(cube, boxed, lines({ angle: 100 })))).toBeLessThan(2);
    // And six around it.
    const around = inked(plain, await draw(cube, boxed, ink({ width: 2, creases: false, meetings: false })));
    expect(Math.abs(around / (4 * edges) - 1)).toBeLessThan(0.15);
  });
  it('has lines where another touches it, though both face the same way', async () => {
    const halves = [box('left', [-0.3, 0]), box('right', [0, 0.3])].join('');
    const two = await balls.others({ 'halves.stl': Buffer.from(halves) });
    const document = inEvenLight(two.scene, fromFront(HIGH, [1, 1, 1]));
    const plain = await draw(two, document, {});
    const lines = (more: Partial<Scene['ink']>) =>
      ink({ width: 2, outlines: false, creases: false, ...more });
    // Over the top and down one side.
    const seam = (2 * 0.6 * Math.sqrt(2 / 3)) / PIXEL;
    const drawn = inked(plain, await draw(two, document, lines({})));
    expect(Math.abs(drawn / (2 * seam) - 1)).toBeLessThan(0.15);
    expect(inked(plain, await draw(two, document, lines({ meetings: false })))).toBeLessThan(2);
  });
  describe('seen through', () => {
    const OPACITY = 0.4;
    /** As a cube with an edge of 1 shows its edges from a corner, in pixels. */
    const shown = Math.sqrt(2 / 3) / PIXEL;
    const clear = (l: Scene['layers'][number]): Scene['layers'][number] => ({ ...l, opacity: OPACITY });

    it('has lines on every layer, those behind as far as they are seen', async () => {
      const document = { ...boxed, layers: boxed.layers.map(clear) };
      const plain = await draw(cube, document, {});
      const lines = ink({ width: 2, outlines: false, meetings: false, angle: 80 });
      for (const passes of [1, 16]) {
        const drawn = inked(plain, await draw(cube, document, lines, passes));
        // Three edges of the corner in front, and three of the one behind it.
        expect(Math.abs(drawn / (2 * 3 * 0.6 * shown * (2 - OPACITY)) - 1), `${passes}`).toBeLessThan(0.15);
      }
    });
    it('has none where only what is opaque ends it', async () => {
      const small = box('small', [0.5, 0.7], [0.5, 0.7]);
      const both = await balls.others({ 'both.stl': Buffer.from(box('large', [-0.3, 0.3]) + small) });
      const document = inEvenLight(both.scene, fromFront(HIGH, [1, 1, 1]));
      const [line] = document.layers;
      const of = (part: string, id: string): Scene['layers'][number] => ({ ...line, id, parts: [part] });
      const layers = [clear(of('large', 'clear')), of('small', 'opaque')];
      const plain = await draw(both, { ...document, layers }, {});
      const lines = ink({ width: 2, creases: false, meetings: false });
      const drawn = inked(plain, await draw(both, { ...document, layers }, lines));
      expect(Math.abs(drawn / (2 * 6 * (0.6 + 0.2) * shown) - 1)).toBeLessThan(0.12);
    });
  });
  it('is tinted the more, the flatter it is looked at', async () => {
    const tinted = await draw(balls, scene, { ink: { ...scene.ink, tint: 0.8, tintColour: '#ffffff' } });
    for (const [dx, dz] of [
      [0, 0],
      [-0.25, 0],
      [-0.35, 0.1],
      [-0.3, 0.3],
      [-0.2, -0.4],
    ]) {
      const facing = Math.sqrt(1 - (dx * dx + dz * dz) / 0.25);
      const expected = mixed(linear(BALL), linear('#ffffff'), 0.8 * (1 - facing) ** 3);
      const found = at(tinted, 100 + Math.round((-0.3 + dx) / PIXEL), 100 - Math.round(dz / PIXEL));
      for (const k of [0, 1, 2]) expect(Math.abs(found[k] - expected[k]), `${dx} ${dz}`).toBeLessThan(6);
    }
  });
});

describe('haze', () => {
  let balls: DrawnBalls;
  let scene: Scene;
  // One behind the other, beside one another as they are seen.
  const places: Vector[] = [
    [-0.6, -2, 0],
    [0, 0, 0],
    [0.6, 2, 0],
  ];

  beforeAll(async () => {
    balls = await DrawnBalls.of(places.map((p, i) => `${p.join()},0.4,${20 + 30 * i}`));
    const { backdrop } = balls.scene;
    scene = {
      ...balls.scene,
      backdrop: { ...backdrop, kind: 'own', top: BEHIND, foot: BEHIND },
      camera: fitCamera([-1, 1, -2, 2, -1, 1], [0, -1, 0], [0, 0, 1], 1, {
        projection: 'perspective',
        fieldOfView: 30,
      }),
    };
  });
  afterAll(() => balls.close());

  const plainLayers = (): Scene['layers'] =>
    scene.layers.map((l) => ({ ...l, colour: { kind: 'plain', colour: BALL } as const }));
  const draw = (more: Partial<Scene>): Promise<PNG> =>
    balls.draw({ scene: { ...scene, ...more }, passes: 2, transparent: false, ...SIZE });
  /** Where the nearest place of a ball is seen. */
  const seenAt = (png: PNG, place: Vector): number[] => {
    const { camera } = scene;
    const { right, up, back } = cameraAxes(camera);
    const d = subtract(place, camera.position);
    const along = -d.reduce((s, v, k) => s + v * back[k], 0);
    const half = along * Math.tan((camera.fieldOfView * Math.PI) / 360);
    const of = (axis: Vector): number => d.reduce((s, v, k) => s + v * axis[k], 0) / half;
    return at(png, Math.round(100 + 100 * of(right)), Math.round(100 - 100 * of(up)));
  };

  it('takes of what is seen as Beer and Lambert say, and puts the backdrop in its place', async () => {
    const haze = { amount: 0.9, from: 0.25, sparesValues: true };
    const png = await draw({ layers: plainLayers(), haze });
    // The ball around the model, and where in it the haze begins.
    const reach = lengthOf([1.6, 4.4, 0.4]) / 2;
    const { position } = scene.camera;
    const [nearest, farthest] = [-position[1] - reach, -position[1] + reach];
    const begins = nearest + 0.25 * (farthest - nearest);
    const rate = Math.log(0.1) / (farthest - begins);
    for (const place of places) {
      // Its front, a radius nearer.
      const left = Math.exp(rate * Math.max(0, place[1] - 0.2 - position[1] - begins));
      const expected = mixed(linear(BEHIND), linear(BALL), left);
      const found = seenAt(png, place);
      for (const k of [0, 1, 2]) expect(Math.abs(found[k] - expected[k]), `${place} ${k}`).toBeLessThan(4);
    }
  });
  it('leaves the colours of values as their legend tells, unless it is asked not to', async () => {
    const clear = await draw({});
    const spared = await draw({ haze: { amount: 0.9, from: 0, sparesValues: true } });
    const lost = await draw({ haze: { amount: 0.9, from: 0, sparesValues: false } });
    for (const place of places) expect(seenAt(spared, place)).toEqual(seenAt(clear, place));
    expect(seenAt(lost, places[2])).not.toEqual(seenAt(clear, places[2]));
  });
});

/** A box as deep and high as is said, 0.6 around the axis otherwise, as text. */
function box(name: string, across: [number, number], others: [number, number] = [-0.3, 0.3]): string {
  const ends = [across, others, others];
  const facets: string[] = [];
  for (const axis of [0, 1, 2])
    for (const side of [0, 1]) {
      const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
      const corner = (a: number, b: number): string => {
        const p = [0, 0, 0];
        p[axis] = ends[axis][side];
        p[u] = ends[u][a];
        p[v] = ends[v][b];
        return `vertex ${p.join(' ')}`;
      };
      const normal = [0, 1, 2].map((k) => (k === axis ? 2 * side - 1 : 0)).join(' ');
      const ring = [corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)];
      if (side === 0) ring.reverse();
      for (const [a, b, c] of [
        [0, 1, 2],
        [0, 2, 3],
      ])
        facets.push(
          `facet normal ${normal}\nouter loop\n${ring[a]}\n${ring[b]}\n${ring[c]}\nendloop\nendfacet\n`,
        );
    }
  return `solid ${name}\n${facets.join('')}endsolid ${name}\n`;
}
