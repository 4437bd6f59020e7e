import { Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { sayNumber } from '#core/language/sentence.ts';
import type { RunTable } from '#core/model/run.ts';
import { useRoving } from '#web/desks/shared/roving.ts';
import { columnOf, firstColumn, isFewRows } from '#web/desks/shared/table-columns.ts';

/** A run that has no scene; `table` where it holds one. */
export interface LooseRun {
  id: string;
  name: string;
  table: RunTable | null;
}

/** Tables and runs without a scene, each with a curve of what it holds. */
export function TableCards({ runs, onRemove }: { runs: LooseRun[]; onRemove(run: LooseRun): void }) {
  const list = useRoving<HTMLUListElement>();
  return (
    <section aria-label="Runs without a scene" className="mt-9">
      <h2 className="head mb-3">Tables and runs without a scene</h2>
      <ul ref={list} className="grid grid-cols-3 gap-5">
        {runs.map((run) => (
          <li
            key={run.id}
            className="group relative overflow-hidden rounded-xl border border-rule bg-sheet transition hover:border-soft"
          >
            <a href={`/run/${run.id}`} className="block">
              <div className="aspect-[4/3] bg-sunk">{run.table && <Curve table={run.table} />}</div>
              <div className="px-4 py-3">
                <p className="truncate font-medium">{run.name}</p>
                <p className="truncate text-soft">
                  {run.table
                    ? `${run.table.rows.toLocaleString('en-GB')} rows of ${run.table.columns.length} quantities`
                    : 'No scene yet'}
                </p>
              </div>
            </a>
            <button
              type="button"
              className="mark absolute right-2 bottom-3 opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
              onClick={() => onRemove(run)}
              aria-label={`Delete ${run.name}`}
              title="Delete"
            >
              <Trash2 size={16} />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const [WIDTH, HEIGHT] = [320, 240];
const ROOM = { left: 28, right: 28, top: 64, bottom: 34 };
/** More points than pixels across show nothing more. */
const MOST_POINTS = 320;

interface Shown {
  name: string;
  points: [number, number][];
  range: [number, number];
}

/** The quantity that tells most, over the rows or the time. */
function Curve({ table }: { table: RunTable }) {
  const [shown, setShown] = useState<Shown | null>(null);
  useEffect(() => {
    let gone = false;
    curveOf(table)
      .then((found) => !gone && setShown(found))
      // The card leads to the table all the same, which says what is wrong.
      .catch(() => undefined);
    return () => {
      gone = true;
    };
  }, [table]);
  if (!shown) return null;
  const { name, points, range } = shown;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="size-full"
      role="img"
      aria-label={`${name} of ${table.name}`}
    >
      <text x={ROOM.left} y={30} className="fill-ink text-[13px] font-medium">
        {name}
      </text>
      <text x={ROOM.left} y={48} className="fill-soft text-[12px]">
        {`${sayNumber(range[0])} to ${sayNumber(range[1])}`}
      </text>
      <path
        d={`M${points.map((p) => p.join(',')).join('L')}`}
        className="fill-none stroke-accent"
        strokeWidth={isFewRows(table) ? 1 : 1.6}
        strokeOpacity={isFewRows(table) ? 0.45 : 1}
        strokeLinejoin="round"
      />
      {isFewRows(table) &&
        points.map(([x, y]) => <circle key={`${x} ${y}`} cx={x} cy={y} r={4} className="fill-accent" />)}
    </svg>
  );
}

async function curveOf(table: RunTable): Promise<Shown | null> {
  const i = await firstColumn(table);
  if (i === null) return null;
  const values = Array.from(await columnOf(table, i));
  const along =
    table.time === null ? values.map((_, row) => row) : Array.from(await columnOf(table, table.time));
  const stride = Math.max(1, Math.ceil(values.length / MOST_POINTS));
  const rows = values.flatMap((v, row) =>
    row % stride === 0 && Number.isFinite(v) && Number.isFinite(along[row]) ? [row] : [],
  );
  if (rows.length === 0) return null;
  const across = span(rows.map((row) => along[row]));
  const up = span(rows.map((row) => values[row]));
  const within = (v: number, [low, high]: [number, number]): number =>
    high > low ? (v - low) / (high - low) : 0.5;
  const points = rows.map((row): [number, number] => [
    round(ROOM.left + within(along[row], across) * (WIDTH - ROOM.left - ROOM.right)),
    round(HEIGHT - ROOM.bottom - within(values[row], up) * (HEIGHT - ROOM.top - ROOM.bottom)),
  ]);
  return { name: table.columns[i].name, points, range: up };
}

const span = (values: number[]): [number, number] =>
  values.reduce(
    ([low, high], v) => [Math.min(low, v), Math.max(high, v)],
    [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY],
  );

const round = (v: number): number => Math.round(10 * v) / 10;
