import { type Pane, pairOf, panesAcross, type SideBySide } from './side-by-side.ts';

/** A rectangle, in pixels from the top left. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Where a pane stands: its title above what it shows. */
export interface PlacedPane {
  id: string;
  title: Box;
  picture: Box;
}

export interface SideLayout {
  /** In the order in which they are painted; two that lie upon each other have the same picture. */
  panes: PlacedPane[];
  /** Of the legend of all; null where there is none. */
  legend: Box | null;
}

/** Id of the pane that shows how much two of the others differ. */
export const DIFFERENCE = 'difference';

/** Height of a title and of the legend of all, and the gap between panes, for letters of one pixel. */
const TITLE = 1.9;
const LEGEND = 5;
const GAP = 0.5;

/**
 * Arranges panes on the screen or in a picture.
 *
 * @param letters height of the letters of titles, in pixels
 * @param hasLegend whether one legend stands below all
 */
export function sideLayout(
  side: SideBySide,
  { width, height }: { width: number; height: number },
  letters: number,
  hasLegend: boolean,
): SideLayout {
  const legendHeight = hasLegend ? Math.round(LEGEND * letters) : 0;
  const all = { x: 0, y: 0, width, height: Math.max(1, height - legendHeight) };
  const legend = hasLegend ? { x: 0, y: all.height, width, height: legendHeight } : null;
  return { panes: placedPanes(side, all, letters), legend };
}

function placedPanes(side: SideBySide, all: Box, letters: number): PlacedPane[] {
  const { as } = side.show;
  const pair = as === 'panes' ? null : pairOf(side);
  if (!pair) return inRows(side.panes, side.show.across, all, letters);
  const [first, second] = pair;
  if (as !== 'difference') {
    // The titles of both stand above, each on its side.
    const { title, picture } = placed(first.id, all, letters);
    const half = Math.floor(title.width / 2);
    return [
      { id: second.id, title: { ...title, x: title.x + half, width: title.width - half }, picture },
      { id: first.id, title: { ...title, width: half }, picture },
    ];
  }
  const gap = Math.round(GAP * letters);
  const narrow = Math.round((all.width - gap) / 3);
  const column = inRows([first, second], 1, { ...all, width: narrow }, letters);
  const wide = { ...all, x: all.x + narrow + gap, width: all.width - narrow - gap };
  return [...column, placed(DIFFERENCE, wide, letters)];
}

function inRows(
  panes: readonly Pick<Pane, 'id'>[],
  chosen: number | null,
  all: Box,
  letters: number,
): PlacedPane[] {
  const gap = Math.round(GAP * letters);
  const across = Math.min(panes.length, chosen ?? panesAcross(panes.length, all.width / all.height)) || 1;
  const rows = Math.ceil(panes.length / across) || 1;
  // Neighbours meet at whole pixels.
  const at = (n: number, of: number, room: number): number => Math.round((n * (room + gap)) / of);
  return panes.map(({ id }, i) => {
    const [column, row] = [i % across, Math.floor(i / across)];
    const [x, y] = [at(column, across, all.width), at(row, rows, all.height)];
    return placed(
      id,
      {
        x: all.x + x,
        y: all.y + y,
        width: at(column + 1, across, all.width) - gap - x,
        height: at(row + 1, rows, all.height) - gap - y,
      },
      letters,
    );
  });
}

function placed(id: string, { x, y, width, height }: Box, letters: number): PlacedPane {
  const head = Math.round(TITLE * letters);
  return {
    id,
    title: { x, y, width, height: head },
    picture: { x, y: y + head, width: Math.max(1, width), height: Math.max(1, height - head) },
  };
}
