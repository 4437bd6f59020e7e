import { and, desc, eq, isNull, lt } from 'drizzle-orm';
import { NotFound } from './answer.ts';
import { database } from './database.ts';
import type { Transaction } from './saved-documents.ts';
import type { StateTable } from './tables.ts';

/** Earlier states of a document that are kept; those with a note are kept as well, however old. */
const STATES_KEPT = 20;
/** Saves closer together than this, in milliseconds, make one state: a drag is not twenty of them. */
const STATE_PAUSE = 10_000;

/** A state that a document had. */
export interface KeptState {
  revision: number;
  saved: Date;
  note: string | null;
}

/** Keeps the state a document has now, before it gets another one, or because somebody wants it to be found again. */
export async function keepState<T>(
  tx: Transaction,
  table: StateTable<T>,
  row: { id: string; revision: number; document: T; changed: Date },
  { always = false, note = null as string | null } = {},
): Promise<void> {
  const own = eq(table.owner, row.id);
  const [last] = await tx
    .select({ replaced: table.replaced })
    .from(table)
    .where(own)
    .orderBy(desc(table.revision))
    .limit(1);
  if (!always && last && Date.now() - last.replaced.getTime() < STATE_PAUSE) return;
  const state = { owner: row.id, revision: row.revision, document: row.document, saved: row.changed, note };
  const insert = tx.insert(table).values(state as typeof table.$inferInsert);
  await (note === null
    ? insert.onConflictDoNothing()
    : insert.onConflictDoUpdate({ target: [table.owner, table.revision], set: { note } as object }));
  const [oldest] = await tx
    .select({ revision: table.revision })
    .from(table)
    .where(and(own, isNull(table.note)))
    .orderBy(desc(table.revision))
    .offset(STATES_KEPT - 1)
    .limit(1);
  if (oldest) await tx.delete(table).where(and(own, isNull(table.note), lt(table.revision, oldest.revision)));
}

/** Earlier states of a document, the youngest first. */
export async function keptStates<T>(table: StateTable<T>, id: string): Promise<KeptState[]> {
  const db = await database();
  return db
    .select({ revision: table.revision, saved: table.saved, note: table.note })
    .from(table)
    .where(eq(table.owner, id))
    .orderBy(desc(table.revision));
}

/**
 * One of them, as it was kept.
 *
 * @param what the document is, in a word
 * @throws NotFound
 */
export async function keptState<T>(
  table: StateTable<T>,
  what: string,
  id: string,
  revision: number,
): Promise<T> {
  const db = await database();
  const [state] = await db
    .select({ document: table.document })
    .from(table)
    .where(and(eq(table.owner, id), eq(table.revision, revision)));
  if (!state) throw new NotFound(`That state of the ${what} is no longer kept.`);
  return state.document as T;
}
