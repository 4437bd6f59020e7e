import { type Bounds, boundsOf } from './mesh.ts';
import type { ValueGrid } from './value-grid.ts';

/**
 * What is drawn of a part of a layer: a few marks, each with the arrays its painter needs. Positions are relative to
 * the origin of the run, three numbers a vertex.
 */
export type Mark = SurfaceMark | LineMark | DotMark | TextMark | VolumeMark;

export type MarkKind = Mark['kind'];

export interface SurfaceMark {
  kind: 'surface';
  positions: Float32Array;
  normals: Float32Array;
  /** Three vertices each. */
  triangles: Uint32Array;
  /** Cell of the part behind each triangle. */
  cells: Uint32Array;
  /** Edges of the faces as vertex pairs, each once; empty where they are not wanted. */
  edges: Uint32Array;
}

export interface LineMark {
  kind: 'line';
  positions: Float32Array;
  /** Vertex pairs. */
  segments: Uint32Array;
}

export interface DotMark {
  kind: 'dot';
  positions: Float32Array;
  dots: Uint32Array;
}

/** Values written on lines. */
export interface TextMark {
  kind: 'text';
  places: Float32Array;
  values: Float32Array;
}

export interface VolumeMark {
  kind: 'volume';
  grid: ValueGrid;
}

/** Whether there is nothing of a mark to be seen. */
export function isEmptyMark(mark: Mark): boolean {
  switch (mark.kind) {
    case 'surface':
      return mark.triangles.length === 0;
    case 'line':
      return mark.segments.length === 0;
    case 'dot':
      return mark.dots.length === 0;
    case 'text':
      return mark.values.length === 0;
    case 'volume':
      return false;
  }
}

/** Of a mark, relative to the origin of the run. */
export function boundsOfMark(mark: Mark): Bounds {
  if (mark.kind === 'volume') return mark.grid.bounds;
  return boundsOf(mark.kind === 'text' ? mark.places : mark.positions);
}

/** The marks of one kind. */
export const marksOfKind = <K extends MarkKind>(
  marks: readonly Mark[],
  kind: K,
): Extract<Mark, { kind: K }>[] => marks.filter((m): m is Extract<Mark, { kind: K }> => m.kind === kind);
