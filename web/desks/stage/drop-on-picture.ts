import { type RefObject, useEffect } from 'react';

/**
 * Takes what is dropped on the picture.
 *
 * @param type of what is taken, among the types of what is dragged
 * @param take is given the drop; null while nothing can be taken
 */
export function useDropOnPicture(
  picture: RefObject<HTMLDivElement | null>,
  type: string,
  take: ((event: DragEvent, place: { x: number; y: number }) => Promise<void>) | null,
): void {
  useEffect(() => {
    const element = picture.current;
    if (!element || !take) return;
    const onOver = (event: DragEvent) => {
      if (!event.dataTransfer?.types.includes(type)) return;
      event.preventDefault();
      event.dataTransfer.dropEffect = 'copy';
    };
    const onDrop = (event: DragEvent) => {
      if (!event.dataTransfer?.types.includes(type)) return;
      event.preventDefault();
      const { left, top, width, height } = element.getBoundingClientRect();
      void take(event, { x: (event.clientX - left) / width, y: (event.clientY - top) / height });
    };
    element.addEventListener('dragover', onOver);
    element.addEventListener('drop', onDrop);
    return () => {
      element.removeEventListener('dragover', onOver);
      element.removeEventListener('drop', onDrop);
    };
  }, [picture, type, take]);
}
