import { randomUUID } from 'node:crypto';
import { and, asc, eq } from 'drizzle-orm';
import { finishSchema } from '#core/light/own-finish.ts';
import { cleanName, storable } from '#core/model/clean-text.ts';
import { ReadError } from '#core/model/read-error.ts';
import { keptBrandSchema } from '#core/report/brand.ts';
import { templateSchema } from '#core/report/template.ts';
import { keptLookSchema, type Look, readLook } from '#core/scene/looks/look.ts';
import { shippedLooks, USUAL_LOOK } from '#core/scene/looks/registry.ts';
import { NotFound } from './answer.ts';
import { choices, database, type StyleKind, styles } from './database.ts';
import { isThere } from './removed.ts';
import { changing } from './saved-documents.ts';

/** What each kind must be. */
const kinds = {
  look: keptLookSchema,
  finish: finishSchema,
  template: templateSchema,
  brand: keptBrandSchema,
} as const satisfies Record<StyleKind, unknown>;
export const styleKinds = Object.keys(kinds) as [StyleKind, ...StyleKind[]];

/** A look, a finish, a template or a brand of one's own, as desks get it. */
export interface KeptStyle<T = unknown> {
  id: string;
  name: string;
  document: T;
}

const shown = { id: styles.id, name: styles.name, document: styles.document };

/** All of a kind, by their names. */
export async function keptStyles(kind: StyleKind): Promise<KeptStyle[]> {
  const db = await database();
  return db
    .select(shown)
    .from(styles)
    .where(and(eq(styles.kind, kind), isThere(styles)))
    .orderBy(asc(styles.name));
}

/**
 * Keeps one. It takes the place of another of its kind and name.
 *
 * @throws ReadError when it is none of its kind
 */
export async function keepStyle(kind: StyleKind, given: unknown): Promise<KeptStyle> {
  const read = kinds[kind].safeParse(storable(given));
  if (!read.success || read.data === null || typeof read.data === 'string') {
    const issue = read.error?.issues[0];
    throw new ReadError(
      issue?.message ?? `it is no ${kind} of one's own`,
      `${kind}, ${issue?.path.join(' / ').slice(0, 200) || 'top'}`,
      'Change it and keep it again.',
    );
  }
  const document = read.data as { name: string };
  const name = cleanName(document.name, kind).slice(0, 100);
  return changing(async (tx) => {
    const row = { kind, name, document: { ...document, name } };
    const [there] = await tx
      .update(styles)
      .set(row)
      .where(and(eq(styles.kind, kind), eq(styles.name, name), isThere(styles)))
      .returning(shown);
    if (there) return there;
    const [made] = await tx
      .insert(styles)
      .values({ id: randomUUID(), ...row })
      .returning(shown);
    return made;
  });
}

/** What new scenes look like, by the id of a look that ships or is kept. */
const NEW_SCENES = 'the look of new scenes';

export async function lookOfNewScenes(): Promise<string> {
  const db = await database();
  const [row] = await db.select().from(choices).where(eq(choices.about, NEW_SCENES));
  return typeof row?.value === 'string' ? row.value : USUAL_LOOK;
}

/** @throws NotFound when there is no such look */
export async function setLookOfNewScenes(id: string): Promise<void> {
  if (!(await lookById(id))) throw new NotFound('There is no such look any more.');
  await changing((tx) =>
    tx
      .insert(choices)
      .values({ about: NEW_SCENES, value: id })
      .onConflictDoUpdate({ target: choices.about, set: { value: id } }),
  );
}

/** A look that ships or is kept; null when it is gone, or cannot be read any more. */
export async function lookById(id: string): Promise<Look | null> {
  const shipped = shippedLooks.find((l) => l.id === id);
  if (shipped) return shipped;
  const kept = (await keptStyles('look')).find((l) => l.id === id);
  try {
    return kept ? readLook(kept.document).look : null;
  } catch {
    return null;
  }
}
