import type { DragEvent } from 'react';
import type { Drawable } from './draw-curves.ts';

const KIND = 'application/x-dresser-curve';

/** What makes an element of a list one that is drawn where it is dropped. */
export const dragged = (drawable: Drawable) => ({
  draggable: true,
  onDragStart: (e: DragEvent) => {
    e.dataTransfer.setData(KIND, JSON.stringify(drawable));
    e.dataTransfer.effectAllowed = 'copy' as const;
  },
});

/** What makes an element take what is dropped on it. */
export const takesCurves = (onDrop: (drawable: Drawable) => void) => ({
  onDragOver: (e: DragEvent) => {
    if (e.dataTransfer.types.includes(KIND)) e.preventDefault();
  },
  onDrop: (e: DragEvent) => {
    const data = e.dataTransfer.getData(KIND);
    if (!data) return;
    e.preventDefault();
    onDrop(JSON.parse(data) as Drawable);
  },
});
