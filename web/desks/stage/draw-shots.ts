import { DRAFT_PASSES } from '#stage/pictures/render-picture.ts';
import type { Viewport } from '#stage/viewport.ts';
import { drawnThumbnail } from '#web/desks/shared/drawn-thumbnail.ts';
import type { DeskController } from './desk-controller.ts';
import { useDesk } from './desk-store.ts';
import { showShotPicture } from './shot-edits.ts';
import { numbersThumbnail } from './shots/numbers-picture.ts';

/**
 * Draws the small pictures of shots that came from another run and were not looked at yet, one after the other, with the stage
 * of the screen. One that cannot be drawn is left out: opening it says why.
 *
 * @param given told before each: whether to stop
 */
export async function drawMissingShots(
  { source }: DeskController,
  viewport: Viewport,
  given: () => boolean,
): Promise<void> {
  for (const shot of useDesk.getState().shots.filter((s) => s.thumbnail === '')) {
    const { document: scene, kind } = shot;
    if (given() || !scene) continue;
    const drawn = async (): Promise<string> => {
      if (kind === 'charts') return numbersThumbnail(source, scene);
      const release = await viewport.hold();
      return drawnThumbnail(viewport.stage, source, scene, { passes: DRAFT_PASSES }).finally(release);
    };
    const thumbnail = await drawn().catch(() => null);
    if (thumbnail !== null) await showShotPicture(shot, thumbnail);
  }
}
