import { cellTypes } from '../../model/cell-types.ts';
import type { Mark } from '../../model/mark.ts';
import { buildCorners, buildSurface, type Vertices } from '../../model/mark-geometry.ts';
import type { Mesh } from '../../model/mesh.ts';
import { compose, copyOf, type Gather, replayAll } from '../../model/recipe.ts';
import type { Workpiece } from './workpiece.ts';

/** A mark and how values get onto its vertices: from fields on points and on cells of the part. */
export interface MadeMark {
  mark: Mark;
  /** Null for marks that carry no values. */
  toVertices: Record<'point' | 'cell', Gather> | null;
  /** A quantity that came with the shape, one value a vertex; null where there is no such. */
  made(key: string): Float32Array | null;
}

/**
 * The marks at the end of a chain: its faces as a surface, its line cells as lines, its lone points as dots or spheres,
 * and what its last operation writes or fills beside them.
 *
 * @param perCell whether every cell needs vertices of its own, as fields on cells do
 * @param edges whether the edges of the faces are wanted
 */
export function marksOf(end: Workpiece, perCell: boolean, edges: boolean): MadeMark[] {
  const { mesh, result } = end;
  const dimensions = dimensionsOf(mesh);
  const made: MadeMark[] = [];
  const routes = (['point', 'cell'] as const).map((location) => end.route(location));
  const recipe = ({ vertexPoint, vertexCell }: Vertices): MadeMark['toVertices'] => {
    const [point, cell] = routes.map(({ at, gather }): Gather => {
      const own = copyOf(at === 'point' ? vertexPoint : vertexCell);
      return gather ? compose(gather, own) : own;
    });
    return { point, cell };
  };
  const valuesOf = (vertices: Vertices): Pick<MadeMark, 'toVertices' | 'made'> => ({
    toVertices: recipe(vertices),
    made(key) {
      const values = end.made(key);
      return values && Float32Array.from(vertices.vertexPoint, (p) => values[p]);
    },
  });
  if (dimensions.has(2)) {
    const surface = buildSurface(mesh, perCell, edges, result?.crease, end.normals);
    const { positions, normals, triangles, triangleCells } = surface;
    const cells = triangleCells.map(cellOfPart(end));
    const dark = end.shades;
    const shades = dark && replayAll(copyOf(surface.vertexPoint), dark, 1);
    made.push({
      mark: { kind: 'surface', positions, normals, triangles, cells, edges: surface.edges, shades },
      ...valuesOf(surface),
    });
  }
  if (dimensions.has(1)) {
    const lines = buildCorners(mesh, 1, perCell);
    made.push({
      mark: { kind: 'line', positions: lines.positions, segments: lines.elements },
      ...valuesOf(lines),
    });
  }
  if (dimensions.has(0)) {
    const dots = buildCorners(mesh, 0, perCell);
    const { positions, elements } = dots;
    const { spheres, arrows } = end;
    let mark: Mark = { kind: 'dot', positions, dots: elements };
    if (arrows) {
      const vectors = replayAll(copyOf(dots.vertexPoint), arrows.vectors, 3);
      mark = { ...arrows, kind: 'arrow', positions, arrows: elements, vectors };
    } else if (spheres) {
      const radii = spheres.radii && replayAll(copyOf(dots.vertexPoint), spheres.radii, 1);
      mark = { ...spheres, kind: 'sphere', positions, spheres: elements, radii };
    }
    made.push({ mark, ...valuesOf(dots) });
  }
  if (result?.labels) {
    const { points: p } = mesh;
    const places = Float32Array.from(
      result.labels.flatMap(({ line }) => line.flatMap((i) => [p[3 * i], p[3 * i + 1], p[3 * i + 2]])),
    );
    const starts = [0];
    for (const { line } of result.labels) starts.push(starts[starts.length - 1] + line.length);
    const texts = result.labels.map((l) => l.text);
    made.push({ mark: { kind: 'text', places, starts: Uint32Array.from(starts), texts }, ...NO_VALUES });
  }
  if (result?.grid) made.push({ mark: { kind: 'volume', grid: result.grid }, ...NO_VALUES });
  return made;
}

function dimensionsOf({ types }: Mesh): Set<number> {
  const found = new Set<number>();
  for (const type of new Set(types)) found.add(cellTypes.get(type)!.dimension);
  return found;
}

const NO_VALUES = { toVertices: null, made: () => null };

/** The cell of the part that a cell at the end of the chain came from. */
function cellOfPart(end: Workpiece): (cell: number) => number {
  const { at, gather } = end.route('cell');
  if (at !== 'cell' || !gather) return (c) => c;
  const { index, starts, width } = gather;
  return (c) => index[starts ? starts[c] : c * width];
}
