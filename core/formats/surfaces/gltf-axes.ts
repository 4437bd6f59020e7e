import { cross, type Vector } from '../../model/vectors.ts';

/** Right, up and back of glTF and of what else has +Y up, in the axes of a scene with any way up; right-handed. */
export function gltfRows(up: Vector): [Vector, Vector, Vector] {
  const helper: Vector = Math.abs(up[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
  const back = cross(helper, up);
  return [cross(up, back), up, back];
}

/** A colour in linear light, from sRGB (IEC 61966-2-1). */
export const linearColour = (colour: string): Vector =>
  [1, 3, 5].map((i) => {
    const v = Number.parseInt(colour.slice(i, i + 2), 16) / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  }) as Vector;
