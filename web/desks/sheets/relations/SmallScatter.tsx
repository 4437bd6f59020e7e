import { useEffect, useRef } from 'react';
import { endsOfNumbers, numbersIn } from '#core/sets/column-numbers.ts';
import type { RunColumn } from '#core/sets/run-table.ts';
import { useBox } from '../use-box.ts';

const [WIDTH, HEIGHT, ROOM] = [112, 84, 7];

interface Props {
  across: RunColumn;
  down: RunColumn;
  rows: readonly number[];
  isMarked(row: number): boolean;
  onBox(rows: readonly number[]): void;
}

/** Where values of some rows lie between two ends, from one side of a picture to the other; NaN of those that say nothing. */
export function placesOf(column: RunColumn, rows: readonly number[], from: number, to: number): number[] {
  const numbers = numbersIn(column, rows);
  const [low, high] = endsOfNumbers(numbers);
  return numbers.map((v) => from + (high > low ? (v - low) / (high - low) : 0.5 + 0 * v) * (to - from));
}

/** Two columns as points, in little room. */
export function SmallScatter({ across, down, rows, isMarked, onBox }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const xs = placesOf(across, rows, ROOM, WIDTH - ROOM);
  const ys = placesOf(down, rows, HEIGHT - ROOM, ROOM);
  const { box, begin } = useBox((from, to) =>
    onBox(
      rows.filter((_, i) => {
        const within = (v: number, a: number, b: number): boolean =>
          v >= Math.min(a, b) && v <= Math.max(a, b);
        return within(xs[i], from.x, to.x) && within(ys[i], from.y, to.y);
      }),
    ),
  );
  useEffect(() => {
    const element = canvas.current!;
    const scale = devicePixelRatio;
    element.width = WIDTH * scale;
    element.height = HEIGHT * scale;
    const painter = element.getContext('2d')!;
    const style = getComputedStyle(document.documentElement);
    painter.scale(scale, scale);
    // Marked ones lie on top.
    for (const marks of [false, true])
      for (const [i, row] of rows.entries()) {
        if (isMarked(row) !== marks || Number.isNaN(xs[i] + ys[i])) continue;
        painter.beginPath();
        painter.arc(xs[i], ys[i], marks ? 3.6 : 2.2, 0, 2 * Math.PI);
        painter.fillStyle = style.getPropertyValue(marks ? '--accent' : '--soft');
        painter.globalAlpha = marks ? 1 : 0.6;
        painter.fill();
      }
  });
  return (
    <div
      className="relative h-[84px] w-[112px] cursor-crosshair rounded border border-rule bg-sheet"
      onPointerDown={begin}
    >
      <canvas ref={canvas} role="img" aria-label={`${down.name} over ${across.name}`} className="size-full" />
      {box && (
        <div
          className="pointer-events-none absolute border border-accent bg-accent-wash/40"
          style={{ left: box.x, top: box.y, width: box.width, height: box.height }}
        />
      )}
    </div>
  );
}
