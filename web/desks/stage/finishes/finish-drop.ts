import { type RefObject, useMemo } from 'react';
import { finishSchema } from '#core/light/own-finish.ts';
import type { Viewport } from '#stage/viewport.ts';
import { edit } from '../desk-store.ts';
import { useDropOnPicture } from '../drop-on-picture.ts';

/** Type of what is dragged from the finishes to a body on the stage. */
export const FINISH_DRAGGED = 'application/x-dresser-finish';

/** A finish that is dropped on a body of the picture is worn by its part, whichever lines show that, or by its scenery. */
export function useFinishDrop(viewport: Viewport | null, picture: RefObject<HTMLDivElement | null>): void {
  const take = useMemo(
    () =>
      viewport &&
      (async (event: DragEvent, { x, y }: { x: number; y: number }) => {
        const read = finishSchema.safeParse(JSON.parse(event.dataTransfer!.getData(FINISH_DRAGGED)));
        if (!read.success || read.data === null) return;
        const piece = await viewport.pickScenery(x, y);
        if (piece) {
          edit({ type: 'scenery.change', id: piece, change: { finish: read.data } });
          return;
        }
        const picked = await viewport.pick(x, y);
        if (!picked) return;
        edit({ type: 'parts.change', parts: [picked.part], change: { finish: read.data } });
      }),
    [viewport],
  );
  useDropOnPicture(picture, FINISH_DRAGGED, take);
}
