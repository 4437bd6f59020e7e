import { type Mark, marksOfKind } from '#core/model/mark.ts';
import { subtract, type Vector } from '#core/model/vectors.ts';
import { cameraAxes, halfHeight, lensShift } from '#core/scene/camera.ts';
import type { Camera } from '#core/scene/document.ts';

/** A rectangle on the picture, as fractions from its top left. */
export interface Rectangle {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/**
 * The cells, by part, with a face that looks at the camera and whose middle lies in a rectangle of the picture. What is
 * hidden behind other faces counts as well.
 *
 * @param origin of the run, to which the positions of marks are relative
 */
export function cellsWithin(
  rectangle: Rectangle,
  shown: readonly { part: string; marks: readonly Mark[] }[],
  camera: Camera,
  aspect: number,
  origin: Vector,
): Record<string, number[]> {
  const found: Record<string, Set<number>> = {};
  const { right, up, back } = cameraAxes(camera);
  const eye = subtract(camera.position, origin);
  const perspective = camera.projection === 'perspective';
  const [aside, above] = lensShift(camera);
  for (const { part, marks } of shown) {
    for (const { triangles, positions: p, cells } of marksOfKind(marks, 'surface')) {
      for (let t = 0; t < cells.length; t++) {
        const [a, b, c] = [3 * triangles[3 * t], 3 * triangles[3 * t + 1], 3 * triangles[3 * t + 2]];
        const x = (p[a] + p[b] + p[c]) / 3 - eye[0];
        const y = (p[a + 1] + p[b + 1] + p[c + 1]) / 3 - eye[1];
        const z = (p[a + 2] + p[b + 2] + p[c + 2]) / 3 - eye[2];
        const depth = -(x * back[0] + y * back[1] + z * back[2]);
        if (perspective && depth <= 0) continue;
        const tall = 2 * halfHeight(camera, depth);
        const across = 0.5 + ((x * right[0] + y * right[1] + z * right[2]) / tall - aside) / aspect;
        if (across < rectangle.left || across > rectangle.right) continue;
        const down = 0.5 - (x * up[0] + y * up[1] + z * up[2]) / tall + above;
        if (down < rectangle.top || down > rectangle.bottom) continue;
        const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
        const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
        const [tx, ty, tz] = perspective ? [-x, -y, -z] : back;
        const facing = (uy * vz - uz * vy) * tx + (uz * vx - ux * vz) * ty + (ux * vy - uy * vx) * tz;
        if (facing >= 0) (found[part] ??= new Set()).add(cells[t]);
      }
    }
  }
  return Object.fromEntries(
    Object.entries(found).map(([part, cells]) => [part, [...cells].sort((a, b) => a - b)]),
  );
}
