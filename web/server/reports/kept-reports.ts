import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { cleanName, cleanText } from '#core/model/clean-text.ts';
import type { DocumentChange } from '#core/model/document-changes.ts';
import type { SourceFacts } from '#core/report/facts.ts';
import { emptyReport, openingBlocks, type Report, reportForm, reportSchema } from '#core/report/report.ts';
import { NotFound } from '../answer.ts';
import { database, reportStates, reports } from '../database.ts';
import { type KeptState, keepState, keptState, keptStates } from '../document-states.ts';
import {
  deleteDocument,
  type KeptKind,
  keepNewDocument,
  listedDocuments,
  openDocument,
  saveDocument,
} from '../kept-documents.ts';
import { changing } from '../saved-documents.ts';
import { bestPicture, type PictureQuality, seenFacts, sizeOfLiving, sweepSeen } from './seen-store.ts';
import { sourceNow } from './source-now.ts';

const places: Record<string, string> = {
  name: 'the title',
  subtitle: 'the line below the title',
  author: 'who made it',
  date: 'the date',
  template: 'the template',
  sources: 'what the report is linked to',
  blocks: 'something in the report',
  glossary: 'the glossary',
  brand: 'how it looks',
  pictures: 'how pictures are drawn',
};

const kept: KeptKind<Report> = {
  name: 'report',
  table: reports,
  states: reportStates,
  form: reportForm,
  schema: reportSchema,
  sayPlace: ({ at: [name] }: DocumentChange) => places[name] ?? name,
  inFormOfNow: (document) => ({
    ...emptyReport(document.name),
    ...document,
    // Figures were not always living.
    blocks: document.blocks.map((b) => (b.kind === 'figure' ? { ...b, living: b.living ?? true } : b)),
  }),
};

export interface ListedReport {
  id: string;
  name: string;
  /** How many figures, charts and tables. */
  shown: number;
  /** ISO 8601. */
  changed: string;
}

/** All reports, the one changed last first. */
export async function listedReports(): Promise<ListedReport[]> {
  const all = await listedDocuments(kept);
  return all.map(({ id, name, document, changed }) => ({
    id,
    name,
    shown: document.blocks.filter((b) => 'source' in b).length,
    changed,
  }));
}

/** Makes a report that can be filled. */
export const makeReport = (name: string): Promise<{ id: string }> =>
  keepReport({
    ...emptyReport(cleanName(name, 'Report')),
    date: new Date().toISOString().slice(0, 10),
    blocks: openingBlocks(randomUUID),
  });

export const keepReport = (report: Report): Promise<{ id: string }> => keepNewDocument(kept, report);

/** What was seen for a report, by keys. */
export interface SeenForReport {
  facts: Record<string, SourceFacts>;
  /** How well the pictures are drawn that there are, by keys. */
  pictured: Record<string, PictureQuality>;
  /** Keys of those that can be turned, or are known to be too large for it. */
  living: string[];
}

/** @throws NotFound */
export const openReport = (id: string): Promise<{ document: Report; revision: number }> =>
  openDocument(kept, id);

export const keysOf = ({ sources }: Pick<Report, 'sources'>): string[] => [
  ...new Set(sources.flatMap((s) => [s.seen, s.before].filter((key) => key !== null))),
];

/** What was seen by some keys, as far as it is kept. */
export async function seenByKeys(keys: readonly string[]): Promise<SeenForReport> {
  const facts = await Promise.all(keys.map(async (key) => [key, await seenFacts(key)] as const));
  const pictures = await Promise.all(keys.map(async (key) => [key, await bestPicture(key)] as const));
  const living = await Promise.all(keys.map(async (key) => (await sizeOfLiving(key)) !== null));
  return {
    living: keys.filter((_, i) => living[i]),
    facts: Object.fromEntries(facts.filter((one): one is [string, SourceFacts] => one[1] !== null)),
    pictured: Object.fromEntries(pictures.flatMap(([key, best]) => (best ? [[key, best.quality]] : []))),
  };
}

export const saveReport = (id: string, revision: number, changes: readonly DocumentChange[]) =>
  saveDocument(kept, id, revision, changes);

export const deleteReport = (id: string) => deleteDocument(kept, id);

/** Of a source: the key of what is there now, or why nothing is. */
export type SourceState = { key: string } | { gone: string };

/** How each source of a report stands, by its id. */
export async function sourcesNow(id: string): Promise<Record<string, SourceState>> {
  const { document } = await openDocument(kept, id);
  const each = document.sources.map(async (source): Promise<[string, SourceState]> => {
    try {
      return [source.id, { key: (await sourceNow(source, document.pictures)).key }];
    } catch (error) {
      const { reason, message } = error as Error & { reason?: string };
      return [source.id, { gone: reason ?? message }];
    }
  });
  return Object.fromEntries(await Promise.all(each));
}

/** Versions of a report, the youngest first. */
export async function versionsOf(id: string): Promise<KeptState[]> {
  await openDocument(kept, id);
  return keptStates(reportStates, id);
}

export const versionOf = async (id: string, revision: number): Promise<Report> =>
  kept.inFormOfNow(await keptState(reportStates, 'report', id, revision));

/** Keeps the report as it is now under a note, so that it is found again however much is changed. */
export async function keepVersion(id: string, note: string): Promise<void> {
  await changing(async (tx) => {
    const [row] = await tx.select().from(reports).where(eq(reports.id, id)).for('update');
    if (!row) throw new NotFound('There is no such report.');
    await keepState(tx, reportStates, row, { always: true, note: cleanText(note, 200) || 'kept' });
  });
}

/** Removes pictures and facts that no report, nor any version of one, knows any more. */
export async function sweepReports(): Promise<void> {
  const db = await database();
  const keysIn = (rows: { document: Report }[]): string[] => rows.flatMap(({ document }) => keysOf(document));
  const now = await db.select({ document: reports.document }).from(reports);
  const before = await db.select({ document: reportStates.document }).from(reportStates);
  await sweepSeen(new Set([...keysIn(now), ...keysIn(before)]));
}
