import { ownLike, valuesOf } from '../../light/own-finish.ts';
import { TRIANGLE } from '../../model/cell-types.ts';
import type { SurfaceMark } from '../../model/mark.ts';
import { buildSurface } from '../../model/mark-geometry.ts';
import { dot, type Vector } from '../../model/vectors.ts';
import { axesOfPiece } from './placed.ts';
import { type Piece, sceneryKind } from './registry.ts';
import type { PieceBody, PieceSetting } from './scenery-kind.ts';

/** One body of a piece about the middle of its foot, z up, with what it is made of by itself. */
export interface PieceSurface extends Pick<PieceBody, 'colour' | 'finish' | 'opacity' | 'picture'> {
  surface: SurfaceMark;
}

/** The bodies of a piece as surfaces, wherever it stands. */
export const surfacesOfPiece = (piece: Piece, setting: PieceSetting): PieceSurface[] =>
  sceneryKind(piece.kind)
    .bodies(piece, setting)
    .filter((body) => body.triangles.length > 0)
    .map((body) => {
      const { colour, finish, opacity, picture } = body;
      return { surface: surfaceOf(body), colour, finish, opacity, picture };
    });

/**
 * A surface of a piece where that stands.
 *
 * @param up of the scene
 * @param origin of the run, to which positions are relative
 */
export function stoodSurface(surface: SurfaceMark, piece: Piece, up: Vector, origin: Vector): SurfaceMark {
  // Where it lies, z of the file is z of the run, whatever is up in the scene.
  const axes = axesOfPiece(piece, sceneryKind(piece.kind).isInPlace?.(piece) ? [0, 0, 1] : up);
  const at = piece.place.map((v, k) => v - origin[k]) as Vector;
  return {
    ...surface,
    positions: turnedTo(surface.positions, axes, at),
    normals: turnedTo(surface.normals, axes, [0, 0, 0]),
  };
}

/** What a body of a piece is made of: what was chosen for the piece takes the place of its own, and of a picture. */
export function lookOfBody(
  piece: Pick<Piece, 'colour' | 'finish' | 'opacity'>,
  own: Omit<PieceSurface, 'surface'>,
): Omit<PieceSurface, 'surface'> {
  const finish = piece.finish ?? own.finish;
  const values = piece.colour === null ? null : valuesOf(finish);
  return {
    colour: piece.colour ?? own.colour,
    // A finish in a colour of its own takes the chosen one.
    finish: values ? { ...ownLike(values, values.name), colour: null } : finish,
    opacity: own.opacity * piece.opacity,
    picture: piece.colour === null && piece.finish === null ? own.picture : null,
  };
}

function surfaceOf({ points, triangles, normals, places, crease }: PieceBody): SurfaceMark {
  const positions = Float32Array.from(points);
  const corners = Uint32Array.from(triangles);
  const common = { kind: 'surface', edges: new Uint32Array(0), shades: null } as const;
  const cells = new Uint32Array(corners.length / 3);
  if (normals) return { ...common, positions, normals, triangles: corners, cells, ...(places && { places }) };
  const made = buildSurface(
    {
      points: positions,
      types: new Uint8Array(cells.length).fill(TRIANGLE),
      offsets: Uint32Array.from({ length: cells.length + 1 }, (_, c) => 3 * c),
      connectivity: corners,
    },
    false,
    false,
    ...(crease === null ? [] : [crease]),
  );
  const onPicture =
    places &&
    Float32Array.from(
      { length: 2 * made.vertexPoint.length },
      (_, i) => places[2 * made.vertexPoint[i >> 1] + (i & 1)],
    );
  return {
    ...common,
    positions: made.positions,
    normals: made.normals,
    triangles: made.triangles,
    cells,
    ...(onPicture && { places: onPicture }),
  };
}

/** Vectors given in axes, in those of the world, from a place on. */
function turnedTo(vectors: Float32Array, [a, b, c]: readonly Vector[], from: Vector): Float32Array {
  const out = new Float32Array(vectors.length);
  const rows = [0, 1, 2].map((k): Vector => [a[k], b[k], c[k]]);
  for (let i = 0; i < vectors.length; i += 3) {
    const v: Vector = [vectors[i], vectors[i + 1], vectors[i + 2]];
    for (let k = 0; k < 3; k++) out[i + k] = from[k] + dot(rows[k], v);
  }
  return out;
}
