import type { Backdrop } from './backdrop.ts';
import { ink } from './ink.ts';
import { mist } from './mist.ts';
import { ownBackdrop } from './own.ts';
import { paper } from './paper.ts';
import { white } from './white.ts';

/** Every backdrop; the first is the usual one. */
export const backdrops: readonly Backdrop[] = [paper, mist, white, ink];

export const backdropById = (id: string): Backdrop => backdrops.find((b) => b.id === id) ?? backdrops[0];

/** The one a scene has chosen, which may be of its own colours. */
export const backdropOf = ({ kind, top, foot }: { kind: string; top: string; foot: string }): Backdrop =>
  kind === 'own' ? ownBackdrop(top, foot) : backdropById(kind);
