import { type RefObject, useEffect } from 'react';
import { finishSchema } from '#core/light/own-finish.ts';
import type { Viewport } from '#stage/viewport.ts';
import { edit } from '../desk-store.ts';

/** Type of what is dragged from the finishes to a body on the stage. */
export const FINISH_DRAGGED = 'application/x-dresser-finish';

/** A finish that is dropped on a body of the picture is worn by its part, whichever lines show that. */
export function useFinishDrop(viewport: Viewport | null, picture: RefObject<HTMLDivElement | null>): void {
  useEffect(() => {
    const element = picture.current;
    if (!viewport || !element) return;
    const onOver = (event: DragEvent) => {
      if (!event.dataTransfer?.types.includes(FINISH_DRAGGED)) return;
      event.preventDefault();
      event.dataTransfer.dropEffect = 'copy';
    };
    const onDrop = async (event: DragEvent) => {
      const said = event.dataTransfer?.getData(FINISH_DRAGGED);
      if (!said) return;
      event.preventDefault();
      const read = finishSchema.safeParse(JSON.parse(said));
      const box = element.getBoundingClientRect();
      const picked = await viewport.pick(
        (event.clientX - box.left) / box.width,
        (event.clientY - box.top) / box.height,
      );
      if (!picked || !read.success || read.data === null) return;
      edit({ type: 'parts.change', parts: [picked.part], change: { finish: read.data } });
    };
    element.addEventListener('dragover', onOver);
    element.addEventListener('drop', onDrop);
    return () => {
      element.removeEventListener('dragover', onOver);
      element.removeEventListener('drop', onDrop);
    };
  }, [viewport, picture]);
}
