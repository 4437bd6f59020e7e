import { randomUUID } from 'node:crypto';
import { and, desc, eq } from 'drizzle-orm';
import { storable } from '#core/model/clean-text.ts';
import type { DocumentChange } from '#core/model/document-changes.ts';
import { NotFound } from './answer.ts';
import { database } from './database.ts';
import { keepState } from './document-states.ts';
import { isThere } from './removed.ts';
import { changing, type Saved, type SavedKind, withSavedChanges } from './saved-documents.ts';
import type { DocumentTable, StateTable } from './tables.ts';

/** A kind of document that has a table of its own. */
export interface KeptKind<T extends { name: string }> extends SavedKind<T> {
  table: DocumentTable<T>;
  /** One that was kept before something was added to its kind, as it is now. */
  inFormOfNow(document: T): T;
  /** Where earlier states of its documents are kept, if they are. */
  states?: StateTable<T>;
}

const noSuch = (name: string): NotFound => new NotFound(`There is no such ${name}.`);

/** All that are there, the one changed last first. */
export async function listedDocuments<T extends { name: string }>({
  table,
}: KeptKind<T>): Promise<{ id: string; name: string; document: T; changed: string }[]> {
  const db = await database();
  const rows = await db.select().from(table).where(isThere(table)).orderBy(desc(table.changed));
  return rows.map(({ id, name, document, changed }) => ({
    id,
    name,
    document: document as T,
    changed: changed.toISOString(),
  }));
}

export function keepNewDocument<T extends { name: string }>(
  { table }: KeptKind<T>,
  document: T,
): Promise<{ id: string }> {
  return changing(async (tx) => {
    const id = randomUUID();
    const kept = storable(document);
    await tx.insert(table).values({ id, name: kept.name, document: kept } as typeof table.$inferInsert);
    return { id };
  });
}

/** @throws NotFound */
export async function openDocument<T extends { name: string }>(
  { table, name, inFormOfNow }: KeptKind<T>,
  id: string,
): Promise<{ document: T; revision: number }> {
  const db = await database();
  const [row] = await db
    .select()
    .from(table)
    .where(and(eq(table.id, id), isThere(table)));
  if (!row) throw noSuch(name);
  return { document: inFormOfNow(row.document as T), revision: row.revision };
}

/** Saves what was changed of one; see `withSavedChanges`. */
export function saveDocument<T extends { name: string }>(
  kind: KeptKind<T>,
  id: string,
  revision: number,
  changes: readonly DocumentChange[],
): Promise<Saved<T>> {
  const { table } = kind;
  return changing(async (tx) => {
    const [row] = await tx.select().from(table).where(eq(table.id, id)).for('update');
    if (!row) throw noSuch(kind.name);
    const before = { document: kind.inFormOfNow(row.document as T), revision: row.revision };
    const document = withSavedChanges(kind, before, changes);
    if (kind.states) await keepState(tx, kind.states, { ...row, document: row.document as T });
    await tx
      .update(table)
      .set({ document, name: document.name, revision: row.revision + 1, changed: new Date() } as object)
      .where(eq(table.id, id));
    return { revision: row.revision + 1, ...(row.revision === revision ? {} : { document }) };
  });
}

/** Deletes one for good. */
export async function deleteDocument<T extends { name: string }>(
  { table, name }: KeptKind<T>,
  id: string,
): Promise<void> {
  await changing(async (tx) => {
    const gone = await tx.delete(table).where(eq(table.id, id)).returning({ id: table.id });
    if (gone.length === 0) throw noSuch(name);
  });
}
