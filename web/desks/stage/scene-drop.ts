import { type RefObject, useCallback } from 'react';
import { isBodyFile } from '#core/formats/surfaces/body-endings.ts';
import { useDesk, useRun } from './desk-store.ts';
import { useDropOnPicture } from './drop-on-picture.ts';
import { openSceneFile } from './open-scene-file.ts';
import { addBodyFile } from './scenery/add-scenery.ts';

/**
 * A picture that was given out, or a scene file, opens its scene where it is dropped on the stage; a file of bodies is
 * stood beside the model.
 */
export function useSceneDrop(picture: RefObject<HTMLDivElement | null>): void {
  const run = useRun();
  const take = useCallback(
    async (event: DragEvent) => {
      const [file] = event.dataTransfer!.files;
      try {
        if (isBodyFile(file.name)) {
          await addBodyFile(file);
          return;
        }
        const missing = await openSceneFile(file, run);
        const without = `The scene of ${file.name} is open without this: ${missing.join('; ')}.`;
        useDesk.setState({ trouble: missing.length === 0 ? null : without });
      } catch (error) {
        useDesk.setState({ trouble: (error as Error).message });
      }
    },
    [run],
  );
  useDropOnPicture(picture, 'Files', take);
}
