import type { Scene } from '#core/scene/document.ts';
import type { Picture } from '#stage/pictures/picture.ts';
import type { PictureOptions } from '#stage/pictures/render-picture.ts';
import type { Shot } from '#web/desks/stage/shot-edits.ts';
import { developScene } from './darkroom.ts';
import type { GiveOutProps } from './give-out-props.ts';

/** A shot that can be opened. */
export type OpenShot = Shot & { document: Scene };

export const openShots = (shots: readonly Shot[]): OpenShot[] =>
  shots.filter((s): s is OpenShot => s.document !== null);

/** The step a shot shows; a run of fewer steps than it was kept with ends earlier. */
export const stepOf = ({ document }: OpenShot, steps: number): number => Math.min(document.step, steps - 1);

interface Making {
  /** Size, background and light of one. */
  options(shot: OpenShot): Omit<PictureOptions, 'signal' | 'progress'>;
  /** What it is called while it is made, for example `Figure`. */
  each: string;
  progress(done: number, label: string): void;
  signal: AbortSignal;
  take(picture: Picture, shot: OpenShot): Promise<void>;
}

/** Makes a picture of each shot, one after the other, with the stage of the screen. */
export async function developShots(
  { controller, viewport }: GiveOutProps,
  shots: readonly OpenShot[],
  { options, each, progress, signal, take }: Making,
): Promise<void> {
  const release = await viewport.hold();
  try {
    for (const [n, shot] of shots.entries()) {
      const step = stepOf(shot, controller.run.steps.length);
      const scene = { ...shot.document, step };
      const picture = await developScene(viewport.stage, controller.source, scene, step, {
        ...options(shot),
        signal,
        progress: (p) => progress((n + p) / shots.length, `${each} ${n + 1} of ${shots.length}`),
      });
      await take(picture, shot);
    }
  } finally {
    release();
  }
}
