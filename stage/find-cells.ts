import { cameraAxes, dot, projectPoint, subtract, type Vector } from '#core/scene/camera.ts';
import type { Camera } from '#core/scene/document.ts';
import type { Shape } from '#engine/geometry-maker.ts';

/** A shape on show and whose it is. */
export interface ShownShape {
  layer: string;
  part: string;
  shape: Shape;
}

/** A rectangle on the picture, as fractions from its top left. */
export interface Rectangle {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

type Triangle = [Vector, Vector, Vector];

function* trianglesOf({ drawable }: Shape, origin: readonly number[]): Generator<[number, Triangle]> {
  const { triangles, positions } = drawable;
  const at = (v: number): Vector => [
    positions[3 * v] + origin[0],
    positions[3 * v + 1] + origin[1],
    positions[3 * v + 2] + origin[2],
  ];
  for (let t = 0; t < triangles.length / 3; t++)
    yield [t, [at(triangles[3 * t]), at(triangles[3 * t + 1]), at(triangles[3 * t + 2])]];
}

const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** The cell of the part whose face a place lies on; null when no face is there. */
export function cellAt(place: Vector, shape: Shape, origin: readonly number[]): number | null {
  let best = Infinity;
  let cell: number | null = null;
  for (const [t, [a, b, c]] of trianglesOf(shape, origin)) {
    const n = cross(subtract(b, a), subtract(c, a));
    const size = Math.hypot(...n);
    if (size === 0) continue;
    const inside = [
      [a, b],
      [b, c],
      [c, a],
    ].every(([p, q]) => dot(cross(subtract(q, p), subtract(place, p)), n) >= -0.02 * size * size);
    const away = Math.abs(dot(subtract(place, a), n)) / size;
    if (inside && away < best) {
      best = away;
      cell = shape.triangleCells[t];
    }
  }
  return cell;
}

/**
 * The cells, by part, with a face that looks at the camera and whose middle lies in a rectangle of the picture. What is
 * hidden behind other faces counts as well.
 */
export function cellsWithin(
  rectangle: Rectangle,
  shapes: readonly ShownShape[],
  camera: Camera,
  aspect: number,
  origin: readonly number[],
): Record<string, number[]> {
  const found: Record<string, Set<number>> = {};
  const { back } = cameraAxes(camera);
  for (const { part, shape } of shapes) {
    for (const [t, [a, b, c]] of trianglesOf(shape, origin)) {
      const middle = [0, 1, 2].map((k) => (a[k] + b[k] + c[k]) / 3) as Vector;
      const { x, y, depth } = projectPoint(camera, middle, aspect);
      if (depth <= 0 && camera.projection === 'perspective') continue;
      if (x < rectangle.left || x > rectangle.right || y < rectangle.top || y > rectangle.bottom) continue;
      const towards = camera.projection === 'perspective' ? subtract(camera.position, middle) : back;
      if (dot(cross(subtract(b, a), subtract(c, a)), towards) < 0) continue;
      (found[part] ??= new Set()).add(shape.triangleCells[t]);
    }
  }
  return Object.fromEntries(
    Object.entries(found).map(([part, cells]) => [part, [...cells].sort((a, b) => a - b)]),
  );
}
