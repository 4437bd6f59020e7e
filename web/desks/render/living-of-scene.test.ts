import { inflateSync } from 'node:zlib';
import { beforeAll, describe, expect, it } from 'vitest';
import { unpackArrays } from '#core/formats/bytes/packed-arrays.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { LivingFigure } from '#core/report/living-figure.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { ArraySource } from '#engine/array-source.ts';
import { GeometryMaker } from '#engine/geometry-maker.ts';
import { SceneSource } from '#engine/scene-source.ts';
import { importSteps, ovenSteps } from '../../../tests/sample-run.ts';
import { livingOfScene } from './living-of-scene.ts';

let run: RunDescription;
let source: SceneSource;
let scene: Scene;
beforeAll(async () => {
  const { run: read, store } = await importSteps(ovenSteps());
  run = read;
  const maker = new GeometryMaker(new ArraySource(store.load));
  source = new SceneSource(run, (request) => maker.make(request));
  const given = defaultScene(run);
  scene = { ...given, step: 1, layers: [cut(given.layers[0], {})] };
});

const cut = (layer: Scene['layers'][number], options: object): Scene['layers'][number] => ({
  ...layer,
  chain: [{ id: 'cut', op: 'section', options: { normal: [0, 0, 1], offset: 0.4, ...options }, off: false }],
});

async function figureOf(of: Scene, moves = true): Promise<LivingFigure> {
  const blob = await livingOfScene(source, of, moves);
  // Read by another inflater than the one of the page.
  return unpackArrays(new Uint8Array(inflateSync(Buffer.from(await blob!.arrayBuffer()))));
}

/** All values of a moment with where they are, in the coordinates of the files. */
const valuesAt = ({ scene: { bodies }, origin }: LivingFigure, moment: number) =>
  bodies
    .filter((b) => b.step === moment && b.values)
    .flatMap(({ positions, values }) =>
      Array.from(values!.of, (value, v) => ({
        value,
        at: [0, 1, 2].map((k) => positions[3 * v + k] + origin[k]),
      })),
    );

describe('a living figure', () => {
  it('shows its picture first, other steps, and its section elsewhere', async () => {
    const figure = await figureOf(scene);
    expect(figure.steps).toEqual(['t = 0 s', 't = 5 s', 't = 10 s']);
    expect(figure.places).toHaveLength(9);
    expect(figure.places).toContain('z = 0.4 m');
    expect(figure.moments[figure.shown]).toEqual({ step: 1, place: figure.places.indexOf('z = 0.4 m') });
    expect(figure.moments).toHaveLength(1 + 2 + 8);
    expect(figure.scene.steps).toHaveLength(figure.moments.length);
  });

  it('has at each moment the values of the run where they are', async () => {
    const figure = await figureOf(scene);
    for (const [m, { step, place }] of figure.moments.entries()) {
      const values = valuesAt(figure, m);
      expect(values.length).toBeGreaterThan(10);
      const z = Number(figure.places[place!].replace(/z = | m/g, ''));
      for (const { value, at } of values) {
        // The field of the sample run is linear: 20 + 10 n + x + 2 y + 3 z.
        expect(value).toBeCloseTo(20 + 10 * step + at[0] + 2 * at[1] + 3 * at[2], 4);
        expect(at[2]).toBeCloseTo(z, 3);
      }
    }
  });

  it('stands still in a film, and keeps a section that is locked', async () => {
    const film = await figureOf(scene, false);
    expect(film.steps).toHaveLength(1);
    const locked = { ...scene, layers: [cut(scene.layers[0], { locked: true })] };
    const figure = await figureOf(locked);
    expect(figure.places).toEqual([]);
    expect(figure.moments).toEqual([
      { step: 1, place: null },
      { step: 0, place: null },
      { step: 2, place: null },
    ]);
  });

  it('keeps the section of an axis of its own within what it may be moved', async () => {
    const layers = [cut(scene.layers[0], { normal: [1, 1, 0], offset: 0.5, low: 0.4, high: 0.7 })];
    const { places } = await figureOf({ ...scene, layers });
    expect(places).toContain('0.5 m along (1, 1, 0)');
    for (const place of places) {
      expect(Number.parseFloat(place)).toBeGreaterThan(0.4);
      expect(Number.parseFloat(place)).toBeLessThan(0.7);
    }
  });

  it('has what does not change only once, and is told how it is lit and looked at', async () => {
    const still = { ...scene, layers: [{ ...scene.layers[0], chain: [] }] };
    const figure = await figureOf(still);
    const shapes = figure.scene.bodies.filter((b) => b.values).map((b) => b.positions);
    expect(shapes.length).toBe(3);
    expect(new Set(shapes).size).toBe(1);
    expect(figure.shaded).toBe(true);
    expect((await figureOf({ ...still, light: { ...still.light, rig: 'even' } })).shaded).toBe(false);
    expect(figure.stated).toEqual([]);
    expect(figure.notes).toEqual([]);
    const shifted = { ...still.camera, projection: 'perspective' as const, shiftAcross: 15, shiftRise: -10 };
    expect((await figureOf({ ...still, camera: shifted })).shift).toEqual([0.15, -0.1]);
  });
});
