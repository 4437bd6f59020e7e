import { triangleArea } from '../model/triangle-area.ts';
import { ABRUPT } from './picture-seen.ts';

/** More triangles than this are looked at by some of them. */
const MOST_LOOKED_AT = 200_000;

/** Areas of a surface: of all that has values, and of the faces that span too much of a scale. */
export interface AbruptAreas {
  all: number;
  abrupt: number;
}

/**
 * How much of a surface lies in faces that each span more than `ABRUPT` of a scale.
 *
 * @param positions three a vertex
 * @param triangles three vertices each
 * @param fractionOf where a value lies on the scale, 0..1 within it
 */
export function abruptAreas(
  positions: ArrayLike<number>,
  triangles: ArrayLike<number>,
  values: ArrayLike<number>,
  fractionOf: (value: number) => number,
): AbruptAreas {
  const every = 3 * Math.max(1, Math.ceil(triangles.length / 3 / MOST_LOOKED_AT));
  const within = (vertex: number): number => Math.min(1, Math.max(0, fractionOf(values[vertex])));
  const out = { all: 0, abrupt: 0 };
  for (let i = 0; i + 2 < triangles.length; i += every) {
    const [u, v, w] = [triangles[i], triangles[i + 1], triangles[i + 2]];
    const [a, b, c] = [within(u), within(v), within(w)];
    if (Number.isNaN(a + b + c)) continue;
    const area = triangleArea(positions, u, v, w);
    out.all += area;
    if (Math.max(a, b, c) - Math.min(a, b, c) > ABRUPT) out.abrupt += area;
  }
  return out;
}
