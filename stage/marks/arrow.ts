import { BufferAttribute } from 'three';
import { keepGreatest } from '../blending.ts';
import { arrowCasterFragment, arrowFragment, arrowVertex } from '../shaders/arrow.ts';
import { arrowShapes } from './arrow-shapes.ts';
import { instancedMark } from './instanced-painter.ts';
import { Instances } from './instances.ts';
import { material, unlit } from './material.ts';
import type { Painter } from './painter.ts';

/** Arrows in one piece of work. */
const MOST = 2000;
/** Times as wide as a thin line, so that heads are seen. */
const USUAL_WIDTH = 1.6;

/** Vectors as bodies, flat shapes or lines; bodies that belong to the model cast shadows. */
export const arrowPainter: Painter<'arrow'> = {
  kind: 'arrow',
  paint({ positions, vectors, arrows, form, onPicture }, look, shared) {
    const shape = arrowShapes[form];
    const thick = { value: USUAL_WIDTH };
    const uniforms = {
      ...shared,
      ...look.own,
      uOnPicture: { value: onPicture },
      uForm: { value: ['body', 'flat', 'lines'].indexOf(shape.drawn) },
      uThick: thick,
    };
    const pieces = Instances.split(arrows, MOST, { base: positions, along: vectors }, (g) => {
      g.setAttribute('position', new BufferAttribute(shape.positions, 3));
      g.setAttribute('normal', new BufferAttribute(shape.normals, 3));
      g.setIndex(shape.triangles);
    });
    // How large something is on the picture is not known from where the light stands.
    const casts = shape.drawn === 'body' && !onPicture;
    const shadow = casts ? material(arrowVertex, arrowCasterFragment, uniforms) : null;
    if (shadow) keepGreatest(shadow);
    const materials = {
      seen: material(arrowVertex, arrowFragment, uniforms),
      bare: unlit(arrowVertex, arrowFragment, uniforms),
      shadow,
    };
    return instancedMark('arrow', positions.length / 3, pieces, materials, look, {
      onStyle: ({ layer }) => {
        thick.value = USUAL_WIDTH * layer.lineWidth;
      },
    });
  },
};
