import { useVirtualizer } from '@tanstack/react-virtual';
import { Bookmark, EyeOff } from 'lucide-react';
import { useRef } from 'react';
import type { RunColumn, RunTable } from '#core/sets/run-table.ts';
import type { RowGroup } from '#core/sets/shown-rows.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import { ColumnMenu } from './ColumnMenu.tsx';
import { columnsInOrder } from './columns-in-order.ts';
import { sayValue } from './say-value.ts';
import { editSet, setNow, useRunSet } from './set-store.ts';
import { useMissingPictures } from './use-missing-pictures.ts';
import { ValueCell } from './ValueCell.tsx';

/** Heights in pixels; all rows of a kind are as high. */
const ROW = 46;
const GROUP = 34;

/** Widths in pixels. */
const [MARK, PICTURE, NAME, VALUE] = [44, 68, 170, 104];

interface Props {
  table: RunTable;
  groups: readonly RowGroup[];
  /** By their ids. */
  runs: ReadonlyMap<string, ListedRun>;
}

type Line = { group: RowGroup } | { row: number };

/** The runs of a set with all that is known of them; only the rows in sight are on the page. */
export function RunsTable({ table, groups, runs }: Props) {
  const { view } = useRunSet();
  const scroller = useRef<HTMLDivElement>(null);
  const columns = columnsInOrder(table);
  const lines: Line[] = groups.flatMap((group) => [
    ...(view.group === null ? [] : [{ group }]),
    ...group.rows.map((row) => ({ row })),
  ]);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => ('group' in lines[i] ? GROUP : ROW),
    overscan: 8,
  });
  const items = virtual.getVirtualItems();
  useMissingPictures(
    items.flatMap(({ index }) => {
      const line = lines[index];
      const run = 'row' in line ? runs.get(table.rows[line.row].id) : undefined;
      return run ?? [];
    }),
  );
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items[items.length - 1]?.end ?? 0);
  const width = 2 * MARK + PICTURE + NAME + VALUE * columns.length;
  const grouping = columns.find((c) => c.key === view.group);
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-auto">
      <table
        className="w-full table-fixed border-separate border-spacing-0"
        style={{ minWidth: width }}
        aria-rowcount={lines.length + 1}
      >
        <caption className="sr-only">Runs of the set</caption>
        <colgroup>
          <col style={{ width: MARK }} />
          <col style={{ width: PICTURE }} />
          <col style={{ minWidth: NAME }} />
          {columns.map(({ key }) => (
            <col key={key} style={{ minWidth: VALUE }} />
          ))}
          <col style={{ width: MARK }} />
        </colgroup>
        <thead>
          <tr aria-rowindex={1} className="h-12">
            <HeadCell>
              <span className="sr-only">Mark</span>
            </HeadCell>
            <HeadCell>
              <span className="sr-only">Scene</span>
            </HeadCell>
            <HeadCell>
              <span className="px-2 font-medium">Run</span>
            </HeadCell>
            {columns.map((column) => (
              <ColumnMenu key={column.key} column={column} />
            ))}
            <HeadCell>
              <span className="sr-only">Hide</span>
            </HeadCell>
          </tr>
        </thead>
        <tbody>
          {above > 0 && <tr aria-hidden style={{ height: above }} />}
          {items.map(({ index }) => {
            const line = lines[index];
            return 'group' in line ? (
              <tr key={`group ${line.group.value}`} aria-rowindex={index + 2} style={{ height: GROUP }}>
                <th
                  scope="rowgroup"
                  colSpan={columns.length + 4}
                  className="border-b border-rule bg-sunk/60 px-4 text-left text-sm font-normal"
                >
                  <span className="text-soft">{grouping?.name} </span>
                  <span className="font-medium tabular-nums">{sayValue(line.group.value)}</span>
                  <span className="text-soft">
                    {grouping?.unit && line.group.value !== null ? ` ${grouping.unit}` : ''},{' '}
                    {line.group.rows.length === 1 ? '1 run' : `${line.group.rows.length} runs`}
                  </span>
                </th>
              </tr>
            ) : (
              <RunLine
                key={table.rows[line.row].id}
                index={index}
                row={line.row}
                table={table}
                columns={columns}
                run={runs.get(table.rows[line.row].id)}
              />
            );
          })}
          {below > 0 && <tr aria-hidden style={{ height: below }} />}
        </tbody>
      </table>
      {lines.length === 0 && (
        <p className="px-6 py-5 text-soft">
          No run is shown: bring the hidden ones back, or take filters away.
        </p>
      )}
    </div>
  );
}

const HeadCell = ({ children }: { children: React.ReactNode }) => (
  <th scope="col" className="sticky top-0 z-10 border-b border-rule bg-paper p-0 text-left">
    {children}
  </th>
);

interface LineProps {
  /** Among the lines that are shown. */
  index: number;
  row: number;
  table: RunTable;
  columns: readonly RunColumn[];
  run: ListedRun | undefined;
}

function RunLine({ index, row, table, columns, run }: LineProps) {
  const { id, name } = table.rows[row];
  const isMarked = useRunSet().marked.includes(id);
  const cell = 'border-b border-rule/60 p-0';
  return (
    <tr
      aria-rowindex={index + 2}
      className={`group/row hover:bg-sheet ${isMarked ? 'bg-accent-wash/60' : ''}`}
      style={{ height: ROW }}
    >
      <td className={`${cell} text-center`}>
        <button
          type="button"
          className="mark align-middle"
          aria-pressed={isMarked}
          aria-label={`Mark ${name}`}
          title={isMarked ? 'Marked: press to take the mark away' : 'Mark'}
          onClick={() => editSet({ type: 'set.mark', runs: [id], on: !isMarked })}
        >
          <Bookmark
            size={16}
            className={isMarked ? 'fill-accent text-accent' : 'opacity-45 group-hover/row:opacity-100'}
          />
        </button>
      </td>
      <td className={cell}>
        {run?.scene && <SceneLink name={name} scene={run.scene} pictured={run.pictured} />}
      </td>
      <th scope="row" className={`${cell} truncate px-2 text-left font-medium`} title={name}>
        <a href={`/run/${id}`} className="hover:underline">
          {name}
        </a>
      </th>
      {columns.map((column) => (
        <td key={column.key} className={`${cell} px-1 ${column.numeric ? 'text-right' : ''}`}>
          <ValueCell column={column} row={row} id={id} name={name} />
        </td>
      ))}
      <td className={`${cell} text-center`}>
        <button
          type="button"
          className="mark align-middle opacity-0 group-hover/row:opacity-100 focus-visible:opacity-100"
          aria-label={`Hide ${name}`}
          title="Hide this run"
          onClick={() => editSet({ type: 'set.view', change: { hidden: [...setNow().view.hidden, id] } })}
        >
          <EyeOff size={16} />
        </button>
      </td>
    </tr>
  );
}

function SceneLink({ name, scene, pictured }: { name: string; scene: string; pictured: boolean }) {
  const look = 'h-[38px] w-[52px] rounded border border-rule bg-sunk';
  return (
    <a href={`/scene/${scene}`} aria-label={`Open the scene of ${name}`} title="Open its scene">
      {pictured ? (
        <img
          src={`/api/scenes/${scene}/thumbnail`}
          alt=""
          loading="lazy"
          className={`${look} object-cover`}
        />
      ) : (
        <span className={`${look} flex items-center justify-center text-[10px] text-soft`}>not drawn</span>
      )}
    </a>
  );
}
