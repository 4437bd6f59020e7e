import { blend } from '../blending.ts';
import type { Painter } from './painter.ts';
import { Segments } from './segments.ts';
import { VertexValues } from './vertex-values.ts';

/** Lines, coloured by their values. */
export const linePainter: Painter<'line'> = {
  kind: 'line',
  paint(mark, look, shared) {
    const values = new VertexValues(mark.positions.length / 3);
    const segments = new Segments(mark.positions, mark.segments, values, {
      ...shared,
      ...look.own,
      uPull: { value: 1e-4 },
      uThick: { value: 3 },
    });
    return {
      drawn: segments.drawn,
      casters: [],
      setValues: (v) => values.set(v),
      restyle: ({ layer }) => blend(segments.material, layer.opacity),
      fade: () => undefined,
      dispose: () => segments.dispose(),
    };
  },
};
