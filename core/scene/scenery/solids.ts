import { cross, dot, subtract, unit, type Vector } from '../../model/vectors.ts';

/** A body made by code: points, three numbers each, and triangles that look outward. z is up. */
export interface Solid {
  points: number[];
  triangles: number[];
}

/** A closed line of points, counterclockwise seen from above. */
export type Loop = Vector[];

/** Several bodies as one. */
export function joined(...solids: readonly Solid[]): Solid {
  const out: Solid = { points: [], triangles: [] };
  for (const { points, triangles } of solids) {
    const first = out.points.length / 3;
    for (const v of points) out.points.push(v);
    for (const t of triangles) out.triangles.push(first + t);
  }
  return out;
}

/** A body elsewhere. */
export const shifted = ({ points, triangles }: Solid, by: Vector): Solid => ({
  points: points.map((v, i) => v + by[i % 3]),
  triangles,
});

/** Steps around a quarter of a rounded corner: fine enough to be shaded as one. */
const QUARTER = 4;

/** A rectangle with round corners about the middle, at a height. */
export function roundedRectangle(length: number, width: number, corner: number, height: number): Loop {
  const r = Math.min(corner, length / 2, width / 2);
  return [0, 1, 2, 3].flatMap((q) =>
    Array.from({ length: QUARTER + 1 }, (_, i): Vector => {
      const angle = ((q + i / QUARTER) * Math.PI) / 2;
      const [right, front] = [q === 0 || q === 3 ? 1 : -1, q < 2 ? 1 : -1];
      return [
        right * (length / 2 - r) + r * Math.cos(angle),
        front * (width / 2 - r) + r * Math.sin(angle),
        height,
      ];
    }),
  );
}

/** A circle about the middle, at a height. */
export const circle = (radius: number, height: number, count = 24): Loop =>
  Array.from({ length: count }, (_, i): Vector => {
    const angle = (2 * Math.PI * i) / count;
    return [radius * Math.cos(angle), radius * Math.sin(angle), height];
  });

/** A skin over loops of equally many points, from the lowest outside on, closed by flat ends. */
export function skin(loops: readonly Loop[]): Solid {
  const n = loops[0].length;
  const points = loops.flat(2);
  const triangles: number[] = [];
  for (let l = 0; l + 1 < loops.length; l++)
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n;
      const [a, b, c, d] = [l * n + i, l * n + j, (l + 1) * n + j, (l + 1) * n + i];
      triangles.push(a, b, c, a, c, d);
    }
  const last = (loops.length - 1) * n;
  for (let i = 1; i + 1 < n; i++) {
    triangles.push(0, i + 1, i);
    triangles.push(last, last + i, last + i + 1);
  }
  return { points, triangles };
}

/** A box with round edges that stands on the level of its place. */
export function block(length: number, width: number, height: number, edge: number): Solid {
  const r = Math.min(edge, length / 2, width / 2, height / 2);
  const turn = (from: number, to: number, middle: number): Loop[] =>
    Array.from({ length: QUARTER + 1 }, (_, i) => {
      const angle = ((from + ((to - from) * i) / QUARTER) * Math.PI) / 2;
      const out = r * Math.cos(angle);
      const inset = 2 * (r - out);
      return roundedRectangle(
        length - inset,
        width - inset,
        Math.max(out, 1e-4 * r),
        middle + r * Math.sin(angle),
      );
    });
  return skin([...turn(-1, 0, r), ...turn(0, 1, height - r)]);
}

const rectangle = (length: number, width: number, height: number): Loop =>
  [
    [1, 1],
    [-1, 1],
    [-1, -1],
    [1, -1],
  ].map(([x, y]): Vector => [(x * length) / 2, (y * width) / 2, height]);

/** A box of few triangles whose upper edges are bevelled, for what there are many of. */
export const tile = (length: number, width: number, height: number, bevel: number): Solid =>
  skin([
    rectangle(length, width, 0),
    rectangle(length, width, height - bevel),
    rectangle(length - 2 * bevel, width - 2 * bevel, height),
  ]);

/** A round bar between two places. */
export function bar(from: Vector, to: Vector, radius: number, count = 14): Solid {
  const along = unit(subtract(to, from));
  const helper: Vector = Math.abs(along[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  const first = unit(cross(helper, along));
  const second = cross(along, first);
  const ring = (at: Vector): Loop =>
    circle(radius, 0, count).map(
      ([x, y]) => [0, 1, 2].map((k) => at[k] + x * first[k] + y * second[k]) as Vector,
    );
  return skin([ring(from), ring(to)]);
}

/** Bars through places, with round joints. */
export function rail(places: readonly Vector[], radius: number): Solid {
  const bars = places.slice(1).map((to, i) => bar(places[i], to, radius));
  return joined(...bars, ...places.map((at) => ball(at, radius)));
}

export function ball(at: Vector, radius: number, count = 12): Solid {
  const rows = Array.from({ length: count + 1 }, (_, i) => {
    const angle = -Math.PI / 2 + (Math.PI * i) / count;
    return circle(Math.max(radius * Math.cos(angle), 1e-4 * radius), radius * Math.sin(angle), 2 * count);
  });
  return shifted(skin(rows), at);
}

/** A body turned about a line: radius and height of its outline, from the lowest on. */
export const turned = (outline: readonly (readonly [number, number])[], count = 28): Solid =>
  skin(outline.map(([radius, height]) => circle(radius, height, count)));

/**
 * An open vessel: walls that lean outward, of a thickness, with a rim that is rolled outward.
 *
 * @param foot how much shorter and narrower its foot is than its mouth, in its unit
 */
export function vessel(
  { length, width, height }: Record<'length' | 'width' | 'height', number>,
  { foot, thick, rim, corner }: Record<'foot' | 'thick' | 'rim' | 'corner', number>,
): Solid {
  const at = (grown: number, z: number): Loop =>
    roundedRectangle(length + 2 * grown, width + 2 * grown, Math.max(corner + grown, 0.2 * corner), z);
  const round = Math.min(corner, 0.25 * height);
  return skin([
    at(-foot / 2 - round, 0),
    at(-foot / 2 - 0.3 * round, 0.3 * round),
    at(-foot / 2, round),
    at(-rim, height - rim),
    at(0, height - rim),
    at(0, height),
    at(-rim - thick, height),
    at(-foot / 2 - thick, round + thick),
    at(-foot / 2 - thick - 0.7 * round, thick + 0.3 * round),
    at(-foot / 2 - thick - round, thick),
  ]);
}

/** What the triangles of a closed body enclose, in the cube of its unit; below zero where they look inward. */
export function volumeOf({ points, triangles }: Solid): number {
  const at = (i: number): Vector => [points[3 * i], points[3 * i + 1], points[3 * i + 2]];
  let sum = 0;
  for (let t = 0; t < triangles.length; t += 3)
    sum += dot(at(triangles[t]), cross(at(triangles[t + 1]), at(triangles[t + 2]))) / 6;
  return sum;
}
