import { useEffect, useRef } from 'react';
import type { Box } from '#core/beside/side-layout.ts';
import { useBeside, useSide } from './beside-store.ts';
import { boxStyle } from './box-style.ts';
import { paintSharedLegends } from './paint-side.ts';
import type { SideController } from './side-controller.ts';

/** The one legend of all panes. */
export function LegendStrip({ controller, box }: { controller: SideController; box: Box }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const onShow = useBeside((s) => s.onShow);
  const side = useSide();
  useEffect(() => {
    const element = canvas.current!;
    const scale = Math.min(2, devicePixelRatio || 1);
    element.width = Math.round(box.width * scale);
    element.height = Math.round(box.height * scale);
    const painter = element.getContext('2d')!;
    const whole = { x: 0, y: 0, width: element.width, height: element.height };
    paintSharedLegends(painter, controller.drawn, onShow, whole);
  }, [controller, onShow, side, box.width, box.height]);
  return (
    <canvas
      ref={canvas}
      className="absolute bg-white"
      style={boxStyle(box)}
      aria-label="The legend of all panes"
      data-testid="legend-of-all"
    />
  );
}
