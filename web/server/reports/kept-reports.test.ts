import { existsSync, mkdtempSync, readdirSync, rmSync, utimesSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { differences } from '#core/model/document-changes.ts';
import { type Report, type ReportSource, reportForm } from '#core/report/report.ts';
import { type ReportEdit, withReportEdit } from '#core/report/report-edits.ts';
import type { Scene } from '#core/scene/document.ts';
import { oven } from '../../../tests/sample-report.ts';
import { ovenRun } from '../../../tests/sample-run.ts';

const data = mkdtempSync(join(tmpdir(), 'dresser-reports-'));
process.env.DRESSER_DATA = data;
const reports = await import('./kept-reports.ts');
const store = await import('./seen-store.ts');
const bundles = await import('./bundles.ts');
const { sourceNow } = await import('./source-now.ts');
const { seeSources } = await import('./see-sources.ts');
const { filesOfRun } = await import('./file-hash.ts');
const { setRemoved } = await import('../removed.ts');
const { quietContext } = await import('../jobs/job-kind.ts');
const { Conflict, NotFound } = await import('../answer.ts');
const { database, runs, scenes } = await import('../database.ts');
const { changeShot, keepShot } = await import('../scenes.ts');
const { makeSet, openSet } = await import('../run-sets.ts');
const { defaultScene } = await import('#core/scene/default-scene.ts');
afterAll(() => rmSync(data, { recursive: true, force: true }));

const pictures = { width: 640, passes: 2 };
let scene: Scene;
let shot: string;
let set: string;

beforeAll(async () => {
  const description = { ...(await ovenRun()), parameters: { fan: 900 } };
  const db = await database();
  await db.insert(runs).values([
    { id: 'run', name: 'oven', description },
    { id: 'other', name: 'oven of May', description: { ...description, name: 'oven of May' } },
  ]);
  scene = defaultScene(description);
  await db.insert(scenes).values({ id: 'scene', run: 'run', name: 'Bake', document: scene });
  const thumbnail = 'data:image/png;base64,AAAA';
  shot = (await keepShot('scene', { name: 'wide', document: scene, thumbnail })).id;
  set = (await makeSet('Ovens', ['run', 'other'])).id;
});

const of = (kind: ReportSource['of']['kind'], id: string, run: string | null = null) => ({
  of: { kind, id },
  run,
});
const edited = async (id: string, ...edits: ReportEdit[]): Promise<Report> => {
  const { document, revision } = await reports.openReport(id);
  const after = edits.reduce(withReportEdit, document);
  await reports.saveReport(id, revision, differences(reportForm, document as never, after as never));
  return after;
};
const withFigure = (source: ReportSource): ReportEdit => ({
  type: 'block.add',
  block: {
    id: `f-${source.id}`,
    kind: 'figure',
    readers: null,
    source: source.id,
    captions: {},
    alt: null,
    width: 'full',
    living: true,
  },
  after: null,
  source,
});

describe('reports', () => {
  it('begin with sections to be filled, are listed, changed by several at once, and deleted', async () => {
    const { id } = await reports.makeReport(' Baking ');
    const { document, revision } = await reports.openReport(id);
    expect(document).toMatchObject({ name: 'Baking', date: expect.stringMatching(/^\d{4}-\d\d-\d\d$/) });
    expect(document.blocks.map((b) => b.kind === 'heading' && b.role)).toEqual([
      'summary',
      'results',
      'conclusion',
    ]);
    await edited(id, { type: 'report.front', change: { author: 'Ann' } });
    const other = withReportEdit(document, { type: 'report.front', change: { subtitle: 'of bread' } });
    await reports.saveReport(id, revision, differences(reportForm, document as never, other as never));
    expect((await reports.openReport(id)).document).toMatchObject({ author: 'Ann', subtitle: 'of bread' });
    const clash = withReportEdit(document, { type: 'report.front', change: { author: 'Ben' } });
    await expect(
      reports.saveReport(id, revision, differences(reportForm, document as never, clash as never)),
    ).rejects.toThrow(Conflict);
    expect((await reports.listedReports()).map((r) => r.name)).toEqual(['Baking']);
    await setRemoved('report', id, true);
    expect(await reports.listedReports()).toEqual([]);
    await setRemoved('report', id, false);
    await reports.deleteReport(id);
    await expect(reports.openReport(id)).rejects.toThrow(NotFound);
  });

  it('have versions, those with a name for good', async () => {
    const { id } = await reports.makeReport('Versions');
    await edited(id, { type: 'report.front', change: { subtitle: 'one' } });
    await reports.keepVersion(id, 'as sent to the board');
    await edited(id, { type: 'report.front', change: { subtitle: 'two' } });
    const versions = await reports.versionsOf(id);
    const sent = versions.find((v) => v.note === 'as sent to the board')!;
    expect(await reports.versionOf(id, sent.revision)).toMatchObject({ subtitle: 'one' });
    expect((await reports.openReport(id)).document.subtitle).toBe('two');
    await expect(reports.versionOf(id, 999)).rejects.toThrow('no longer kept');
    await expect(reports.keepVersion('nowhere', 'x')).rejects.toThrow(NotFound);
    await reports.deleteReport(id);
  });
});

describe('what a source is now', () => {
  const keyOf = async (...source: Parameters<typeof of>): Promise<string> =>
    (await sourceNow(of(...source), pictures)).key;

  it('has a key that is the same for as long as all is the same', async () => {
    const first = await keyOf('shot', shot);
    expect(await keyOf('shot', shot)).toBe(first);
    // The scene shows what the shot shows.
    expect(await keyOf('scene', 'scene')).toBe(first);
    expect(await keyOf('shot', shot, 'other')).not.toBe(first);
    expect((await sourceNow(of('shot', shot), { ...pictures, width: 800 })).key).not.toBe(first);
    await changeShot(shot, { name: 'other name' });
    expect(await keyOf('shot', shot)).toBe(first);
    await changeShot(shot, { document: { ...scene, layers: [] } });
    expect(await keyOf('shot', shot)).not.toBe(first);
    await changeShot(shot, { document: scene });
    expect(await keyOf('shot', shot)).toBe(first);
  });

  it('is told of sets with their runs and columns', async () => {
    const now = await sourceNow(of('set', set), pictures);
    expect(now).toMatchObject({
      kind: 'set',
      facts: {
        name: 'Ovens',
        columns: [{ name: 'fan' }],
        rows: [
          { run: 'oven', cells: ['900'] },
          { run: 'oven of May', cells: ['900'] },
        ],
      },
    });
    expect((await openSet(set)).document.runs).toEqual(['run', 'other']);
  });

  it('cannot be told where it or its run is gone', async () => {
    await expect(sourceNow(of('shot', 'gone'), pictures)).rejects.toThrow('no longer there');
    await expect(sourceNow(of('set', 'gone'), pictures)).rejects.toThrow(NotFound);
    await expect(sourceNow(of('scene', 'scene', 'gone'), pictures)).rejects.toThrow('no longer there');
  });
});

describe('what reports have seen', () => {
  const order = (quality: 'draft' | 'final', ...sources: { id: string; of: ReportSource['of'] }[]) => ({
    sources: sources.map((s) => ({ ...s, run: null, pictured: true, living: false })),
    pictures,
    quality,
  });

  it('is not looked at again where it is known, and each that is gone is told of by itself', async () => {
    const { key } = await sourceNow(of('shot', shot), pictures);
    await store.keepFacts(key, oven);
    await store.keepPicture(key, 'draft', new Uint8Array([1]));
    const ask = order(
      'draft',
      { id: 'a', of: { kind: 'shot', id: shot } },
      { id: 'b', of: { kind: 'scene', id: 'scene' } },
      { id: 'c', of: { kind: 'shot', id: 'gone' } },
      { id: 'd', of: { kind: 'set', id: set } },
    );
    const seen = await seeSources(ask, quietContext());
    expect(seen.keys).toEqual({ a: key, b: key, d: expect.stringMatching(/^[0-9a-f]{32}$/) });
    expect(seen.problems).toEqual({
      c: {
        file: 'the report',
        reason: 'The shot is no longer there',
        where: 'the sources of the report',
        remedy: expect.any(String),
      },
    });
    expect(await store.seenFacts(seen.keys.d)).toMatchObject({ kind: 'set', name: 'Ovens' });
  });

  it('has a draft until the final picture is there', async () => {
    const { key } = await sourceNow(of('shot', shot), pictures);
    expect(await store.bestPicture(key)).toMatchObject({ quality: 'draft', bytes: 1 });
    await store.keepPicture(key, 'final', new Uint8Array([1, 2]));
    expect(await store.bestPicture(key)).toMatchObject({ quality: 'final', bytes: 2 });
    expect(await store.readPicture(key, 'draft')).toBeNull();
    expect(await reports.seenByKeys([key, 'f'.repeat(32)])).toEqual({
      facts: { [key]: oven },
      pictured: { [key]: 'final' },
      living: [],
    });
    expect(await store.seenFacts('../../etc/passwd')).toBeNull();
    expect(await store.readPicture('../x', 'final')).toBeNull();
  });

  it('goes when no report, nor any version of one, knows it any more', async () => {
    const { key } = await sourceNow(of('shot', shot), pictures);
    const { id } = await reports.makeReport('Sweep');
    await edited(id, withFigure({ id: 's', name: 'wide', ...of('shot', shot), seen: null, before: null }), {
      type: 'source.seen',
      seen: { s: key },
    });
    const folder = join(data, 'reports');
    const old = new Date(Date.now() - 86_400_000);
    for (const name of readdirSync(folder)) utimesSync(join(folder, name), old, old);
    await reports.sweepReports();
    expect(readdirSync(folder).sort()).toEqual([`${key}.json`, `${key}.png`]);
    expect(await reports.sourcesNow(id)).toEqual({
      s: { key: (await sourceNow(of('shot', shot), { width: 1600, passes: 24 })).key },
    });
    await setRemoved('shot', shot, true);
    expect(await reports.sourcesNow(id)).toEqual({ s: { gone: 'The shot is no longer there.' } });
    await setRemoved('shot', shot, false);
    await reports.deleteReport(id);
    await reports.sweepReports();
    expect(existsSync(join(folder, `${key}.json`))).toBe(false);
  });
});

describe('a report as a file', () => {
  it('is opened on another run with its scenes and sets, without what was seen', async () => {
    const { id } = await reports.makeReport('Travels');
    await edited(
      id,
      withFigure({ id: 's', name: 'wide', ...of('shot', shot), seen: null, before: null }),
      withFigure({ id: 'lost', name: 'lost', ...of('shot', 'gone'), seen: null, before: null }),
      {
        type: 'block.add',
        block: { id: 'r', kind: 'runs', readers: null, source: 't', captions: {} },
        after: null,
        source: { id: 't', name: 'Ovens', ...of('set', set), seen: null, before: null },
      },
      { type: 'source.seen', seen: { s: 'a'.repeat(32) } },
    );
    const bundle = JSON.parse(JSON.stringify(await bundles.bundleOf(id)));
    expect(Object.keys(bundle.linked).sort()).toEqual(['s', 't']);
    const opened = await bundles.openBundle(bundle, [{ id: 'other', name: 'oven of May' }]);
    expect(opened.troubles).toEqual(['lost: It was gone when the report was saved.']);
    const { document } = await reports.openReport(opened.id);
    const [own, , ofSet] = document.sources;
    expect(own).toMatchObject({ name: 'wide', seen: null, run: null });
    const now = await sourceNow(own, pictures);
    expect(now).toMatchObject({ kind: 'scene', runId: 'other' });
    expect((await openSet(ofSet.of.id)).document).toMatchObject({ name: 'Ovens', runs: ['other'] });
    const broken = {
      ...bundle,
      linked: {
        s: { ...bundle.linked.s, scene: 7 },
        t: { ...bundle.linked.t, set: { runs: 1, shots: 'x' } },
      },
    };
    const { troubles } = await bundles.openBundle(broken, [{ id: 'other', name: 'oven of May' }]);
    expect(troubles).toHaveLength(3);
    await reports.deleteReport(id);
    await reports.deleteReport(opened.id);
  });
});

describe('the files of a run', () => {
  it('are told by their names, with their hashes where they are there', async () => {
    const run = { ...(await ovenRun()), sources: ['/a/secret/place/oven.vtu'], source: null };
    expect(await filesOfRun(run, new AbortController().signal)).toEqual([
      { name: 'oven.vtu', bytes: null, sha256: null },
    ]);
    const path = import.meta.filename;
    const own = { ...run, sources: ['x'], source: { paths: { x: path } } } as never;
    const [file] = await filesOfRun(own, new AbortController().signal);
    expect(file).toMatchObject({ name: 'x', sha256: expect.stringMatching(/^[0-9a-f]{64}$/) });
    expect(file.bytes).toBeGreaterThan(1000);
  });
});
