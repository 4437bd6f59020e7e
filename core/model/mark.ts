import { type Bounds, boundsOf, joinBounds } from './mesh.ts';
import type { ValueGrid } from './value-grid.ts';

/**
 * What is drawn of a part of a layer: a few marks, each with the arrays its painter needs. Positions are relative to
 * the origin of the run, three numbers a vertex.
 */
export type Mark = SurfaceMark | LineMark | DotMark | SphereMark | ArrowMark | TextMark | VolumeMark;

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
  /** How dark each vertex is, whatever its colour: 1 as it is, 0 black; null where none is darker. */
  shades: Float32Array | null;
  /** Where on a picture that is lit with it each vertex lies, two numbers from the top left; absent without one. */
  places?: Float32Array;
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

/** How large round bodies are. */
export interface SpheresDrawn {
  /** Of all of them, or of the largest, in the unit of the positions, or in heights of the picture. */
  radius: number;
  /** Of each one, where they are not all alike. */
  radii: Float32Array | null;
  onPicture: boolean;
}

/** Round bodies around points. */
export interface SphereMark extends SpheresDrawn {
  kind: 'sphere';
  positions: Float32Array;
  /** Their middles, as vertices; a radius belongs to each vertex. */
  spheres: Uint32Array;
}

/** How arrows look, and how long each is. */
export interface ArrowsDrawn {
  /** Three numbers each, in the unit of the positions, or in heights of the picture. */
  vectors: Float32Array;
  onPicture: boolean;
  form: 'solid' | 'flat' | 'line' | 'comet';
}

/** Arrows that begin at points. */
export interface ArrowMark extends ArrowsDrawn {
  kind: 'arrow';
  positions: Float32Array;
  /** Where they begin, as vertices; a vector belongs to each vertex. */
  arrows: Uint32Array;
}

/** Texts that may be written along lines, where the picture has room for them. */
export interface TextMark {
  kind: 'text';
  /** The points of all lines, one line after another. */
  places: Float32Array;
  /** Where each line starts among them, and behind the last its end. */
  starts: Uint32Array;
  /** One for each line. */
  texts: string[];
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
    case 'sphere':
      return mark.spheres.length === 0;
    case 'arrow':
      return mark.arrows.length === 0;
    case 'text':
      return mark.texts.length === 0;
    case 'volume':
      return false;
  }
}

/** Of a mark, relative to the origin of the run. */
export function boundsOfMark(mark: Mark): Bounds {
  if (mark.kind === 'volume') return mark.grid.bounds;
  if (mark.kind === 'arrow') {
    const { positions, vectors, onPicture } = mark;
    const own = boundsOf(positions);
    return onPicture ? own : joinBounds(own, boundsOf(positions.map((v, i) => v + vectors[i])));
  }
  if (mark.kind !== 'sphere' || mark.onPicture)
    return boundsOf(mark.kind === 'text' ? mark.places : mark.positions);
  return boundsOf(mark.positions).map((v, i) => (i % 2 === 0 ? v - mark.radius : v + mark.radius)) as Bounds;
}

/** The marks of one kind. */
export const marksOfKind = <K extends MarkKind>(
  marks: readonly Mark[],
  kind: K,
): Extract<Mark, { kind: K }>[] => marks.filter((m): m is Extract<Mark, { kind: K }> => m.kind === kind);

/** How many lone points marks show, as dots or spheres. */
export const pointsShown = (marks: readonly Mark[]): number =>
  marks.reduce(
    (sum, mark) =>
      sum + (mark.kind === 'dot' ? mark.dots.length : mark.kind === 'sphere' ? mark.spheres.length : 0),
    0,
  );
