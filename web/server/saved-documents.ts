import { storable } from '#core/model/clean-text.ts';
import { type DocumentChange, type DocumentForm, withDifferences } from '#core/model/document-changes.ts';
import { ReadError } from '#core/model/read-error.ts';
import { z } from '#core/model/schema.ts';
import { Conflict } from './answer.ts';
import { type Database, database } from './database.ts';
import { ensureRoomToSave, inStore } from './store-trouble.ts';

export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

/** Does something with the database when there is room for it; all of it or nothing. */
export async function changing<T>(work: (tx: Transaction) => Promise<T>): Promise<T> {
  await ensureRoomToSave();
  const db = await database();
  return inStore(() => db.transaction(work));
}

/** What a desk sends to save a document. */
export const savedChanges = z.object({
  /** What the changes were made to. */
  revision: z.number().int().min(0),
  changes: z
    .array(
      z.object({
        at: z.array(z.string().max(400)).min(1).max(3),
        was: z.unknown().optional(),
        now: z.unknown().optional(),
        after: z.string().max(400).nullable().optional(),
      }),
    )
    .min(1)
    .max(20_000),
});

/** Answer to a save: the document only when it is not just what was sent. */
export interface Saved<T> {
  revision: number;
  document?: T;
}

/** What is sent back when a save touches what someone else has changed. */
export interface SaveConflict<T> {
  revision: number;
  document: T;
  /** Where both changed the same thing, in words. */
  places: string[];
}

/** A kind of document that is saved by its changes. */
export interface SavedKind<T> {
  /** What it is, in a word. */
  name: string;
  form: DocumentForm;
  schema: z.ZodType<T>;
  sayPlace(change: DocumentChange, document: T): string;
}

/**
 * The document that comes of changes to one that may have been changed meanwhile: both changes are kept as long as they touch
 * different things.
 *
 * @param before as it is kept now, at its revision
 * @throws Conflict with what is kept where both changed the same thing; ReadError where it would be none of its kind
 */
export function withSavedChanges<T extends object>(
  { name, form, schema, sayPlace }: SavedKind<T>,
  before: { document: T; revision: number },
  changes: readonly DocumentChange[],
): T {
  const { document, refused } = withDifferences(
    form,
    before.document as Record<string, unknown>,
    storable(changes as DocumentChange[]),
  );
  if (refused.length > 0) {
    const places = [...new Set(refused.map((c) => sayPlace(c, before.document)))];
    throw new Conflict({ ...before, places } satisfies SaveConflict<T>);
  }
  const result = schema.safeParse(document);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  throw new ReadError(
    issue.message,
    `${name}, ${issue.path.join(' / ').slice(0, 200)}`,
    `Undo the last change; the ${name} as it was saved is not touched.`,
  );
}
