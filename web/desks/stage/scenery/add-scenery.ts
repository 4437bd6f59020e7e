import { joinBounds } from '#core/model/mesh.ts';
import { runBounds } from '#core/model/run.ts';
import type { Piece } from '#core/scene/document.ts';
import { bodiesFitted, type FromFile } from '#core/scene/scenery/from-file.ts';
import type { Placed } from '#core/scene/scenery/placed.ts';
import { type SceneryId, sceneryKind } from '#core/scene/scenery/registry.ts';
import { settingOf } from '#core/scene/setting.ts';
import { keepEnclosed } from '#engine/enclosed.ts';
import { loadBodies, readBodyFile } from '#stage/scenery/enclosed-bodies.ts';
import { sceneryParts } from '#stage/scenery/scenery-parts.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit, openScenery, sceneNow, useDesk } from '../desk-store.ts';
import { lookAt } from '../look-from.ts';

/** Adds scenery of a kind beside the model; its settings open. */
export function addScenery(kind: SceneryId, change: Record<string, unknown> = {}): void {
  const { run } = useDesk.getState();
  const scene = sceneNow();
  const id = freshId('scenery');
  const options = sceneryKind(kind).defaults(settingOf(run, scene), scene);
  const piece = { ...options, ...change, id, kind, visible: true } as Piece;
  edit({ type: 'scenery.add', pieces: [piece] });
  openScenery(id);
}

/**
 * Reads a file of bodies, keeps it with the scene, and says how it is to stand beside the model.
 *
 * @throws Error when it cannot be read or kept
 */
export async function takeBodyFile(file: File, signal?: AbortSignal): Promise<Partial<FromFile & Placed>> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const read = await readBodyFile(bytes, file.name, signal);
  const kept = await keepEnclosed(file.name, bytes);
  await loadBodies([kept]);
  const { run } = useDesk.getState();
  return { file: kept, ...bodiesFitted(read, run, runBounds(run), sceneNow()) };
}

/** Stands the bodies of a file beside the model. */
export async function addBodyFile(file: File): Promise<void> {
  addScenery('file', await takeBodyFile(file));
}

/** Copies of pieces, a little aside, as a group of their own where they were one. */
export function duplicatePieces(pieces: readonly Piece[]): void {
  const group = pieces[0]?.group;
  const copies = pieces.map(
    (piece, i): Piece => ({
      ...piece,
      id: `${freshId('scenery')}-${i}`,
      locked: false,
      group: group && pieces.length > 1 ? `${group} 2` : piece.group,
    }),
  );
  edit({ type: 'scenery.add', pieces: copies });
  openScenery(copies[0].id);
}

/** Fills the picture with pieces of scenery; with the run too where that is asked for. */
export function lookAtScenery(pieces: readonly Piece[], withRun: boolean): void {
  const desk = useDesk.getState();
  const scenery = pieces.map((piece) => ({ ...piece, visible: true }));
  const { bounds } = sceneryParts({ ...sceneNow(), scenery }, desk.run);
  const change = lookAt(withRun ? joinBounds(bounds, desk.shown) : bounds, desk);
  edit({ type: 'setting.change', thing: 'camera', change });
}
