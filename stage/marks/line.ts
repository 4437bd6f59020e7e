import { blendInLayers } from '../blending.ts';
import type { Painter } from './painter.ts';
import { Segments } from './segments.ts';

/** Width of lines, in that of thin ones. */
const USUAL = 3;

/** Lines, coloured by their values. */
export const linePainter: Painter<'line'> = {
  kind: 'line',
  paint(mark, look, shared) {
    const thick = { value: USUAL };
    const segments = new Segments(mark.positions, mark.segments, {
      ...shared,
      ...look.own,
      uPull: { value: 1e-4 },
      uThick: thick,
    });
    return {
      drawn: segments.drawn,
      casters: [],
      setValues: (v) => segments.values.set(v),
      restyle: ({ layer }) => {
        blendInLayers(segments.material, segments.bare, look.throughAt(layer.opacity));
        thick.value = USUAL * layer.lineWidth;
      },
      fade: () => undefined,
      dispose: () => segments.dispose(),
    };
  },
};
