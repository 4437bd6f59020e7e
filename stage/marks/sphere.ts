import { BufferAttribute, type InstancedBufferGeometry } from 'three';
import { keepGreatest } from '../blending.ts';
import { sphereCasterFragment, sphereFragment, sphereVertex } from '../shaders/sphere.ts';
import { instancedMark } from './instanced-painter.ts';
import { Instances } from './instances.ts';
import { material, unlit } from './material.ts';
import type { Painter } from './painter.ts';

/** Spheres in one piece of work. */
const MOST = 8000;

/** Bodies of a size, exactly round at every distance; they cast shadows. */
export const spherePainter: Painter<'sphere'> = {
  kind: 'sphere',
  paint({ positions, spheres, radius, radii }, look, shared) {
    const uniforms = { ...shared, ...look.own };
    const sizes = radii ?? new Float32Array(positions.length / 3).fill(radius);
    const shadow = material(sphereVertex, sphereCasterFragment, uniforms);
    keepGreatest(shadow);
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
    return instancedMark('sphere', positions.length / 3, pieces, materials, look);
  },
};
