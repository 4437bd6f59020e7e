import type { ChartDrawn } from '../charts/chart-drawn.ts';
import type { WordsRect } from '../snap-words.ts';
import type { LegendGround } from '../things/legend.ts';

/** A place on a picture, in its pixels from the top left. */
export type Spot = readonly [number, number];

/** Letters of an annotation: `book` has serifs. */
export type Letters = 'plain' | 'book';

/** Something written: its place is that of its left end, middle or right end, and of the middle of its height. */
export interface Writing {
  text: string;
  x: number;
  y: number;
  /** Height of its letters, in pixels. */
  size: number;
  weight: number;
  align: 'left' | 'center' | 'right';
}

/** One thing that is painted on a picture, in its pixels. Without a colour of its own it has that of the words. */
export type Shape =
  /** Whether a thin halo keeps it legible on whatever lies beneath. */
  | (Writing & { kind: 'text'; letters: Letters; ink: string | null; halo: boolean })
  | { kind: 'line'; spots: readonly Spot[]; width: number; ink: string | null; halo: boolean }
  | {
      kind: 'area';
      corners: readonly Spot[];
      fill: string | null;
      opacity: number;
    }
  | {
      kind: 'disc';
      x: number;
      y: number;
      radius: number;
      /** Null for the colour of the words. */
      fill: string | null;
      /** Colour and width of its rim. */
      rim: { ink: string | null; width: number } | null;
    }
  | {
      kind: 'box';
      box: WordsRect;
      radius: number;
      fill: string | null;
      opacity: number;
      rim: { ink: string | null; width: number } | null;
    }
  /** `source` is a data address of a picture. */
  | { kind: 'image'; box: WordsRect; source: string; opacity: number }
  /** A chart with its axes; letters in pixels. */
  | {
      kind: 'chart';
      box: WordsRect;
      drawn: ChartDrawn;
      title: string | null;
      letters: number;
      ink: string | null;
    }
  /** What words stand on, so that they are legible. */
  | { kind: 'ground'; box: WordsRect; ground: LegendGround; ink: string | null; pad: number };

/** An annotation as it is painted. */
export interface AnnotationDrawing {
  shapes: Shape[];
  /** What of it can be taken hold of; null for nothing. */
  box: WordsRect | null;
}

/** The same shapes elsewhere. */
export function shifted(shapes: readonly Shape[], dx: number, dy: number): Shape[] {
  const box = (b: WordsRect): WordsRect => ({ ...b, x: b.x + dx, y: b.y + dy });
  const spots = (list: readonly Spot[]): Spot[] => list.map(([x, y]) => [x + dx, y + dy]);
  return shapes.map((s): Shape => {
    switch (s.kind) {
      case 'text':
      case 'disc':
        return { ...s, x: s.x + dx, y: s.y + dy };
      case 'line':
        return { ...s, spots: spots(s.spots) };
      case 'area':
        return { ...s, corners: spots(s.corners) };
      default:
        return { ...s, box: box(s.box) };
    }
  });
}

/** Whether two rectangles share any of their area. */
export const overlaps = (a: WordsRect, b: WordsRect): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
