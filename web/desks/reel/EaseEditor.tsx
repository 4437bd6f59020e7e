import { type PointerEvent, useRef } from 'react';
import { eased } from '#core/motion/easing.ts';
import type { Ease } from '#core/scene/reel/ease.ts';

const SIDE = 132;
/** Room above and below for curves that go beyond their ends. */
const MARGIN = 34;
const STEPS = 48;

type Handles = [number, number, number, number];

const across = (x: number): number => x * SIDE;
const down = (y: number): number => MARGIN + (1 - y) * SIDE;
const rounded = (v: number): number => Math.round(100 * v) / 100;

/** The way from a key to the next as a curve with two handles to drag; the arrows move them too. */
export function EaseEditor({ ease, onEase }: { ease: Ease; onEase(ease: Ease): void }) {
  const box = useRef<SVGSVGElement>(null);
  const handles: Handles = ease.kind === 'curve' ? ease.handles : [1 / 3, 1 / 3, 2 / 3, 2 / 3];
  const path = Array.from({ length: STEPS + 1 }, (_, i) => i / STEPS)
    .map((x) => `${across(x)},${down(eased(ease, x))}`)
    .join(' ');
  const put = (which: 0 | 1, x: number, y: number) => {
    const next = handles.slice() as Handles;
    next[2 * which] = rounded(Math.min(1, Math.max(0, x)));
    next[2 * which + 1] = rounded(Math.min(1.25, Math.max(-0.25, y)));
    onEase({ kind: 'curve', handles: next });
  };
  const drag = (which: 0 | 1) => (e: PointerEvent<SVGCircleElement>) => {
    if (e.buttons !== 1) return;
    const { left, top } = box.current!.getBoundingClientRect();
    put(which, (e.clientX - left) / SIDE, 1 - (e.clientY - top - MARGIN) / SIDE);
  };
  return (
    <svg
      ref={box}
      width={SIDE}
      height={SIDE + 2 * MARGIN}
      aria-label="Curve with two handles"
      className="mt-2 overflow-visible"
    >
      <rect x={0} y={MARGIN} width={SIDE} height={SIDE} className="fill-sunk stroke-rule" />
      <polyline points={path} className="fill-none stroke-ink" strokeWidth={2} />
      {([0, 1] as const).map((which) => {
        const [x, y] = [handles[2 * which], handles[2 * which + 1]];
        return (
          <g key={which}>
            <line
              x1={across(which)}
              y1={down(which)}
              x2={across(x)}
              y2={down(y)}
              className="stroke-accent"
              strokeWidth={1.5}
            />
            <circle
              cx={across(x)}
              cy={down(y)}
              r={6}
              role="slider"
              tabIndex={0}
              aria-label={which === 0 ? 'Handle of the beginning' : 'Handle of the end'}
              aria-valuenow={x}
              aria-valuetext={`${x}, ${y}`}
              className="cursor-grab touch-none fill-accent stroke-paper"
              onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
              onPointerMove={drag(which)}
              onKeyDown={(e) => {
                const by = {
                  ArrowLeft: [-0.05, 0],
                  ArrowRight: [0.05, 0],
                  ArrowUp: [0, 0.05],
                  ArrowDown: [0, -0.05],
                }[e.key];
                if (!by) return;
                e.preventDefault();
                put(which, x + by[0], y + by[1]);
              }}
            />
          </g>
        );
      })}
    </svg>
  );
}
