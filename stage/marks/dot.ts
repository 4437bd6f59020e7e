import { BufferAttribute, BufferGeometry, Points } from 'three';
import { shuffled } from '#core/model/random-numbers.ts';
import { blend } from '../blending.ts';
import { dotFragment, dotVertex } from '../shaders/dot.ts';
import { material, unlit } from './material.ts';
import type { Drawn, Painter } from './painter.ts';
import { VertexValues } from './vertex-values.ts';

/** Fewer are all drawn, however slow that is. */
const MANY = 20_000;

/** Bodies with no extent of their own, as round dots. */
export const dotPainter: Painter<'dot'> = {
  kind: 'dot',
  paint(mark, look, shared) {
    const values = new VertexValues(mark.positions.length / 3);
    const g = new BufferGeometry();
    g.setAttribute('position', new BufferAttribute(mark.positions, 3));
    g.setAttribute('value', values.value);
    g.setAttribute('known', values.known);
    const { length } = mark.dots;
    // In an order by chance the first of them stand for all.
    g.setIndex(new BufferAttribute(length > MANY ? shuffled(mark.dots) : mark.dots, 1));
    const uniforms = { ...shared, ...look.own };
    const own = material(dotVertex, dotFragment, uniforms);
    const bare = unlit(dotVertex, dotFragment, uniforms);
    const object = new Points(g, own);
    object.frustumCulled = false;
    const drawn: Drawn = {
      object,
      kind: 'dot',
      unlit: bare,
      by: 'element',
      count: length,
      narrow: (from, to) => {
        values.fill();
        g.setDrawRange(from, to - from);
      },
    };
    return {
      drawn: [drawn],
      casters: [],
      many: { kind: 'dot', count: length },
      thin: (share) => {
        drawn.count = Math.ceil(length > MANY ? share * length : length);
      },
      setValues: (v) => values.set(v),
      restyle: ({ layer }) => blend(own, look.throughAt(layer.opacity)),
      fade: () => undefined,
      dispose: () => {
        g.dispose();
        own.dispose();
        bare.dispose();
      },
    };
  },
};
