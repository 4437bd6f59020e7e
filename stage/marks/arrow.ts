import type { DataTexture } from 'three';
import { keepGreatest } from '../blending.ts';
import { arrowCasterFragment, arrowFragment, arrowVertex } from '../shaders/arrow.ts';
import { type ArrowShape, arrowShapes } from './arrow-shapes.ts';
import { copiedMark } from './copied-mark.ts';
import { Copies } from './copies.ts';
import { material, unlit } from './material.ts';
import type { Painter } from './painter.ts';
import { vectorTable } from './tables.ts';

/** Times as wide as a thin line, so that heads are seen. */
const USUAL_WIDTH = 1.6;

/** Place and normal of every corner of the triangles of a shape, one after the other. */
function shapeTable({ triangles, positions, normals }: ArrowShape): DataTexture {
  const corners = triangles.flatMap((v) => [
    ...positions.subarray(3 * v, 3 * v + 3),
    ...normals.subarray(3 * v, 3 * v + 3),
  ]);
  return vectorTable(Float32Array.from(corners));
}

/** Vectors as bodies, flat shapes or lines; bodies that belong to the model cast shadows. */
export const arrowPainter: Painter<'arrow'> = {
  kind: 'arrow',
  paint({ positions, vectors, arrows, form, onPicture }, look, shared) {
    const shape = arrowShapes[form];
    const copies = new Copies(arrows, {
      ends: 1,
      corners: shape.triangles.length,
      vertices: positions.length / 3,
      tables: {
        uPlaces: () => vectorTable(positions),
        uVectors: () => vectorTable(vectors),
        uShape: () => shapeTable(shape),
      },
      fair: true,
    });
    const thick = { value: USUAL_WIDTH };
    const uniforms = {
      ...shared,
      ...look.own,
      ...copies.uniforms,
      uCorners: { value: shape.triangles.length },
      uOnPicture: { value: onPicture },
      uForm: { value: ['body', 'flat', 'lines'].indexOf(shape.drawn) },
      uThick: thick,
    };
    // How large something is on the picture is not known from where the light stands.
    const casts = shape.drawn === 'body' && !onPicture;
    const shadow = casts ? material(arrowVertex, arrowCasterFragment, uniforms) : null;
    if (shadow) keepGreatest(shadow);
    const materials = {
      seen: material(arrowVertex, arrowFragment, uniforms),
      bare: unlit(arrowVertex, arrowFragment, uniforms),
      shadow,
    };
    return copiedMark('arrow', copies, materials, look, {
      onStyle: ({ layer }) => {
        thick.value = USUAL_WIDTH * layer.lineWidth;
      },
    });
  },
};
