import { sayNumber } from '#core/language/sentence.ts';
import { endsOfNumbers, numbersIn } from '#core/sets/column-numbers.ts';
import type { RunColumn } from '#core/sets/run-table.ts';
import { useBox } from '../use-box.ts';
import { placesOf } from './SmallScatter.tsx';

const [WIDTH, HEIGHT] = [880, 230];
const ROOM = { side: 70, top: 34, bottom: 22 };
/** To either side of an axis, in pixels, where a drag chooses along it. */
const REACH = 26;

interface Props {
  columns: readonly RunColumn[];
  rows: readonly number[];
  isMarked(row: number): boolean;
  onBox(rows: readonly number[]): void;
}

/** Each run as a line over an axis for each column (Inselberg 1985); a stretch of an axis chooses the runs that go through it. */
export function ParallelAxes({ columns, rows, isMarked, onBox }: Props) {
  const [top, bottom] = [ROOM.top, HEIGHT - ROOM.bottom];
  const places = columns.map((column) => placesOf(column, rows, bottom, top));
  const xOf = (i: number): number =>
    ROOM.side + (i * (WIDTH - 2 * ROOM.side)) / Math.max(1, columns.length - 1);
  const pathOf = (marks: boolean): string =>
    rows
      .flatMap((row, n) => {
        if (isMarked(row) !== marks) return [];
        const points = places.flatMap((of, i) =>
          Number.isNaN(of[n]) ? [] : [`${xOf(i).toFixed(1)},${of[n].toFixed(1)}`],
        );
        return points.length > 1 ? [`M${points.join('L')}`] : [];
      })
      .join('');
  const { box, begin } = useBox((from, to) => {
    const axis = columns.findIndex((_, i) => Math.abs(xOf(i) - from.x) <= REACH);
    if (axis < 0) return;
    const [low, high] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
    onBox(rows.filter((_, n) => places[axis][n] >= low && places[axis][n] <= high));
  });
  return (
    <div className="relative" style={{ width: WIDTH, height: HEIGHT }} onPointerDown={begin}>
      <svg
        width={WIDTH}
        height={HEIGHT}
        role="img"
        aria-label={`Runs over ${columns.map((c) => c.name).join(', ')}`}
        className="cursor-crosshair"
      >
        <path d={pathOf(false)} className="fill-none stroke-soft" strokeOpacity={0.4} />
        <path d={pathOf(true)} className="fill-none stroke-accent" strokeWidth={2} />
        {columns.map((column, i) => {
          const [low, high] = endsOfNumbers(numbersIn(column, rows));
          return (
            <g key={column.key}>
              <line x1={xOf(i)} x2={xOf(i)} y1={top} y2={bottom} className="stroke-ink" strokeWidth={1.5} />
              <text x={xOf(i)} y={13} textAnchor="middle" className="fill-ink text-[12px] font-medium">
                {column.name}
              </text>
              <text x={xOf(i)} y={top - 6} textAnchor="middle" className="fill-soft text-[11px]">
                {sayNumber(high)}
              </text>
              <text x={xOf(i)} y={bottom + 14} textAnchor="middle" className="fill-soft text-[11px]">
                {sayNumber(low)}
              </text>
            </g>
          );
        })}
      </svg>
      {box && (
        <div
          className="pointer-events-none absolute border border-accent bg-accent-wash/40"
          style={{ left: box.x, top: box.y, width: box.width, height: box.height }}
        />
      )}
    </div>
  );
}
