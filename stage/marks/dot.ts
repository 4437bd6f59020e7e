import { BufferAttribute, BufferGeometry, Points } from 'three';
import { blendInLayers } from '../blending.ts';
import { dotFragment, dotVertex } from '../shaders/dot.ts';
import { material, unlit } from './material.ts';
import type { Drawn, Painter } from './painter.ts';
import { inFairOrder, standingForAll } from './standing-for-all.ts';
import { VertexValues } from './vertex-values.ts';

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
    g.setIndex(new BufferAttribute(inFairOrder('dot', mark.dots), 1));
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
        drawn.count = standingForAll('dot', length, share);
      },
      setValues: (v) => values.set(v),
      restyle: ({ layer }) => blendInLayers(own, bare, look.throughAt(layer.opacity)),
      fade: () => undefined,
      dispose: () => {
        g.dispose();
        own.dispose();
        bare.dispose();
      },
    };
  },
};
