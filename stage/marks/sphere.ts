import { BufferAttribute, type InstancedBufferGeometry } from 'three';
import { keepGreatest } from '../blending.ts';
import { sphereCasterFragment, sphereFragment, sphereVertex } from '../shaders/sphere.ts';
import { instancedMark } from './instanced-painter.ts';
import { Instances } from './instances.ts';
import { material, unlit } from './material.ts';
import type { Painter } from './painter.ts';

/** Spheres in one piece of work. */
const MOST = 4000;

/** So many times larger they are at most while few stand for many. */
const MOST_GROWN = 2;

/** Bodies of a size, exactly round at every distance; they cast shadows. */
export const spherePainter: Painter<'sphere'> = {
  kind: 'sphere',
  paint({ positions, spheres, radius, radii, onPicture }, look, shared) {
    const grown = { value: 1 };
    const uniforms = { ...shared, ...look.own, uOnPicture: { value: onPicture }, uGrown: grown };
    const sizes = radii ?? new Float32Array(positions.length / 3).fill(radius);
    // How large something is on the picture is not known from where the light stands.
    const shadow = onPicture ? null : material(sphereVertex, sphereCasterFragment, uniforms);
    if (shadow) keepGreatest(shadow);
    const square = (g: InstancedBufferGeometry): void => {
      g.setAttribute('corner', new BufferAttribute(new Float32Array([-1, -1, 1, -1, 1, 1, -1, 1]), 2));
      g.setIndex([0, 1, 2, 0, 2, 3]);
    };
    const pieces = Instances.split(spheres, MOST, { centre: positions }, square, { radius: sizes });
    const materials = {
      seen: material(sphereVertex, sphereFragment, uniforms),
      bare: unlit(sphereVertex, sphereFragment, uniforms),
      shadow,
    };
    return instancedMark('sphere', positions.length / 3, pieces, materials, look, {
      // Fewer ones fill as much of the picture as all of them.
      onThin: (share) => {
        grown.value = Math.min(MOST_GROWN, 1 / Math.sqrt(share));
      },
    });
  },
};
