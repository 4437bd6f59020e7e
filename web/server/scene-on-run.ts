import { randomUUID } from 'node:crypto';
import { and, asc, eq } from 'drizzle-orm';
import { storable } from '#core/model/clean-text.ts';
import type { Scene } from '#core/scene/document.ts';
import { NotFound } from './answer.ts';
import { runs, scenes, shots } from './database.ts';
import { isThere } from './removed.ts';
import { changing } from './saved-documents.ts';

/** Scenes as they are on another run. */
export interface SceneOnRun {
  run: string;
  document: Scene;
  /** The shots that go along, by the ids of those they come from. */
  shots: { id: string; document: Scene }[];
}

/**
 * Makes a scene of another run out of one, with its shots under their names; the scene it comes from stays as it is.
 *
 * @returns the id of the new scene; its shots have no small pictures yet
 */
export function makeSceneOnRun(
  from: string,
  { run, document, shots: moved }: SceneOnRun,
): Promise<{ id: string }> {
  return changing(async (tx) => {
    const [there] = await tx
      .select({ id: runs.id })
      .from(runs)
      .where(and(eq(runs.id, run), isThere(runs)));
    if (!there) throw new NotFound('That run is no longer there.');
    const [scene] = await tx
      .select({ id: scenes.id })
      .from(scenes)
      .where(and(eq(scenes.id, from), isThere(scenes)));
    if (!scene) throw new NotFound('There is no such scene.');
    const id = randomUUID();
    await tx.insert(scenes).values({ id, run, name: document.name, document: storable(document) });
    const kept = await tx
      .select()
      .from(shots)
      .where(and(eq(shots.scene, from), isThere(shots)))
      .orderBy(asc(shots.position));
    const documents = new Map(moved.map((shot) => [shot.id, shot.document]));
    const rows = kept.flatMap((shot) => {
      const own = documents.get(shot.id);
      return own ? [{ ...shot, id: randomUUID(), scene: id, document: storable(own), thumbnail: '' }] : [];
    });
    if (rows.length > 0) await tx.insert(shots).values(rows.map((row, position) => ({ ...row, position })));
    return { id };
  });
}
