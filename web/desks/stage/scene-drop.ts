import { type RefObject, useEffect } from 'react';
import { useDesk, useRun } from './desk-store.ts';
import { openSceneFile } from './open-scene-file.ts';

/** A picture that was given out, or a scene file, opens its scene where it is dropped on the stage. */
export function useSceneDrop(picture: RefObject<HTMLDivElement | null>): void {
  const run = useRun();
  useEffect(() => {
    const element = picture.current;
    if (!element) return;
    const onOver = (event: DragEvent) => {
      if (event.dataTransfer?.types.includes('Files')) event.preventDefault();
    };
    const onDrop = async (event: DragEvent) => {
      const [file] = event.dataTransfer?.files ?? [];
      if (!file) return;
      event.preventDefault();
      try {
        const missing = await openSceneFile(file, run);
        useDesk.setState({
          trouble:
            missing.length === 0
              ? null
              : `The scene of ${file.name} is open without this: ${missing.join('; ')}.`,
        });
      } catch (error) {
        useDesk.setState({ trouble: (error as Error).message });
      }
    };
    element.addEventListener('dragover', onOver);
    element.addEventListener('drop', onDrop);
    return () => {
      element.removeEventListener('dragover', onOver);
      element.removeEventListener('drop', onDrop);
    };
  }, [run, picture]);
}
