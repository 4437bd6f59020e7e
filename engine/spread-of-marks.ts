import {
  joinSpreads,
  type Spread,
  spreadOfPoints,
  spreadOfSegments,
  spreadOfTriangles,
} from '#core/colour/spread.ts';
import type { Mark } from '#core/model/mark.ts';

/**
 * How values are spread over the marks of a part; null where none of them shows a value.
 *
 * @param values for each mark one a vertex, or null
 */
export function spreadOfMarks(
  marks: readonly Mark[],
  values: readonly (Float32Array | null)[],
): Spread | null {
  return joinSpreads(
    marks.flatMap((mark, i): Spread[] => {
      if (mark.kind === 'volume') {
        const { values: all } = mark.grid;
        const spread = spreadOfPoints([], Uint32Array.from(all.keys()), all);
        return [{ ...spread, lowAt: null, highAt: null }];
      }
      const own = values[i];
      if (!own) return [];
      switch (mark.kind) {
        case 'surface':
          return [spreadOfTriangles(mark.positions, mark.triangles, own)];
        case 'line':
          return [spreadOfSegments(mark.positions, mark.segments, own)];
        case 'dot':
          return [spreadOfPoints(mark.positions, mark.dots, own)];
        case 'arrow':
          return [spreadOfPoints(mark.positions, mark.arrows, own)];
        case 'sphere':
          return [spreadOfPoints(mark.positions, mark.spheres, own)];
        default:
          return [];
      }
    }),
  );
}
