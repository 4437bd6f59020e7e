import type { ArrowMark, SphereMark } from '#core/model/mark.ts';
import { cross, dot, unit, type Vector } from '#core/model/vectors.ts';
import { ball } from '#core/scene/scenery/solids.ts';
import { arrowShapes } from '../marks/arrow-shapes.ts';

/** Many bodies alike as one, with the vertex of the mark behind each of its vertices. */
export interface CopiedBodies {
  positions: Float32Array;
  normals: Float32Array;
  triangles: Uint32Array;
  from: Uint32Array;
}

/** More copies than this are thinned out evenly. */
export const MOST_COPIES = 20_000;

const unitBall = ball([0, 0, 0], 1, 6);
const ballShape = {
  positions: Float32Array.from(unitBall.points),
  normals: Float32Array.from(unitBall.points),
  triangles: unitBall.triangles,
};

/** Every so many-th of some elements, so that no more are left than may be. */
function thinned(elements: Uint32Array): Uint32Array {
  const every = Math.ceil(elements.length / MOST_COPIES);
  return every < 2 ? elements : elements.filter((_, i) => i % every === 0);
}

/** Round bodies; `onPicture` the length of one height of the picture. */
export function copiedSpheres(mark: SphereMark, pictureHeight: number): CopiedBodies {
  const scale = mark.onPicture ? pictureHeight : 1;
  return copies(ballShape, thinned(mark.spheres), mark.positions, (v) => {
    const r = scale * (mark.radii ? mark.radii[v] : mark.radius);
    return [
      [r, 0, 0],
      [0, r, 0],
      [0, 0, r],
    ];
  });
}

/** Arrows as bodies, whatever form they are drawn in. */
export function copiedArrows(mark: ArrowMark, pictureHeight: number): CopiedBodies {
  const scale = mark.onPicture ? pictureHeight : 1;
  return copies(arrowShapes.solid, thinned(mark.arrows), mark.positions, (v) => {
    const along: Vector = [0, 1, 2].map((k) => scale * mark.vectors[3 * v + k]) as Vector;
    const length = Math.hypot(...along);
    const helper: Vector = Math.abs(along[2]) < 0.9 * length ? [0, 0, 1] : [1, 0, 0];
    const first = unit(cross(helper, along));
    const second = unit(cross(along, first));
    return [first.map((c) => c * length) as Vector, second.map((c) => c * length) as Vector, along];
  });
}

type Shape = Pick<CopiedBodies, 'positions' | 'normals'> & { triangles: readonly number[] };

/** A shape at each of some vertices, along axes whose lengths are its size there. */
function copies(
  shape: Shape,
  vertices: Uint32Array,
  places: Float32Array,
  axesAt: (vertex: number) => readonly [Vector, Vector, Vector],
): CopiedBodies {
  const n = shape.positions.length / 3;
  const out: CopiedBodies = {
    positions: new Float32Array(3 * n * vertices.length),
    normals: new Float32Array(3 * n * vertices.length),
    triangles: new Uint32Array(shape.triangles.length * vertices.length),
    from: new Uint32Array(n * vertices.length),
  };
  for (const [i, vertex] of vertices.entries()) {
    const axes = axesAt(vertex);
    const directions = axes.map(unit);
    for (let p = 0; p < n; p++) {
      const local: Vector = [...shape.positions.subarray(3 * p, 3 * p + 3)] as Vector;
      const normal: Vector = [...shape.normals.subarray(3 * p, 3 * p + 3)] as Vector;
      for (let k = 0; k < 3; k++) {
        const at = 3 * (i * n + p) + k;
        out.positions[at] = places[3 * vertex + k] + dot(local, [axes[0][k], axes[1][k], axes[2][k]]);
        out.normals[at] = dot(normal, [directions[0][k], directions[1][k], directions[2][k]]);
      }
      out.from[i * n + p] = vertex;
    }
    for (const [t, corner] of shape.triangles.entries())
      out.triangles[i * shape.triangles.length + t] = i * n + corner;
  }
  return out;
}
