import type { Backdrop } from './backdrop.ts';
import { ink } from './ink.ts';
import { mist } from './mist.ts';
import { ownBackdrop } from './own.ts';
import { paper } from './paper.ts';
import { white } from './white.ts';

/** Every backdrop; the first is the usual one. */
export const backdrops: readonly Backdrop[] = [paper, mist, white, ink];

/** A wall that goes over into the floor without an edge, all of one colour, as in a studio of photographers. */
export const SWEEP = 'sweep';

/** Backdrops that show something in place of colours. */
export const shownBackdrops = [
  { id: 'picture', name: 'a picture', purpose: 'a photograph or a drawing of yours' },
  { id: 'surroundings', name: 'the surroundings', purpose: 'what the light comes from' },
] as const;

export const backdropById = (id: string): Backdrop => backdrops.find((b) => b.id === id) ?? backdrops[0];

/** The one a scene has chosen, which may be of its own colours; of what is shown, how words on it are. */
export function backdropOf({ kind, top, foot }: { kind: string; top: string; foot: string }): Backdrop {
  if (kind === SWEEP) return { ...ownBackdrop(top, top), id: SWEEP, name: 'a sweep' };
  const shown = shownBackdrops.find(({ id }) => id === kind);
  if (kind !== 'own' && !shown) return backdropById(kind);
  const own = ownBackdrop(top, foot);
  return shown ? { ...own, id: shown.id, name: shown.name } : own;
}
