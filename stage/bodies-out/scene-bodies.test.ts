import { type Document, type Node, WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { decode } from 'fast-png';
import { unzipSync } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { MeshoptDecoder } from 'meshoptimizer/decoder';
import { USDAParser } from 'three/examples/jsm/loaders/usd/USDAParser.js';
import { beforeAll, describe, expect, it } from 'vitest';
import { CompiledScale } from '#core/colour/compiled-scale.ts';
import { writeSceneGlb } from '#core/formats/surfaces/write-scene-glb.ts';
import { writeSceneUsdz } from '#core/formats/surfaces/write-scene-usdz.ts';
import { boundsOf } from '#core/model/mesh.ts';
import type { RunDescription } from '#core/model/run.ts';
import { fromLinear, toLinear } from '#core/model/srgb.ts';
import { cross, dot, subtract, type Vector } from '#core/model/vectors.ts';
import { projectPoint } from '#core/scene/camera.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Piece, Scene } from '#core/scene/document.ts';
import { sceneryKind } from '#core/scene/scenery/registry.ts';
import { settingOf } from '#core/scene/setting.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { ArraySource } from '#engine/array-source.ts';
import { GeometryMaker } from '#engine/geometry-maker.ts';
import { SceneSource } from '#engine/scene-source.ts';
import { importSteps, ovenSteps } from '../../tests/sample-run.ts';
import { colourPicture } from './colour-picture.ts';
import { copiedSpheres } from './copied-bodies.ts';
import { SceneBodies } from './scene-bodies.ts';

const ASPECT = 1.5;

let run: RunDescription;
let source: SceneSource;
let scene: Scene;
beforeAll(async () => {
  const { run: read, store } = await importSteps(ovenSteps());
  run = { ...read, lengthUnit: 'mm' };
  const maker = new GeometryMaker(new ArraySource(store.load));
  source = new SceneSource(run, (request) => maker.make(request));
  scene = defaultScene(run);
});

const noPictures = () => Promise.reject(new Error('there is none'));

async function written(given: Scene, steps: number[], { exact = true, packed = false } = {}) {
  const bodies = new SceneBodies(given, { exact, aspect: ASPECT, pace: 0.5, pack: noPictures });
  for (const step of steps)
    await bodies.add(await source.frame(given, step, 'export'), `step ${step}`, steps.length > 1);
  const bytes = await writeSceneGlb(bodies.finish(), packed);
  await MeshoptDecoder.ready;
  const io = new WebIO()
    .registerExtensions(ALL_EXTENSIONS)
    .registerDependencies({ 'meshopt.decoder': MeshoptDecoder });
  return { bytes, document: await io.readBinary(bytes), notes: bodies.notes };
}

/** What the validator of Khronos says, as codes with their severities. */
async function findings(bytes: Uint8Array): Promise<string[]> {
  const { issues } = await validateBytes(bytes);
  return issues.messages.filter((m) => m.severity < 2).map((m) => `${m.code} ${m.pointer}`);
}

const seen = (document: Document): Node[] =>
  document
    .getRoot()
    .listNodes()
    .filter((n) => n.getMesh());

/** A place of the run in the coordinates of glTF: millimetres as metres, +z as +y. */
const inGltf = ([x, y, z]: Vector): Vector =>
  [x - run.origin[0], z - run.origin[2], -(y - run.origin[1])].map((v) => v / 1000) as Vector;

describe('a scene as GLB', () => {
  it('passes the validator of Khronos, in exact colours and in the light, standing and over steps', async () => {
    for (const exact of [true, false])
      for (const steps of [[0], [0, 1, 2]]) {
        const { bytes } = await written(scene, steps, { exact });
        expect(await findings(bytes), `${exact} ${steps}`).toEqual([]);
      }
  });
  it('stands in metres with +y up', async () => {
    const { document } = await written(scene, [0]);
    const frame = await source.frame(scene, 0, 'export');
    for (const node of seen(document)) {
      const position = node.getMesh()!.listPrimitives()[0].getAttribute('POSITION')!;
      const m = node.getWorldMatrix();
      const world: number[] = [];
      const p: number[] = [];
      for (let i = 0; i < position.getCount(); i++) {
        position.getElement(i, p);
        for (let k = 0; k < 3; k++) world.push(m[k] * p[0] + m[4 + k] * p[1] + m[8 + k] * p[2] + m[12 + k]);
      }
      const part = frame.parts.find((f) => f.part === node.getName())!;
      const mark = part.shape.marks[0];
      if (!('positions' in mark)) throw new Error('no positions');
      const given = Array.from({ length: mark.positions.length / 3 }, (_, i) =>
        inGltf([0, 1, 2].map((k) => mark.positions[3 * i + k] + run.origin[k]) as Vector),
      ).flat();
      expect(boundsOf(world)).toEqual(boundsOf(given).map((v) => expect.closeTo(v, 6)));
    }
  });
  it('has at every corner the colour of its value: the picture there is what the scale says', async () => {
    const { document } = await written(scene, [1]);
    const frame = await source.frame(scene, 1, 'export');
    const scale = settleScale(scene.scales[0], frame.run, 1);
    const [material] = document
      .getRoot()
      .listMaterials()
      .filter((m) => m.getName() === 'values');
    const { data, width } = decode(material.getBaseColorTexture()!.getImage()!);
    let checked = 0;
    for (const node of seen(document)) {
      const [primitive] = node.getMesh()!.listPrimitives();
      if (primitive.getMaterial() !== material) continue;
      const values = frame.parts.find((f) => f.part === node.getName())!.values[0]!;
      const places = primitive.getAttribute('TEXCOORD_0')!;
      for (let v = 0; v < values.length; v += 7) {
        const across = places.getElement(v, [])[0] * width - 0.5;
        const i = Math.floor(across);
        // Mixed in linear light, as the standard has it for pictures of colour.
        const found = [0, 1, 2].map((k) => {
          const [a, b] = [i, i + 1].map((at) => toLinear(data[4 * at + k] / 255));
          return fromLinear(a + (across - i) * (b - a));
        });
        const wanted = scale.colour(values[v]);
        for (let k = 0; k < 3; k++) expect(Math.abs(found[k] - wanted[k])).toBeLessThan(1 / 255);
        checked++;
      }
    }
    expect(checked).toBeGreaterThan(10);
  });
  it('is unlit where colours are exact, else lit by the lights of the rig', async () => {
    const lit = { ...scene, light: { ...scene.light, rig: 'product' } };
    const exact = (await written(lit, [0])).document;
    expect(
      exact
        .getRoot()
        .listMaterials()
        .find((m) => m.getName() === 'values')!
        .getExtension('KHR_materials_unlit'),
    ).not.toBeNull();
    const inLight = (await written(lit, [0], { exact: false })).document;
    expect(
      inLight
        .getRoot()
        .listMaterials()
        .find((m) => m.getName() === 'values')!
        .getExtension('KHR_materials_unlit'),
    ).toBeNull();
    const lights = inLight
      .getRoot()
      .listNodes()
      .filter((n) => n.getExtension('KHR_lights_punctual'));
    expect(lights.length).toBeGreaterThan(0);
    // They shine downwards: -z of their node.
    for (const node of lights) expect(-node.getWorldMatrix()[9]).toBeLessThan(0);
  });
  it('shows through its camera what the stage shows', async () => {
    const { document } = await written(scene, [0]);
    const node = document
      .getRoot()
      .listNodes()
      .find((n) => n.getCamera())!;
    const m = node.getWorldMatrix();
    const half = Math.tan(node.getCamera()!.getYFov() / 2);
    for (const place of [
      [0, 0, 0],
      [100, 20, 30],
      [-50, 200, 10],
    ] as Vector[]) {
      const world = inGltf(place);
      const d = world.map((v, k) => v - m[12 + k]);
      const [x, y, z] = [0, 1, 2].map((c) => d[0] * m[4 * c] + d[1] * m[4 * c + 1] + d[2] * m[4 * c + 2]);
      const at = projectPoint(scene.camera, place, ASPECT);
      expect(0.5 + x / -z / half / ASPECT / 2).toBeCloseTo(at.x, 5);
      expect(0.5 - y / -z / half / 2).toBeCloseTo(at.y, 5);
    }
  });
  it('shows its steps one after the other, and shares what does not change', async () => {
    const one = await written(scene, [0]);
    const { document, bytes } = await written(scene, [0, 1, 2]);
    const [animation] = document.getRoot().listAnimations();
    const channels = animation.listChannels();
    expect(channels).toHaveLength(3);
    const shown = channels.map((c) => c.getSampler()!.getOutput()!.getArray()!);
    for (let t = 0; t < 3; t++)
      expect(shown.map((s) => s[3 * t])).toEqual([0, 1, 2].map((n) => (n === t ? 1 : 0)));
    expect(Array.from(channels[0].getSampler()!.getInput()!.getArray()!)).toEqual([0, 0.5, 1, 1.5]);
    const places = (d: Document): number =>
      new Set(seen(d).map((n) => n.getMesh()!.listPrimitives()[0].getAttribute('POSITION'))).size;
    expect(places(document)).toBe(places(one.document));
    expect(bytes.length).toBeLessThan(2 * one.bytes.length);
  });
  it('packed is smaller and holds the same triangles', async () => {
    const fine = { ...scene, scenery: [piece('person')] };
    const plain = await written(fine, [0]);
    const packed = await written(fine, [0], { packed: true });
    expect(packed.bytes.length).toBeLessThan(0.6 * plain.bytes.length);
    const count = (d: Document): number =>
      seen(d).reduce((sum, n) => sum + n.getMesh()!.listPrimitives()[0].getIndices()!.getCount(), 0);
    expect(count(packed.document)).toBe(count(plain.document));
    expect(await findings(packed.bytes)).toEqual([]);
  });
  it('has scenery once, whatever the steps, in its finish', async () => {
    const { document } = await written({ ...scene, scenery: [piece('table')] }, [0, 1]);
    const own = seen(document).filter((n) => n.getName().startsWith('scenery'));
    expect(own.map((n) => n.getMesh()!.listPrimitives()[0].getMaterial()!.getName())).toEqual([
      'oiled oak',
      'powder coat',
    ]);
  });
  it('is seen from inside only where its line is', async () => {
    const inside = { ...scene, layers: scene.layers.map((l) => ({ ...l, sides: 'inside' as const })) };
    const { document } = await written(inside, [0]);
    const frame = await source.frame(scene, 0, 'export');
    const [primitive] = seen(document)[0].getMesh()!.listPrimitives();
    expect(primitive.getMaterial()!.getDoubleSided()).toBe(false);
    // Turned the other way: the triangles look to the middle of the body, as their normals do.
    const { positions, normals } = frame.parts[0].shape.marks[0] as {
      positions: Float32Array;
      normals: Float32Array;
    };
    const corners = primitive.getIndices()!.getArray()!;
    const given = primitive.getAttribute('NORMAL')!.getArray()!;
    for (const [i, v] of normals.entries()) expect(given[i]).toBeCloseTo(-v, 6);
    for (let t = 0; t < corners.length; t += 30) {
      const [a, b, c] = [0, 1, 2].map(
        (k) => [...positions.subarray(3 * corners[t + k], 3 * corners[t + k] + 3)] as Vector,
      );
      const face = cross(subtract(b, a), subtract(c, a));
      expect(dot(face, [...given.slice(3 * corners[t], 3 * corners[t] + 3)] as Vector)).toBeGreaterThan(0);
    }
  });
  it('leaves out what a scale hides, and shows apart what has no value', async () => {
    const frame = await source.frame(scene, 0, 'export');
    const values = frame.parts[0].values[0]!;
    const middle = [...values].sort((a, b) => a - b)[values.length >> 1];
    const hiding: Scene = { ...scene, scales: scene.scales.map((s) => ({ ...s, shownFrom: middle })) };
    const triangles = (d: Document): number =>
      seen(d).reduce((sum, n) => sum + n.getMesh()!.listPrimitives()[0].getIndices()!.getCount(), 0);
    const [all, some] = [await written(scene, [0]), await written(hiding, [0])];
    expect(triangles(some.document)).toBeLessThan(triangles(all.document));
    expect(some.notes.join()).toMatch(/what a scale hides/);
    expect(all.notes).toEqual([]);
    const tiled = { ...scene, floor: { ...scene.floor, kind: 'tiles' as const } };
    expect((await written(tiled, [0])).notes).toEqual(['the floor']);
    const [first, ...others] = scene.layers;
    const wiped = { ...scene, layers: [{ ...first, wipe: 'before' as const }, ...others] };
    expect((await written(wiped, [0])).notes).toContain(
      'the wipe: what lies before and behind it is there together',
    );
  });
});

const piece = (kind: Piece['kind']): Piece =>
  ({ ...sceneryKind(kind).defaults(settingOf(run, scene), scene), id: kind, kind, visible: true }) as Piece;

describe('a scene as USDZ', () => {
  const made = async (given: Scene, steps: number[]): Promise<Uint8Array> => {
    const bodies = new SceneBodies(given, { exact: true, aspect: ASPECT, pace: 0.5, pack: noPictures });
    for (const step of steps)
      await bodies.add(await source.frame(given, step, 'export'), `step ${step}`, steps.length > 1);
    return writeSceneUsdz(bodies.finish());
  };
  it('is an archive without compression whose files begin at multiples of 64 bytes', async () => {
    // USDZ specification, "Layout"; local headers as PKWARE's APPNOTE, 4.3.7, has them.
    const bytes = await made({ ...scene, scenery: [piece('tin')] }, [0, 1]);
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    let at = 0;
    const names: string[] = [];
    while (view.getUint32(at, true) === 0x04034b50) {
      const [method, size] = [view.getUint16(at + 8, true), view.getUint32(at + 18, true)];
      const [name, extra] = [view.getUint16(at + 26, true), view.getUint16(at + 28, true)];
      names.push(new TextDecoder().decode(bytes.subarray(at + 30, at + 30 + name)));
      const data = at + 30 + name + extra;
      expect(method).toBe(0);
      expect(data % 64).toBe(0);
      at = data + size;
    }
    expect(names[0]).toBe('scene.usda');
    expect(names[1]).toMatch(/^pictures\/0\.png$/);
  });
  it('is read by a reader of its own, with the bodies, their places and what binds them to materials', async () => {
    const files = unzipSync(await made(scene, [0, 1]));
    const text = new TextDecoder().decode(files['scene.usda']);
    const root = new USDAParser().parseText(text) as Record<string, unknown>;
    const inner = (of: Record<string, unknown>, key: RegExp): Record<string, Record<string, unknown>> =>
      Object.fromEntries(Object.entries(of).filter(([k]) => key.test(k))) as never;
    const [whole] = Object.values(inner(root, /^def Xform "Scene"/));
    const [bodies] = Object.values(inner(whole, /^def Xform "Bodies"/));
    const meshes = Object.values(inner(bodies, /^def Mesh/));
    const frame = await source.frame(scene, 0, 'export');
    expect(meshes).toHaveLength(2 * frame.parts.length);
    const mark = frame.parts[0].shape.marks[0];
    if (mark.kind !== 'surface') throw new Error('no surface');
    const numbers = (said: unknown): number[] =>
      String(said)
        .match(/-?[\d.]+(?:e-?\d+)?/g)!
        .map(Number);
    expect(numbers(meshes[0]['int[] faceVertexIndices'])).toEqual([...mark.triangles]);
    const points = numbers(meshes[0]['point3f[] points']);
    for (const [i, v] of mark.positions.entries()) expect(points[i]).toBeCloseTo(v, 4);
    expect(text).toContain('token visibility.timeSamples = { 0: "inherited", 1: "invisible" }');
    const materials = [...text.matchAll(/def Material "(m\d+)"/g)].map(([, name]) => name);
    for (const [, name] of text.matchAll(/material:binding = <\/Scene\/Materials\/(m\d+)>/g))
      expect(materials).toContain(name);
  });
});

describe('the picture of a scale', () => {
  const base = { map: 'heat', reversed: false, bands: null, low: 10, high: 20 } as const;
  it('has beyond its ends what lies below and above', () => {
    const scale = CompiledScale.of({ ...base, below: '#0000ff', above: '#00ff00' });
    const { picture, across } = colourPicture(scale);
    const { data, width } = decode(picture.bytes);
    const at = (value: number): number[] => [
      ...data.slice(4 * Math.floor(across(value)! * width), 4 * Math.floor(across(value)! * width) + 3),
    ];
    expect(at(-500)).toEqual([0, 0, 255]);
    expect(at(500)).toEqual([0, 255, 0]);
    expect(across(Number.NaN)).toBeNull();
    // Half way is half way, also for what lies a little beyond.
    expect((across(9.9)! + across(10.1)!) / 2).toBeCloseTo(across(10)!, 10);
  });
  it('has bands with sharp edges where the scale has them', () => {
    const scale = CompiledScale.of({ ...base, bands: { kind: 'count', count: 4, low: null, high: null } });
    const { picture, across, mixed } = colourPicture(scale);
    const { data, width } = decode(picture.bytes);
    expect(mixed).toBe(false);
    for (const value of [10.1, 12.4, 12.6, 14.9, 15.1, 17.4, 17.6, 19.9]) {
      const i = Math.floor(across(value)! * width);
      expect([...data.slice(4 * i, 4 * i + 3)]).toEqual(scale.colour(value).map((v) => Math.round(255 * v)));
    }
  });
});

describe('balls', () => {
  it('are as large as they say, around their places', () => {
    const made = copiedSpheres(
      {
        kind: 'sphere',
        positions: Float32Array.of(0, 0, 0, 5, 0, 0),
        spheres: Uint32Array.of(1),
        radius: 2,
        radii: Float32Array.of(1, 2),
        onPicture: false,
      },
      1,
    );
    expect(boundsOf(made.positions)).toEqual([3, 7, -2, 2, -2, 2].map((v) => expect.closeTo(v, 5)));
    expect(new Set(made.from)).toEqual(new Set([1]));
  });
});
