import {
  appendFileSync,
  existsSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { BATCH_LOG, readBatchLog } from '#core/batch/batch-log.ts';
import { type BatchSettings, usualBatch } from '#core/batch/batch-settings.ts';
import type { RunDescription } from '#core/model/run.ts';
import { begun, readMotion } from '#core/motion/beginnings/read-motion.ts';
import { settingOfReel } from '#core/motion/beginnings/registry.ts';
import type { Finding } from '#core/preflight/rule.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { applyEdit } from '#core/scene/edits.ts';
import { shippedLooks } from '#core/scene/looks/registry.ts';
import type { DriverWindow, EndsOrder, FilmOrder, RenderOrder } from '#web/desks/render/render-order.ts';
import { ovenRun } from '../../tests/sample-run.ts';
import type { BatchDrawer } from './batch-work.ts';
import type { JobContext } from './jobs/job-kind.ts';

const data = mkdtempSync(join(tmpdir(), 'dresser-batch-'));
process.env.DRESSER_DATA = data;
const { BatchWork } = await import('./batch-work.ts');
const { planWish, checkPlan } = await import('./batch-order.ts');
const { lackingInRuns, previewOf } = await import('./batch-preview.ts');
const { quietContext } = await import('./jobs/job-kind.ts');
const sets = await import('./run-sets.ts');
const { database, runs, scenes, shots } = await import('./database.ts');
const { eq } = await import('drizzle-orm');
const { differences } = await import('#core/model/document-changes.ts');
const { runSetForm } = await import('#core/sets/run-set.ts');
afterAll(() => rmSync(data, { recursive: true, force: true }));

const ids = ['slow', 'fast', 'renamed'];
let set: string;

beforeAll(async () => {
  const oven = await ovenRun();
  // As if another version of the solver had named it otherwise.
  const renamed: RunDescription = JSON.parse(JSON.stringify(oven).replaceAll('temperature', 'temp'));
  const db = await database();
  for (const [i, id] of ids.entries()) {
    const description = { ...(id === 'renamed' ? renamed : oven), parameters: { fan: 900 + i } };
    await db.insert(runs).values({ id, name: id, description });
  }
  const scene = defaultScene(oven);
  await db.insert(scenes).values({ id: 'scene', run: 'slow', name: 'Bake', document: scene });
  for (const [position, name] of ['Front', 'Side'].entries())
    await db.insert(shots).values({
      id: name,
      scene: 'scene',
      name,
      position,
      document: { ...scene, name, step: position },
      thumbnail: 'data:image/png;base64,',
    });
  const reel = { ...scene.reel, seconds: 1, rate: 4, from: 0, to: null };
  const setting = settingOfReel({ ...scene, reel }, oven, { looks: [] });
  const motion = readMotion('turntable', setting);
  if ('at' in motion) throw new Error('no motion');
  const turning = applyEdit({ ...scene, reel }, { type: 'reel.begin', beginning: begun(motion, setting) });
  const document = { ...turning, name: 'Turning' };
  await db.insert(shots).values({
    id: 'Turning',
    scene: 'scene',
    name: 'Turning',
    position: 2,
    document,
    thumbnail: 'data:image/png;base64,',
  });
  set = (await sets.makeSet('Ovens', ids)).id;
});

/** What the preflight has found in a picture: something serious, something that is meant to be so, and something minor. */
const found: Finding[] = (['serious', 'moderate', 'minor'] as const).map((severity) => ({
  rule: severity,
  severity,
  place: { kind: 'picture', id: null, name: 'the picture' },
  says: `It is ${severity}.`,
  remedy: 'Mend it.',
  waived: severity === 'moderate' ? 'so be it' : null,
}));

/** What draws, pretended: it keeps what it was asked for, and its files tell of it. */
class Drawer implements BatchDrawer {
  readonly orders: RenderOrder[] = [];
  readonly asked: EndsOrder[] = [];
  constructor(private readonly fails: (order: RenderOrder) => string | null = () => null) {}

  async make(order: RenderOrder, take: (piece: Buffer, of: number) => Promise<unknown>) {
    this.orders.push(order);
    const wrong = this.fails(order);
    if (wrong) throw new Error(wrong);
    const text = `${order.run} ${(order.scene as Scene).name} ${order.step}`;
    const files = [order.format, ...(order.also ?? [])].map((format) => `${format} ${text}`);
    for (const [of, file] of files.entries()) await take(Buffer.from(file), of);
    const [first, ...also] = files.map((file) => ({ bytes: file.length, ending: 'png' }));
    const mismatches = order.run === 'renamed' ? ['the run has no fan'] : [];
    return { ...first, also, mismatches, findings: order.run === 'renamed' ? found : [] };
  }

  /** Films say of which work they are; the pictures that are fetched for them lie there. */
  async film({ pictures, format }: FilmOrder, driver: DriverWindow) {
    const said = `${format} of ${pictures.match(/[0-9a-f-]{36}/)![0]}`;
    await driver.dresserPut(0, Buffer.from(said).toString('base64'));
    return { ending: format };
  }

  filmFormats = async () => ['gif', 'mp4'];

  /** The scales of each run end where its place in the list says. */
  async ends(order: EndsOrder) {
    this.asked.push(order);
    const i = ids.indexOf(order.run);
    return Object.fromEntries((order.scene as Scene).scales.map((s) => [s.id, [10 - i, 100 + i] as const]));
  }
}

interface Asked extends Partial<BatchSettings> {
  of?: string[];
  folder?: string;
  again?: boolean;
}

const planned = ({ of = ids, folder = 'out', again = false, ...settings }: Asked = {}) =>
  planWish({
    set,
    runs: of,
    folder,
    again,
    settings: { ...usualBatch, shots: ['Front', 'Side'], ...settings },
  });

async function made(
  asked: Asked,
  drawer = new Drawer(),
  owner = asked.folder ?? 'out',
  at: Partial<JobContext> = {},
) {
  const work = await BatchWork.open((await planned(asked)).order, owner);
  await work.make(drawer, { ...quietContext(), ...at });
  return {
    ...work.result(),
    drawer,
    log: readBatchLog(readFileSync(join(work.result().folder, BATCH_LOG), 'utf8')),
  };
}

const orderOf = ({ run, scene }: RenderOrder): string => `${run} ${(scene as Scene).name}`;
const rangesIn = (order: RenderOrder) => (order.scene as Scene).scales.map((s) => s.range);

describe('a batch that is planned', () => {
  it('has every shot of every run, run by run, and tells where its files go', async () => {
    const preview = await previewOf({
      set,
      runs: ids,
      folder: 'out',
      again: false,
      settings: { ...usualBatch, shots: ['Front', 'Side'], names: '{fan}/{shot}', formats: ['png', 'exr'] },
    });
    expect(preview).toMatchObject({ drawings: 6, files: 12, seconds: null, bytes: null, troubles: [] });
    expect(preview.first).toEqual([
      '900/Front.png',
      '900/Front.exr',
      '900/Side.png',
      '900/Side.exr',
      '901/Front.png',
    ]);
    expect(preview.folder).toBe(join(data, 'out', 'out'));
    expect(preview.scales.map((s) => s.name)).toEqual(['temperature']);
  });
  it('tells of what is gone or not understood, and makes the rest', async () => {
    const { plan } = await planned({
      shots: ['Front', 'gone'],
      looks: [null, 'No such look'],
      formats: ['png', 'tape'],
    });
    expect(plan.files).toBe(3);
    expect(plan.troubles).toEqual([
      'One shot is no longer there: choose others.',
      'There is no look “No such look” any more.',
      'Pictures are not written as “tape”.',
    ]);
    const nothing = await planned({ steps: 'every so often' });
    expect(nothing.plan.files).toBe(0);
    expect(() => checkPlan(nothing)).toThrow(/5th|step/);
  });
  it('lists what shots ask for that runs lack, with what is meant by it', async () => {
    const lacking = await lackingInRuns(await planned());
    expect(lacking).toHaveLength(1);
    expect(lacking[0]).toMatchObject({
      kind: 'field',
      asked: 'point:temperature',
      likely: 'point:temp',
      runs: ['renamed'],
    });
  });
  it('asks hundreds of runs, in their order, some at a time', async () => {
    const db = await database();
    const [{ description }] = await db.select().from(runs).where(eq(runs.id, 'renamed'));
    const many = Array.from({ length: 230 }, (_, i) => `renamed-${String(i).padStart(3, '0')}`);
    await db.insert(runs).values(many.map((id) => ({ id, name: id, description })));
    try {
      const of = [...many.toReversed(), 'fast', 'gone', 'renamed'];
      const [lacking, ...others] = await lackingInRuns(await planned({ of }));
      expect(others).toEqual([]);
      expect(lacking.runs).toEqual([...many.toReversed(), 'renamed']);
    } finally {
      for (const id of many) await db.delete(runs).where(eq(runs.id, id));
    }
  });
});

describe('a batch', () => {
  it('makes its files, each whole, and logs each with all that is known of it', async () => {
    const done: number[] = [];
    const {
      made: count,
      failed,
      folder,
      log,
      drawer,
    } = await made({ folder: 'plain', formats: ['png', 'exr'] }, new Drawer(), 'first', {
      progress: (d) => done.push(d),
    });
    expect({ count, failed }).toEqual({ count: 12, failed: 0 });
    expect(drawer.orders.map(orderOf)).toEqual(ids.flatMap((id) => [`${id} Front`, `${id} Side`]));
    expect(readFileSync(join(folder, 'fast/Side.exr'), 'utf8')).toBe('exr fast Side 1');
    expect(log.get('renamed/Front.png')).toMatchObject({
      shot: 'Front',
      run: 'renamed',
      step: 1,
      width: 1920,
      height: 1080,
      state: 'made',
      bytes: 19,
      // What is meant to be so, and what could only be better, is not told of every picture.
      notes: ['the run has no fan'],
      preflight: ['It is serious. Mend it.'],
      problem: null,
    });
    expect(existsSync(join(folder, 'fast/Side.exr.half'))).toBe(false);
    expect(done[done.length - 1]).toBe(1);
    expect([...done].sort((a, b) => a - b)).toEqual(done);
  });
  it('leaves what is current as it is, and draws again what has changed', async () => {
    const asked = { folder: 'current', scales: 'each' } as const;
    await made(asked);
    const again = await made(asked, new Drawer(), 'second');
    expect(again).toMatchObject({ made: 0, current: 6, failed: 0 });
    expect(again.drawer.orders).toEqual([]);
    const db = await database();
    const [row] = await db.select().from(runs).where(eq(runs.id, 'fast'));
    const other = { ...row.description, origin: [1, 2, 3] as [number, number, number] };
    await db.update(runs).set({ description: other }).where(eq(runs.id, 'fast'));
    rmSync(join(data, 'out/current/slow/Side.png'));
    const third = await made(asked, new Drawer(), 'third');
    expect(third.drawer.orders.map(orderOf)).toEqual(['slow Side', 'fast Front', 'fast Side']);
    expect(third).toMatchObject({ made: 3, current: 3 });
    await db.update(runs).set({ description: row.description }).where(eq(runs.id, 'fast'));
    const all = await made({ ...asked, again: true }, new Drawer(), 'fourth');
    expect(all).toMatchObject({ made: 6, current: 0 });
  });
  it('draws again only the pictures of another size or look', async () => {
    const [look] = shippedLooks;
    await made({ folder: 'sizes', of: ['slow'] });
    const sizes = [
      { width: 1920, height: 1080 },
      { width: 640, height: 480 },
    ];
    const names = '{run}/{shot}-{width}-{look}';
    const two = await made({ folder: 'sizes', of: ['slow'], sizes, looks: [null, look.name], names });
    expect(two.made).toBe(8);
    expect([...two.log.keys()].filter((p) => p.includes('640'))).toHaveLength(4);
  });
  it('tells what fails, and makes the rest; begun anew it tries that again', async () => {
    const bad = (order: RenderOrder): string | null =>
      orderOf(order) === 'fast Front'
        ? 'page.evaluate: Error: The run has 1 steps: there is no step 2'
        : null;
    const first = await made({ folder: 'failing' }, new Drawer(bad));
    expect(first).toMatchObject({ made: 5, failed: 1 });
    expect(first.log.get('fast/Front.png')).toMatchObject({
      state: 'failed',
      problem: { reason: 'The run has 1 steps: there is no step 2', where: 'the scene' },
    });
    const again = await made({ folder: 'failing' });
    expect(again.drawer.orders.map(orderOf)).toEqual(['fast Front']);
    expect(again).toMatchObject({ made: 6, failed: 0 });
  });
  it('of a run that is gone says so, and makes those of the others', async () => {
    const { order } = await planned({ folder: 'gone' });
    for (const drawing of order.drawings) if (drawing.run === 'fast') drawing.run = 'deleted';
    order.runs.push({ id: 'deleted', name: 'deleted' });
    const work = await BatchWork.open(order, 'gone');
    await work.make(new Drawer(), quietContext());
    expect(work.result()).toMatchObject({ made: 4, failed: 2 });
    const log = readBatchLog(readFileSync(join(data, 'out/gone', BATCH_LOG), 'utf8'));
    expect(log.get('fast/Front.png')!.problem).toMatchObject({ reason: 'the run is no longer there' });
  });
});

describe('films in a batch', () => {
  const films = { of: ['slow', 'fast'], shots: ['Front', 'Turning'], films: ['gif', 'mp4'] };
  it('are made of each run by shots in which something moves, beside the pictures', async () => {
    const { log, folder, drawer, ...count } = await made({ ...films, folder: 'films' });
    expect(count).toMatchObject({ made: 2 * (2 + 2), failed: 0 });
    expect([...log.keys()].sort()).toEqual(
      ['slow', 'fast']
        .flatMap((r) => ['Front.png', 'Turning.gif', 'Turning.mp4', 'Turning.png'].map((f) => `${r}/${f}`))
        .sort(),
    );
    // A second at four pictures a second, each drawn once for both formats.
    expect(drawer.orders.filter((o) => o.film !== undefined)).toHaveLength(2 * 4);
    expect(log.get('slow/Turning.gif')).toMatchObject({ state: 'made', pictures: 4, format: 'gif' });
    expect(readFileSync(join(folder, 'fast/Turning.mp4'), 'utf8')).toMatch(/^mp4 of /);
    const again = await made({ ...films, folder: 'films' }, new Drawer(), 'films again');
    expect(again).toMatchObject({ made: 0, current: 8 });
    expect(again.drawer.orders).toEqual([]);
  });
  it('look at the scales of all steps, since they may show any', async () => {
    const { drawer } = await made({ ...films, formats: [], of: ['fast'], folder: 'film-scales' });
    const steps = (await ovenRun()).steps.length;
    expect(steps).toBeGreaterThan(1);
    const asked = drawer.asked.filter((a) => a.run === 'fast').map((a) => a.step);
    expect([...new Set(asked)].sort()).toEqual(Array.from({ length: steps }, (_, i) => i));
  });
  it('that were cut short go on behind the last picture that is whole', async () => {
    let drawn = 0;
    const crash = new Drawer(() => (++drawn === 3 ? 'page.evaluate: Target crashed' : null));
    const asked = { ...films, formats: [], of: ['slow'], folder: 'film-killed' };
    await expect(made(asked, crash)).rejects.toThrow('Target crashed');
    const { drawer, failed } = await made(asked);
    expect(drawer.orders).toHaveLength(2);
    expect(failed).toBe(0);
  });
  it('of a format that cannot be written here are told, and the pictures made', async () => {
    const { log, ...count } = await made({ ...films, films: ['hevc'], of: ['slow'], folder: 'film-lacking' });
    expect(count).toMatchObject({ made: 2, failed: 1 });
    expect([...log.values()].find((e) => e.problem)!.problem!.reason).toMatch(
      /are not written as "hevc" here/,
    );
  });
});

describe('a batch that is killed in the middle', () => {
  it('goes on behind what is whole: nothing doubled, nothing lost', async () => {
    const crash = (order: RenderOrder): string | null =>
      orderOf(order) === 'fast Side' ? 'page.evaluate: Target crashed' : null;
    const first = new Drawer(crash);
    await expect(made({ folder: 'killed' }, first)).rejects.toThrow('Target crashed');
    const log = join(data, 'out/killed', BATCH_LOG);
    // As a server that was killed while it wrote leaves it.
    appendFileSync(log, '{"path":"fast/Side.png","sta');
    writeFileSync(join(data, 'out/killed/fast/Side.png.half'), 'half of it');
    const second = await made({ folder: 'killed' });
    expect(second.drawer.orders.map(orderOf)).toEqual(['fast Side', 'renamed Front', 'renamed Side']);
    expect(second).toMatchObject({ made: 6, current: 0, failed: 0 });
    // Where scales end is not asked again: pictures of before and after agree.
    expect(second.drawer.asked).toEqual([]);
    expect(rangesIn(second.drawer.orders[0])).toEqual(rangesIn(first.orders[0]));
    const lines = readFileSync(log, 'utf8').trim().split('\n');
    expect(lines.map((l) => JSON.parse(l).path).sort()).toEqual(
      ids.flatMap((id) => [`${id}/Front.png`, `${id}/Side.png`]).sort(),
    );
    expect(readFileSync(join(data, 'out/killed/fast/Side.png'), 'utf8')).toBe('png fast Side 1');
  });
  it('leaves out a picture at which the browser ends each time', async () => {
    const { order } = await planned({ folder: 'stubborn' });
    const work = await BatchWork.open(order, 'stubborn');
    const crash = (o: RenderOrder): string | null =>
      orderOf(o) === 'fast Side' ? 'browser has been closed' : null;
    for (let attempt = 0; attempt < 2; attempt++)
      await expect(work.make(new Drawer(crash), quietContext())).rejects.toThrow('has been closed');
    await work.make(new Drawer(crash), quietContext());
    expect(work.result()).toMatchObject({ made: 5, failed: 1 });
  });
  it('is paused by its signal between two pictures', async () => {
    const abort = new AbortController();
    const drawer = new Drawer(() => {
      abort.abort(new Error('cancelled'));
      return null;
    });
    await expect(made({ folder: 'paused' }, drawer, 'p', { signal: abort.signal })).rejects.toThrow(
      'cancelled',
    );
    expect(drawer.orders).toHaveLength(1);
    expect(existsSync(join(data, 'out/paused/slow/Front.png'))).toBe(true);
  });
});

describe('the scales of a batch', () => {
  it('end at the extremes over all runs where they are shared', async () => {
    const { drawer } = await made({ folder: 'shared', scales: 'shared' });
    for (const order of drawer.orders)
      expect(rangesIn(order)).toEqual([{ kind: 'fixed', low: 8, high: 102 }]);
  });
  it('end where they do in the run of the shot where they are kept, and are asked of that run alone', async () => {
    const { drawer } = await made({ folder: 'kept', scales: 'kept' });
    for (const order of drawer.orders)
      expect(rangesIn(order)).toEqual([{ kind: 'fixed', low: 10, high: 100 }]);
    expect(new Set(drawer.asked.map((a) => a.run))).toEqual(new Set(['slow']));
  });
  it('follow each run where that is wished, of all or of a single quantity', async () => {
    const { drawer } = await made({ folder: 'each', scales: 'each' });
    for (const order of drawer.orders) expect(rangesIn(order)).toEqual([{ kind: 'all-steps' }]);
    expect(drawer.asked).toEqual([]);
    const [{ quantity }] = (drawer.orders[0].scene as Scene).scales;
    const own = await made({ folder: 'own', scales: 'shared', scaleOf: { [quantity]: 'each' } });
    expect(rangesIn(own.drawer.orders[0])).toEqual([{ kind: 'all-steps' }]);
  });
});

describe('names in a batch', () => {
  it('are taken for what a rule says in runs that lack them, and left alone in the others', async () => {
    const { document, revision } = await sets.openSet(set);
    const rules = { fields: { 'point:temperature': 'point:temp' }, parts: {} };
    await sets.saveSet(set, revision, differences(runSetForm, document, { ...document, rules }));
    const { drawer } = await made({ folder: 'rules', scales: 'each' });
    const asked = (run: string) =>
      JSON.stringify(drawer.orders.find((o) => o.run === run)!.scene).match(/point:\w+/)![0];
    expect([asked('slow'), asked('renamed')]).toEqual(['point:temperature', 'point:temp']);
    // The order of a batch begun before keeps what was said then.
    await sets.saveSet(set, revision + 1, differences(runSetForm, { ...document, rules }, document));
  });
  it('cannot lead out of the folder, neither by themselves nor by a link that lies there', async () => {
    const { plan } = await planned({ names: '../../{run}/../../{shot}' });
    expect(plan.drawings[0].files[0].path).toBe('slow/Front.png');
    const outside = mkdtempSync(join(tmpdir(), 'dresser-outside-'));
    await made({ folder: 'linked', of: ['slow'] });
    symlinkSync(outside, join(data, 'out/linked/fast'));
    const { failed, log } = await made({ folder: 'linked', of: ['fast'] }, new Drawer(), 'second');
    expect(failed).toBe(2);
    expect(log.get('fast/Front.png')!.problem!.reason).toMatch(/outside the folder/);
    expect(existsSync(join(outside, 'Front.png'))).toBe(false);
    rmSync(outside, { recursive: true });
  });
});
