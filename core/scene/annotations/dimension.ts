import { add, cross, dot, lengthOf, subtract, times, unit, type Vector } from '../../model/vectors.ts';
import type { AnnotationSetting } from './annotation.ts';
import { type AnnotationDrawing, type Shape, type Spot, shifted } from './drawing.ts';
import { type Lettering, textBlock } from './lettering-options.ts';
import { filledIn } from './template.ts';
import type { Here } from './template-words.ts';

/** Shared by what measures between places of the model. */
export const dimensionLettering: Lettering = {
  size: 2.2,
  weight: 'medium',
  serif: false,
  ink: null,
  ground: 'plate',
};

/** What a measured number says of itself to a template. */
export const measuredHere = (value: number, says: string, unitOf: string | null): Here => ({
  place: null,
  part: null,
  index: null,
  number: null,
  value: { says, unit: unitOf, wanted: null, read: () => value },
  tell: () => Number.NaN,
});

/** Angle at the middle one of three places, in degrees, 0 to 180. */
export function angleAt([a, vertex, b]: readonly Vector[]): number {
  const [u, v] = [subtract(a, vertex), subtract(b, vertex)];
  // The tangent of both is exact for small angles too, where the cosine is not.
  return (Math.atan2(lengthOf(cross(u, v)), dot(u, v)) * 180) / Math.PI;
}

/**
 * The circle through three places: its middle, radius and the two directions it lies along; null where they lie on a
 * line. The circumcentre in vectors, from one corner: (|v|² n × u + |u|² v × n) / 2|n|² with n = u × v.
 */
export function circleThrough([a, b, c]: readonly Vector[]): {
  centre: Vector;
  radius: number;
  axes: [Vector, Vector];
} | null {
  const [ab, ac] = [subtract(b, a), subtract(c, a)];
  const normal = cross(ab, ac);
  const twice = dot(normal, normal);
  if (!(twice > 1e-24 * (dot(ab, ab) + dot(ac, ac)) ** 2)) return null;
  const to = times(
    add(times(cross(normal, ab), dot(ac, ac)), times(cross(ac, normal), dot(ab, ab))),
    1 / (2 * twice),
  );
  const centre = add(a, to);
  const along = unit(subtract(a, centre));
  return { centre, radius: lengthOf(to), axes: [along, cross(unit(normal), along)] };
}

/** An arrow head with its point at a place, looking along a direction of the picture. */
export function arrowHead([x, y]: Spot, [dx, dy]: Spot, length: number, ink: string | null): Shape {
  const size = Math.hypot(dx, dy) || 1;
  const [ux, uy] = [dx / size, dy / size];
  const back = (side: number): Spot => [
    x - length * ux - side * 0.32 * length * uy,
    y - length * uy + side * 0.32 * length * ux,
  ];
  return { kind: 'area', corners: [[x, y], back(1), back(-1)], fill: ink, opacity: 1 };
}

/** Words in the middle of a dimension. */
export function dimensionWords(
  text: string,
  here: Here,
  look: Lettering,
  [x, y]: Spot,
  s: AnnotationSetting,
): { shapes: Shape[]; box: NonNullable<AnnotationDrawing['box']> } {
  const block = textBlock(filledIn(text, { ...s, here }), look, s, 'center');
  const box = { x: x - block.width / 2, y: y - block.height / 2, width: block.width, height: block.height };
  return { shapes: shifted(block.shapes, box.x, box.y), box };
}

/** Places on the picture; null when one of them is behind the camera. */
export function projected(places: readonly Vector[], s: AnnotationSetting): Spot[] | null {
  const out: Spot[] = [];
  for (const place of places) {
    const at = s.project(place);
    if (!at) return null;
    out.push([at.x, at.y]);
  }
  return out;
}
