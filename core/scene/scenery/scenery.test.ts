import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../../tests/sample-run.ts';
import type { BodyFile } from '../../model/body.ts';
import { type Bounds, boundsOf, joinBounds } from '../../model/mesh.ts';
import { type RunDescription, runBounds } from '../../model/run.ts';
import { dot, type Vector } from '../../model/vectors.ts';
import { keyable, read, write } from '../addresses.ts';
import { defaultScene } from '../default-scene.ts';
import { readScene, type Scene } from '../document.ts';
import { applyEdit } from '../edits.ts';
import { type Enclosure, enclosuresIn } from '../enclosure.ts';
import { repairScene } from '../repair-scene.ts';
import { changesBetween, sayPlace, withChanges } from '../scene-changes.ts';
import { readScript, writeScript } from '../scene-script.ts';
import { settingOf } from '../setting.ts';
import { bodiesFitted, sizeTrouble } from './from-file.ts';
import { lookOfBody, stoodSurface, surfacesOfPiece } from './piece-marks.ts';
import { axesOfPiece } from './placed.ts';
import { type Piece, type SceneryId, sceneryKind, sceneryKinds } from './registry.ts';
import { metreOf } from './scenery-kind.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  run = { ...(await ovenRun()), lengthUnit: 'm' };
  scene = defaultScene(run);
});

const file: Enclosure = {
  name: 'hall "east".glb',
  bytes: { hash: 'ab'.repeat(32), type: 'u8', length: 1234 },
};

/** A piece of a kind as it is added. */
const added = (kind: SceneryId, change: Partial<Piece> = {}): Piece => ({
  ...sceneryKind(kind).defaults(settingOf(run, scene), scene),
  id: `scenery-${kind}`,
  kind,
  visible: true,
  turn: 0,
  ...change,
});

const withPieces = (...pieces: Piece[]): Scene => ({ ...scene, scenery: pieces });

/** What a piece takes up, relative to the origin of the run. */
function takenUp(piece: Piece, up: Vector = [0, 0, 1], given: BodyFile | null = null): Bounds {
  const surfaces = surfacesOfPiece(piece, { file: given, metre: metreOf(run) });
  return surfaces
    .map(({ surface }) => boundsOf(stoodSurface(surface, piece, up, run.origin).positions))
    .reduce(joinBounds);
}

/** Of kinds made by code: the length of each that is across, deep and high. */
const extents: Partial<Record<SceneryId, (string | null)[]>> = {
  table: ['length', 'width', 'height'],
  tin: ['length', 'width', 'height'],
  tray: ['length', 'width', 'height'],
  trolley: ['length', 'width', 'height'],
  loaf: ['length', 'width', 'height'],
  person: [null, null, 'height'],
  tiles: ['length', null, 'height'],
  'measuring-rod': [null, null, 'length'],
};

describe('scenery made by code', () => {
  it.each(Object.entries(extents))('%s is as large as it says and stands on its foot', (kind, axes) => {
    const piece = added(kind as SceneryId, { place: [...run.origin] });
    const b = takenUp(piece);
    for (const [k, key] of axes!.entries())
      if (key) {
        const size = Number(piece[key]);
        // Soft bodies swell to their size within a few percent; trays and tins are as wide as their mouths.
        expect((b[2 * k + 1] - b[2 * k]) / size, `${kind} ${key}`).toBeGreaterThan(0.94);
        expect((b[2 * k + 1] - b[2 * k]) / size, `${kind} ${key}`).toBeLessThan(1.04);
      }
    expect(Math.abs(b[4])).toBeLessThan(0.01 * (b[5] - b[4]));
  });
  it('a person of 1.75 m encloses about what one of 70 kg does', () => {
    // Density of the body about 1010 kg/m³ (common practice, no source); the figure is as slim as 55 and as heavy as 85 kg allow.
    const piece = added('person', { height: 1.75 });
    const [{ surface }] = surfacesOfPiece(piece, { file: null, metre: 1 });
    let volume = 0;
    const at = (i: number): Vector => [...surface.positions.subarray(3 * i, 3 * i + 3)] as Vector;
    for (let t = 0; t < surface.triangles.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => at(surface.triangles[t + k]));
      volume +=
        (a[0] * (b[1] * c[2] - b[2] * c[1]) +
          a[1] * (b[2] * c[0] - b[0] * c[2]) +
          a[2] * (b[0] * c[1] - b[1] * c[0])) /
        6;
    }
    expect(1010 * volume).toBeGreaterThan(55);
    expect(1010 * volume).toBeLessThan(85);
  });
  it('is in the unit of the run, and as large as fits where the model is of another world', () => {
    const inMillimetres = settingOf({ ...run, lengthUnit: 'mm' }, scene);
    const large = { ...inMillimetres, bounds: [0, 1000, 0, 1000, 0, 1000] as Bounds };
    expect(sceneryKind('person').defaults(large, scene).height).toBe(1750);
    const atoms = { ...settingOf({ ...run, lengthUnit: 'nm' }, scene), bounds: [0, 3, 0, 3, 0, 3] as Bounds };
    expect(sceneryKind('person').defaults(atoms, scene).height).toBeCloseTo(0.4 * Math.hypot(3, 3, 3), 1);
  });
  it('stands on the floor beside the model, and beside what stands there', () => {
    let now = scene;
    const bounds = runBounds(run);
    for (let i = 0; i < 7; i++) {
      const piece = {
        ...added('table', {}),
        ...sceneryKind('table').defaults(settingOf(run, now), now),
        id: `t${i}`,
      };
      expect(piece.place[2]).toBeCloseTo(bounds[4], 5);
      const apart = [0, 1].some((k) => {
        const half = Math.max(Number(piece.length), Number(piece.width)) / 2;
        return (
          piece.place[k] - half > bounds[2 * k + 1] - 1e-9 || piece.place[k] + half < bounds[2 * k] + 1e-9
        );
      });
      expect(apart).toBe(true);
      for (const other of now.scenery)
        expect(Math.hypot(...[0, 1, 2].map((k) => piece.place[k] - other.place[k]))).toBeGreaterThan(
          0.5 * Number(piece.length),
        );
      now = applyEdit(now, { type: 'scenery.add', pieces: [piece] });
    }
  });
  it.each([
    [[0, -5, 1], 0],
    [[5, -1, 1], 90],
    [[0.4, 5, 3], 180],
    [[-5, 1, 0], -90],
  ] as const)('looks to whoever looks from %j when it is added', (position, turn) => {
    const camera = { ...scene.camera, position: [...position] as Vector, target: [0, 0, 0] as Vector };
    const { defaults } = sceneryKind('tiles');
    const made = defaults(settingOf(run, scene), { ...scene, camera });
    expect(Math.abs(made.turn)).toBe(Math.abs(turn));
    const front = axesOfPiece(made, [0, 0, 1])[1].map((v) => -v);
    expect(dot(front, position)).toBeGreaterThan(0.7 * Math.hypot(position[0], position[1]));
  });
  it('is turned about what is up, whichever axis that is', () => {
    for (const up of [
      [0, 0, 1],
      [0, 1, 0],
      [1, 0, 0],
      [0, 0, -1],
    ] as Vector[]) {
      const piece = added('measuring-rod', { place: [1, 2, 3], turn: 40 });
      const stood = surfacesOfPiece(piece, { file: null, metre: 1 }).flatMap(({ surface }) => [
        ...stoodSurface(surface, piece, up, [0, 0, 0]).positions,
      ]);
      let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      for (let i = 0; i < stood.length; i += 3) {
        const along = dot([stood[i] - 1, stood[i + 1] - 2, stood[i + 2] - 3], up);
        [low, high] = [Math.min(low, along), Math.max(high, along)];
      }
      expect([low, high]).toEqual([expect.closeTo(0, 5), expect.closeTo(Number(piece.length), 5)]);
    }
  });
});

/** A box of 2000 by 100 by 500 in the unit of its file, from a corner at 10, its middle axis up. */
const boxFile = (size: Vector = [2000, 500, 100], stated: string | null = null): BodyFile => {
  const at = [0, 1].flatMap((z) => [0, 1].flatMap((y) => [0, 1].map((x) => [x, y, z])));
  const body = {
    name: 'box',
    points: Float32Array.from(at.flatMap((v) => v.map((s, k) => 10 + s * size[k]))),
    triangles: Uint32Array.of(0, 3, 1, 0, 2, 3, 4, 5, 7, 4, 7, 6),
    normals: null,
    places: null,
    material: null,
  };
  return { bodies: [body], pictures: [], lengthUnit: stated, up: null, notes: [] };
};

describe('scenery from a file', () => {
  it('is turned upright, brought to the unit of the run and put on its foot', () => {
    const piece = added('file', { file, unit: 'mm', up: 'y', place: [...run.origin] });
    const b = takenUp(piece, [0, 0, 1], boxFile());
    expect(b).toEqual([-1, 1, -0.05, 0.05, 0, 0.5].map((v) => expect.closeTo(v, 5)));
  });
  it('lies where the file has it when that is wanted, whatever is up in the scene', () => {
    const piece = added('file', { file, unit: 'mm', inPlace: true, place: [0, 0, 0] });
    const b = takenUp(piece, [1, 0, 0], boxFile()).map((v, i) => v + run.origin[i >> 1]);
    expect(b).toEqual([0.01, 2.01, 0.01, 0.51, 0.01, 0.11].map((v) => expect.closeTo(v, 5)));
  });
  it('gets the unit that fits the model where the file states none, and keeps the one it states', () => {
    const model: Bounds = [0, 1.5, 0, 1, 0, 1];
    expect(bodiesFitted(boxFile(), run, model, scene).unit).toBe('mm');
    expect(bodiesFitted(boxFile([2, 0.5, 0.1]), run, model, scene).unit).toBe('m');
    expect(bodiesFitted({ ...boxFile(), lengthUnit: 'm' }, run, model, scene).unit).toBe('m');
    expect(bodiesFitted(boxFile([200, 50, 10]), run, model, scene).unit).toBe('cm');
    expect(bodiesFitted(boxFile([80, 20, 4]), run, model, scene).unit).toBe('in');
    // A room around its model is some times larger: feet would fit better, metres are meant.
    expect(bodiesFitted(boxFile([6, 4, 3]), run, model, scene).unit).toBe('m');
  });
  it('says that its unit is off by 1000, with the size that gives', () => {
    const { bodies } = boxFile();
    const model: Bounds = [0, 1.5, 0, 1, 0, 1];
    expect(sizeTrouble({ unit: 'm', times: 1 }, bodies, run, model)).toMatch(
      /2.06 km|2,?06\d m|2060 m|2064 m/,
    );
    expect(sizeTrouble({ unit: 'm', times: 1 }, bodies, run, model)).toMatch(
      /1001 times as large.*Choose the unit/,
    );
    expect(sizeTrouble({ unit: 'mm', times: 1 }, bodies, run, model)).toBeNull();
  });
  it('where it lies at the model it is taken from there, else it is stood beside', () => {
    const model: Bounds = [0, 3, 0, 1, 0, 1];
    expect(bodiesFitted(boxFile(), run, model, scene)).toMatchObject({ inPlace: true, place: [0, 0, 0] });
    const away: Bounds = [50, 53, 0, 1, 0, 1];
    expect(bodiesFitted(boxFile(), run, away, scene)).toMatchObject({ inPlace: false });
  });
  it('wears its own materials until others are chosen', () => {
    const own = { colour: '#112233', finish: 'ceramic', opacity: 1, picture: 0 };
    const plain = { colour: null, finish: null, opacity: 0.5 };
    expect(lookOfBody(plain, own)).toEqual({ ...own, opacity: 0.5 });
    const painted = lookOfBody({ ...plain, colour: '#ff0000' }, own);
    expect(painted).toMatchObject({
      colour: '#ff0000',
      picture: null,
      finish: { name: 'glazed ceramic', colour: null },
    });
    expect(lookOfBody({ ...plain, finish: 'rust' }, own)).toMatchObject({ finish: 'rust', picture: null });
  });
  it('goes with the scene as an enclosed file', () => {
    expect(enclosuresIn(withPieces(added('file', { file })))).toEqual([file]);
  });
});

describe('scenery in documents', () => {
  const changed: Partial<Piece> = {
    name: 'the "old" one',
    group: 'shop floor',
    locked: true,
    place: [0.1, -2.5, 3],
    turn: -37.5,
    finish: 'oak',
    colour: '#a1b2c3',
    opacity: 0.25,
    visible: false,
  };
  it.each(sceneryKinds.map((k) => k.id))(
    '%s is said in scripts and read back, as added and changed',
    (kind) => {
      const special = {
        file: { file, unit: 'in', up: 'y', times: 2.5 },
        tiles: { standing: false, joint: 0.1 },
        trolley: { shelves: 3 },
        'measuring-rod': { standing: false },
      } as Record<string, Partial<Piece>>;
      for (const piece of [added(kind), added(kind, { ...special[kind], ...changed })]) {
        const before = withPieces({ ...piece, id: 'scenery-1' });
        const after = readScript(writeScript(before, run), run);
        expect(after.scenery).toEqual(before.scenery);
      }
    },
  );
  it('opens scenes that were written without any', () => {
    const { scenery, ...older } = scene;
    expect(readScene(older).scenery).toEqual(scenery);
  });
  it('has an address for every value, and a name for each', () => {
    const now = withPieces(added('table'), added('person'));
    const mine = keyable(now).filter(({ address }) => address[0] === 'scenery');
    const found = mine.map(({ address }) => address.slice(1).join('/'));
    for (const wanted of [
      'scenery-table/length',
      'scenery-table/place',
      'scenery-table/turn',
      'scenery-person/visible',
    ])
      expect(found).toContain(wanted);
    for (const { address, value } of mine) expect(read(now, address)).toEqual(value);
    const moved = write(now, ['scenery', 'scenery-table', 'length'], 3);
    expect(moved.scenery[0].length).toBe(3);
    expect(mine.find(({ address }) => address[2] === 'length')!.name).toMatch(/the table 1/);
  });
  it('is repaired entry by entry, and left out where its kind is not known', () => {
    const broken = structuredClone(withPieces(added('table'), added('tin'))) as unknown as {
      scenery: Record<string, unknown>[];
    };
    broken.scenery[0].opacity = 7;
    broken.scenery[1].kind = 'anvil';
    const { scene: mended, repairs } = repairScene(broken);
    expect(mended.scenery.map((s) => [s.kind, s.opacity])).toEqual([['table', 1]]);
    expect(repairs).toHaveLength(2);
  });
  it('goes through changes from elsewhere, and is named in them', () => {
    const before = withPieces(added('table'));
    const after = applyEdit(before, { type: 'scenery.change', id: 'scenery-table', change: { turn: 30 } });
    const changes = changesBetween(before, after);
    expect(changes).toEqual([{ at: ['scenery', 'scenery-table', 'turn'], was: 0, now: 30 }]);
    expect(sayPlace(changes[0], after)).toBe('the table');
    expect(withChanges(before, changes).scene).toEqual(after);
    expect(sayPlace({ at: ['scenery', 'gone', 'turn'] }, after)).toBe('scenery that is gone');
  });
});

describe('edits of scenery', () => {
  const placed = (id: string, change: Partial<Piece>): Piece => ({ ...added('tin', change), id });
  it('move a group together, all but what is locked', () => {
    const now = withPieces(
      placed('a', { group: 'rack', place: [0, 0, 0] }),
      placed('b', { group: 'rack', place: [1, 0, 0] }),
      placed('c', { group: 'rack', place: [2, 0, 0], locked: true }),
      placed('d', { place: [3, 0, 0] }),
    );
    const moved = applyEdit(now, { type: 'scenery.change', id: 'a', change: { place: [0, 5, 1] } });
    expect(moved.scenery.map((s) => s.place)).toEqual([
      [0, 5, 1],
      [1, 5, 1],
      [2, 0, 0],
      [3, 0, 0],
    ]);
    const turned = applyEdit(now, { type: 'scenery.change', id: 'a', change: { turn: 10 } });
    expect(turned.scenery.map((s) => s.turn)).toEqual([10, 0, 0, 0]);
  });
  it('leave what is locked as it is, but let it be hidden and unlocked', () => {
    const now = withPieces(placed('a', { locked: true }));
    expect(applyEdit(now, { type: 'scenery.change', id: 'a', change: { turn: 10 } })).toEqual(now);
    expect(applyEdit(now, { type: 'scenery.remove', ids: ['a'] }).scenery).toEqual(now.scenery);
    const hidden = applyEdit(now, { type: 'scenery.set', ids: ['a'], change: { visible: false } });
    expect(hidden.scenery[0].visible).toBe(false);
    const free = applyEdit(now, { type: 'scenery.set', ids: ['a'], change: { locked: false } });
    expect(applyEdit(free, { type: 'scenery.remove', ids: ['a'] }).scenery).toEqual([]);
  });
});
