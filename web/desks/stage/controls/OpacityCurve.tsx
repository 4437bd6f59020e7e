import { useRef } from 'react';
import { cssColour } from '#core/colour/compiled-scale.ts';
import type { Layer } from '#core/scene/document.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { freshId } from '#web/desks/shared/fresh-id.ts';
import { useDesk, useRun, useScene } from '../desk-store.ts';
import type { ControlProps } from './control-props.ts';

const WIDTH = 260;
const HEIGHT = 96;

export function CurveControl({ control, options, layer, set }: ControlProps<'curve'>) {
  return layer ? (
    <OpacityCurve
      layer={layer}
      curve={options[control.key] as [number, number][]}
      onChange={(curve, key) => set({ [control.key]: curve }, key)}
    />
  ) : null;
}

interface Props {
  layer: Layer;
  curve: [number, number][];
  onChange(curve: [number, number][], key: string): void;
}

/** How dense a cloud is at each value, above how often it occurs. */
function OpacityCurve({ layer, curve, onChange }: Props) {
  const run = useRun();
  const scene = useScene();
  const grids = useDesk((s) => s.grids[layer.id]);
  const scale =
    layer.colour.kind === 'field'
      ? scene.scales.find((s) => s.id === (layer.colour as { scale: string }).scale)
      : undefined;
  const colours = scale ? settleScale(scale, run, scene.step) : null;
  const counts = grids ? histogramOver(grids, colours ?? { low: grids[0].low, high: grids[0].high }) : [];
  const fill = (at: number): string => (colours ? cssColour(colours.colour(colours.value(at))) : '#bbb');
  return (
    <div>
      <p className="text-soft">Opacity over the values</p>
      <CurveBox
        label="Opacity over the values, above how often they occur"
        curve={curve}
        heights={counts.map((c) => Math.log1p(c))}
        fill={fill}
        onChange={onChange}
      />
    </div>
  );
}

interface BoxProps {
  label: string;
  curve: [number, number][];
  /** Of the histogram behind it, in any unit. */
  heights: number[];
  /** Colour at a place, 0..1. */
  fill(at: number): string;
  onChange(curve: [number, number][], key: string): void;
}

/** A curve of points to drag above a histogram; a click adds one, a double click removes it. */
export function CurveBox({ label, curve, heights, fill, onChange }: BoxProps) {
  const box = useRef<SVGSVGElement>(null);
  const drag = useRef<{ index: number; key: string } | null>(null);
  const most = Math.max(1e-12, ...heights);
  const place = (event: React.PointerEvent | React.MouseEvent): [number, number] => {
    const r = box.current!.getBoundingClientRect();
    const fit = (v: number): number => Math.round(1000 * Math.min(1, Math.max(0, v))) / 1000;
    return [fit((event.clientX - r.left) / r.width), fit(1 - (event.clientY - r.top) / r.height)];
  };
  const path = curve.map(([at, o]) => `${at * WIDTH},${(1 - o) * HEIGHT}`).join(' ');
  return (
    <>
      <svg
        ref={box}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="mt-1 w-full touch-none rounded-md border border-rule bg-sheet"
        role="img"
        aria-label={label}
        onPointerDown={(e) => {
          const [at, o] = place(e);
          const near = curve.findIndex(([p, q]) => Math.hypot((p - at) * WIDTH, (q - o) * HEIGHT) < 9);
          const key = freshId('curve');
          e.currentTarget.setPointerCapture(e.pointerId);
          if (near >= 0) drag.current = { index: near, key };
          else {
            const index = curve.findIndex(([p]) => p > at);
            const to = index < 0 ? curve.length : index;
            drag.current = { index: to, key };
            onChange([...curve.slice(0, to), [at, o], ...curve.slice(to)], key);
          }
        }}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d) return;
          const [at, o] = place(e);
          const low = d.index > 0 ? curve[d.index - 1][0] : 0;
          const high = d.index + 1 < curve.length ? curve[d.index + 1][0] : 1;
          const fixed =
            d.index === 0 ? 0 : d.index === curve.length - 1 ? 1 : Math.min(high, Math.max(low, at));
          onChange(curve.map((p, i) => (i === d.index ? [fixed, o] : p)) as [number, number][], d.key);
        }}
        onPointerUp={() => {
          drag.current = null;
        }}
        onDoubleClick={(e) => {
          const [at, o] = place(e);
          const near = curve.findIndex(([p, q]) => Math.hypot((p - at) * WIDTH, (q - o) * HEIGHT) < 12);
          if (near > 0 && near < curve.length - 1)
            onChange(
              curve.filter((_, i) => i !== near),
              freshId('curve'),
            );
        }}
      >
        {heights.map((of, i) => {
          const h = (of / most) * (HEIGHT - 6);
          return (
            <rect
              key={i}
              x={(i * WIDTH) / heights.length}
              y={HEIGHT - h}
              width={WIDTH / heights.length}
              height={h}
              fill={fill((i + 0.5) / heights.length)}
              opacity={0.55}
            />
          );
        })}
        <polyline points={path} fill="none" stroke="currentColor" strokeWidth={1.6} />
        {curve.map(([at, o], i) => (
          <circle
            key={i}
            cx={at * WIDTH}
            cy={(1 - o) * HEIGHT}
            r={4.5}
            className="cursor-grab fill-accent stroke-sheet"
            strokeWidth={1.5}
          />
        ))}
      </svg>
      <p className="mt-0.5 text-xs text-soft">Click to add a point, drag it, double-click to remove it.</p>
    </>
  );
}

/** Histograms of all parts over the range of the colours. */
function histogramOver(
  grids: { histogram: Uint32Array; low: number; high: number }[],
  { low, high }: { low: number; high: number },
): number[] {
  const out = new Array<number>(64).fill(0);
  for (const grid of grids)
    for (const [i, c] of grid.histogram.entries()) {
      const value = grid.low + ((i + 0.5) / 64) * (grid.high - grid.low);
      const at = Math.floor((64 * (value - low)) / (high - low || 1));
      if (at >= 0 && at < 64) out[at] += c;
    }
  return out;
}
