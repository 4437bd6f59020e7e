import { afterAll, beforeAll, expect, it } from 'vitest';
import { finishById } from '#core/light/finishes/registry.ts';
import { ownLike } from '#core/light/own-finish.ts';
import { toLinear } from '#core/model/srgb.ts';
import { add, type Vector } from '#core/model/vectors.ts';
import type { Scene } from '#core/scene/document.ts';
import { lightRigById } from '#core/scene/light-rigs/registry.ts';
import { DrawnBalls, fromFront } from './drawn-balls.ts';
import { difference, lightOn } from './path-traced/difference.ts';
import { skyPicture, Tracer } from './path-traced/tracer.ts';

const SIZE = { width: 72, height: 72 };
/** A box from its middle, its size and its turn about the upright axis, in degrees. */
interface Box {
  name: string;
  middle: Vector;
  size: Vector;
  turn: number;
  colour: string;
}

const WHITE = '#d8d4cc';
/** A room that is open towards whoever looks, with a low and a tall box in it (as Goral, Torrance, Greenberg and Battaile, 1984). */
const room: Box[] = [
  { name: 'floor', middle: [0, 0, -0.05], size: [2.2, 2, 0.1], turn: 0, colour: WHITE },
  { name: 'ceiling', middle: [0, 0, 2.05], size: [2.2, 2, 0.1], turn: 0, colour: WHITE },
  { name: 'back', middle: [0, 1.05, 1], size: [2.2, 0.1, 2.2], turn: 0, colour: WHITE },
  { name: 'left', middle: [-1.05, 0, 1], size: [0.1, 2, 2], turn: 0, colour: '#b8443a' },
  { name: 'right', middle: [1.05, 0, 1], size: [0.1, 2, 2], turn: 0, colour: '#4f9a4a' },
  { name: 'low', middle: [0.35, -0.35, 0.3], size: [0.6, 0.6, 0.6], turn: -17, colour: WHITE },
  { name: 'tall', middle: [-0.35, 0.3, 0.6], size: [0.6, 0.6, 1.2], turn: 18, colour: WHITE },
];

/** Corners of a box, those below first. */
function corners({ middle, size, turn }: Box): Vector[] {
  const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  return [-0.5, 0.5].flatMap((w) =>
    [
      [-0.5, -0.5],
      [0.5, -0.5],
      [0.5, 0.5],
      [-0.5, 0.5],
    ].map(([u, v]): Vector => {
      const [x, y] = [u * size[0], v * size[1]];
      return [middle[0] + c * x - s * y, middle[1] + s * x + c * y, middle[2] + w * size[2]];
    }),
  );
}
const FACES = [
  [0, 3, 2, 1],
  [4, 5, 6, 7],
  [0, 1, 5, 4],
  [1, 2, 6, 5],
  [2, 3, 7, 6],
  [3, 0, 4, 7],
];

function asObj(boxes: readonly Box[]): string {
  return boxes
    .flatMap((box, n) => [
      `o ${box.name}`,
      ...corners(box).map((p) => `v ${p.join(' ')}`),
      ...FACES.map((f) => `f ${f.map((k) => 8 * n + k + 1).join(' ')}`),
    ])
    .join('\n');
}

const lightOf = (hex: string): Vector =>
  [1, 3, 5].map((at) => toLinear(Number.parseInt(hex.slice(at, at + 2), 16) / 255)) as Vector;

const MIDDLE: Vector = [0, 0, 1];
const ahead = fromFront(2.3, [0.05, -1, 0.04]);
const camera = { ...ahead, position: add(ahead.position, MIDDLE), target: MIDDLE };

let balls: DrawnBalls;
let drawn: DrawnBalls;
let tracer: Tracer;
beforeAll(async () => {
  balls = await DrawnBalls.of(['0,0,0,1,20']);
  drawn = await balls.others({ 'room.obj': Buffer.from(asObj(room)) });
  tracer = await Tracer.open(await balls.browser.newPage());
});
afterAll(() => balls.close());

/** The same room under a light rig, as we draw it: light on the screen, linear. */
async function ours(rig: string, fill: number): Promise<number[]> {
  const finish = ownLike(
    { ...finishById('matte-paint')!, roughness: 1, texture: 'none', uneven: 0, sheen: 0 },
    'flat',
  );
  const base = drawn.scene.layers[0];
  const scene: Scene = {
    ...drawn.scene,
    camera,
    parts: {},
    light: { ...drawn.scene.light, rig, fill, contact: 1 },
    layers: room.map(({ name, colour }) => ({
      ...base,
      id: name,
      parts: [name],
      finish,
      colour: { kind: 'plain', colour },
      edges: { ...base.edges, shown: false },
    })),
  };
  return lightOn(await drawn.draw({ scene, passes: 128, transparent: true, ...SIZE }));
}

/** As the path tracer finds it: light as it is. */
function theirs(
  sky: (d: Vector) => readonly [number, number, number],
  bounces: number,
  samples: number,
): Promise<number[]> {
  return tracer.trace({
    bodies: room.map((box) => ({
      positions: FACES.flatMap(([a, b, c, d]) => [a, b, c, a, c, d].flatMap((k) => corners(box)[k])),
      colour: lightOf(box.colour),
      roughness: 1,
    })),
    glb: null,
    camera: {
      position: camera.position,
      target: MIDDLE,
      up: camera.up,
      height: camera.height,
      fieldOfView: null,
      near: 0.1,
      far: 50,
    },
    sky: skyPicture(sky),
    ...SIZE,
    samples,
    bounces,
  });
}

/** White in this sky; all light is told in shares of the brightest that a screen shows. */
const SKY = 0.5;

it('light of an even sky falls into a room as a path tracer finds it', async () => {
  const mine = await ours('tent', SKY);
  const once = difference(SIZE, mine, await theirs(() => [SKY, SKY, SKY], 2, 100));
  expect(once.count).toBeGreaterThan(250);
  expect(once.rootMeanSquare, JSON.stringify(once)).toBeLessThan(0.03 * SKY);
  expect(once.most, JSON.stringify(once)).toBeLessThan(0.07 * SKY);
  // Light that comes by way of other bodies is left out: so much darker is the room, and nowhere much brighter.
  const often = difference(SIZE, mine, await theirs(() => [SKY, SKY, SKY], 8, 60));
  expect(often.mean, JSON.stringify(often)).toBeGreaterThan(-0.04 * SKY);
  expect(often.mean, JSON.stringify(often)).toBeLessThan(-0.01 * SKY);
});

it('and so does that of a grey day, which is brighter above', async () => {
  const { surroundings } = lightRigById('overcast');
  const mine = await ours('overcast', SKY);
  const traced = await theirs((d) => surroundings!(d, [0, 0, 1]), 2, 100);
  // How bright a picture is, is the rig's to say: the one that fits best is looked for.
  const tried = Array.from({ length: 41 }, (_, i) =>
    difference(SIZE, mine, traced, { brighter: 0.3 * 1.03 ** i }),
  );
  const best = tried.reduce((a, b) => (b.rootMeanSquare < a.rootMeanSquare ? b : a));
  expect(best.rootMeanSquare, JSON.stringify(best)).toBeLessThan(0.03 * SKY);
  expect(best.most, JSON.stringify(best)).toBeLessThan(0.07 * SKY);
});
