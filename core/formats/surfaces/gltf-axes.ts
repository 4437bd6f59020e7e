import { cross, type Vector } from '../../model/vectors.ts';

/** Right, up and back of glTF and of what else has +Y up, in the axes of a scene with any way up; right-handed. */
export function gltfRows(up: Vector): [Vector, Vector, Vector] {
  const helper: Vector = Math.abs(up[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
  const back = cross(helper, up);
  return [cross(up, back), up, back];
}
