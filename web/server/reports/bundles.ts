import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { storable } from '#core/model/clean-text.ts';
import { isStoreError } from '#core/model/store-error.ts';
import type { Report, ReportSource } from '#core/report/report.ts';
import {
  type LinkedInBundle,
  type ReportBundle,
  type RunForBundle,
  runsForBundle,
} from '#core/report/report-bundle.ts';
import { enclosuresIn } from '#core/scene/enclosure.ts';
import { repairScene } from '#core/scene/repair-scene.ts';
import { readSceneFile, writeSceneFile } from '#core/scene/scene-file.ts';
import { emptyRunSet, runSetSchema } from '#core/sets/run-set.ts';
import { NotFound } from '../answer.ts';
import { database, runs, scenes } from '../database.ts';
import { keepEnclosure } from '../enclosures.ts';
import { arraysFolder } from '../paths.ts';
import { keepSet, openSet } from '../run-sets.ts';
import { changing } from '../saved-documents.ts';
import { keepShot } from '../scenes.ts';
import { keepReport, openReport } from './kept-reports.ts';
import { keptScene } from './source-now.ts';

/** A report as one file, with everything that it is linked to but the runs. */
export async function bundleOf(id: string): Promise<ReportBundle> {
  const { document } = await openReport(id);
  const linked: ReportBundle['linked'] = {};
  for (const source of document.sources) {
    const found = await linkedTo(source).catch((error) => {
      if (error instanceof NotFound) return null;
      throw error;
    });
    if (found) linked[source.id] = found;
  }
  return { dresser: 'report', version: 1, report: unseen(document), linked };
}

/** Without what was seen: that is of this place. */
const unseen = (report: Report): Report => ({
  ...report,
  sources: report.sources.map((s) => ({ ...s, run: null, seen: null, before: null })),
});

async function linkedTo({ of, run: other, name }: ReportSource): Promise<LinkedInBundle> {
  if (of.kind === 'set') {
    const { document } = await openSet(of.id);
    return {
      kind: 'set',
      name: document.name,
      set: { ...document, runs: [], typed: {}, marked: [], watch: null },
    };
  }
  const kept = await keptScene(of);
  const { scene } = repairScene(kept.document);
  const enclosed = await Promise.all(
    enclosuresIn(scene).map(({ bytes }) => readFile(join(arraysFolder, bytes.hash), 'base64')),
  );
  const db = await database();
  const [row] = await db
    .select({ name: runs.name })
    .from(runs)
    .where(eq(runs.id, other ?? kept.run));
  return {
    kind: 'scene',
    name,
    run: row?.name ?? '',
    scene: JSON.parse(writeSceneFile(scene, enclosed)),
    film: kept.film,
  };
}

/** What came of opening a bundle. */
export interface OpenedBundle {
  id: string;
  /** What could not be linked, in sentences. */
  troubles: string[];
}

/** Opens a report on some runs: its scenes and sets are made anew on them. What cannot be is told, and the rest is made. */
export async function openBundle(
  bundle: ReportBundle,
  given: readonly RunForBundle[],
): Promise<OpenedBundle> {
  const meant = runsForBundle(bundle, given);
  const troubles: string[] = [];
  const sources: ReportSource[] = [];
  for (const source of bundle.report.sources) {
    const own: ReportSource = { ...source, run: null, seen: null, before: null };
    try {
      sources.push({ ...own, of: await madeAnew(source, bundle.linked[source.id], meant, given) });
    } catch (error) {
      // What the store refuses it refuses for all of them.
      if (isStoreError(error)) throw error;
      troubles.push(`${source.name}: ${(error as Error).message}`);
      sources.push(own);
    }
  }
  const { id } = await keepReport({ ...bundle.report, sources });
  return { id, troubles };
}

/** @throws Error in a sentence where it cannot be made */
async function madeAnew(
  { id, name }: ReportSource,
  found: LinkedInBundle | undefined,
  meant: ReadonlyMap<string, string | null>,
  given: readonly RunForBundle[],
): Promise<ReportSource['of']> {
  if (!found) throw new Error('It was gone when the report was saved.');
  if (found.kind === 'set') return { kind: 'set', id: await setFrom(found, given) };
  const run = meant.get(id) ?? null;
  if (run === null)
    throw new Error(`None of the runs is called “${found.run}”. Name the run so, or give one run alone.`);
  return { kind: 'shot', id: await shotFrom(found, name, run) };
}

/** A scene of a run with one shot, which is what the report shows. */
async function shotFrom(
  { scene: written, film }: Extract<LinkedInBundle, { kind: 'scene' }>,
  name: string,
  run: string,
): Promise<string> {
  const { scene, enclosed } = readSceneFile(JSON.stringify(written));
  for (const { enclosure, base64 } of enclosed)
    await keepEnclosure(enclosure.name, oneChunk(Buffer.from(base64, 'base64')));
  const id = randomUUID();
  const document = storable({ ...scene, name });
  await changing((tx) => tx.insert(scenes).values({ id, run, name, document }));
  const shot = {
    name,
    document,
    thumbnail: '',
    kind: film === null ? 'picture' : 'film',
    filmTime: film,
  } as const;
  return (await keepShot(id, shot)).id;
}

async function* oneChunk(bytes: Uint8Array): AsyncIterable<Uint8Array> {
  yield bytes;
}

async function setFrom(
  { name, set }: Extract<LinkedInBundle, { kind: 'set' }>,
  given: readonly RunForBundle[],
): Promise<string> {
  const runs = given.map((r) => r.id);
  const read = runSetSchema.safeParse({ ...emptyRunSet(name), ...(set as object), runs });
  if (!read.success) throw new Error('Its table of runs cannot be read: it was written by another version.');
  return (await keepSet(read.data)).id;
}
