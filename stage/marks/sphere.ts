import { keepGreatest } from '../blending.ts';
import { sphereCasterFragment, sphereFragment, sphereVertex } from '../shaders/sphere.ts';
import { copiedMark } from './copied-mark.ts';
import { Copies } from './copies.ts';
import { material, unlit } from './material.ts';
import type { Painter } from './painter.ts';
import { vectorTable } from './tables.ts';

/** So many times larger they are at most while few stand for many. */
const MOST_GROWN = 2;

/** Bodies of a size, exactly round at every distance; they cast shadows. */
export const spherePainter: Painter<'sphere'> = {
  kind: 'sphere',
  paint({ positions, spheres, radius, radii, onPicture }, look, shared) {
    const copies = new Copies(spheres, {
      ends: 1,
      // One triangle around each.
      corners: 3,
      vertices: positions.length / 3,
      tables: { uPlaces: () => vectorTable(positions, radii ?? radius) },
      fair: true,
    });
    const grown = { value: 1 };
    const uniforms = {
      ...shared,
      ...look.own,
      ...copies.uniforms,
      uOnPicture: { value: onPicture },
      uGrown: grown,
    };
    // How large something is on the picture is not known from where the light stands.
    const shadow = onPicture ? null : material(sphereVertex, sphereCasterFragment, uniforms);
    if (shadow) keepGreatest(shadow);
    const materials = {
      seen: material(sphereVertex, sphereFragment, uniforms),
      bare: unlit(sphereVertex, sphereFragment, uniforms),
      shadow,
    };
    return copiedMark('sphere', copies, materials, look, {
      // Fewer ones fill as much of the picture as all of them.
      onThin: (share) => {
        grown.value = Math.min(MOST_GROWN, 1 / Math.sqrt(share));
      },
    });
  },
};
