import type { DragEvent } from 'react';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { edit } from '#web/desks/stage/desk-store.ts';
import { type Drawable, drawCurve, freshChart } from './draw-curves.ts';

const KIND = 'application/x-dresser-curve';

/** A curve of the list that is drawn where it is dropped, or one of a chart that goes there. */
type Dragged = Drawable | { move: string };

/** What makes an element one to drag into a chart. */
export const dragged = (what: Dragged) => ({
  draggable: true,
  onDragStart: (e: DragEvent) => {
    e.dataTransfer.setData(KIND, JSON.stringify(what));
    e.dataTransfer.effectAllowed = 'move' in what ? ('move' as const) : ('copy' as const);
  },
});

/**
 * What makes an element take curves that are dropped on it.
 *
 * @param chart the chart they go to; null for the last one there is, or a new one for what leaves its own
 */
export const takesCurves = (chart: string | null) => ({
  onDragOver: (e: DragEvent) => {
    if (e.dataTransfer.types.includes(KIND)) e.preventDefault();
  },
  onDrop: (e: DragEvent) => {
    const data = e.dataTransfer.getData(KIND);
    if (!data) return;
    e.preventDefault();
    // A chart lies on the board, which takes curves as well.
    e.stopPropagation();
    const what = JSON.parse(data) as Dragged;
    if ('move' in what) moveCurve(what.move, chart);
    else drawCurve(what, chart);
  },
});

/** Behind the curves of a chart, or into one of its own; in one step of undo. */
function moveCurve(id: string, into: string | null): void {
  const key = freshId('move');
  const own = into === null ? freshChart([]) : null;
  if (own) edit({ type: 'chart.add', chart: own }, key);
  edit({ type: 'curve.move', id, chart: own?.id ?? into!, to: Number.MAX_SAFE_INTEGER }, key);
}
