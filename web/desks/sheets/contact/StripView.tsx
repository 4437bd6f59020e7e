import { Bookmark, ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useRef } from 'react';
import type { RunTable } from '#core/sets/run-table.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import { editSet, useRunSet } from '../set-store.ts';
import { RunPicture, sayLabels, sayLabelValues } from './RunPicture.tsx';
import type { SheetPictures } from './use-sheet-pictures.ts';

interface Props {
  table: RunTable;
  /** Indices of the rows that are shown. */
  rows: readonly number[];
  runs: ReadonlyMap<string, ListedRun>;
  aspect: number;
  sheet: SheetPictures;
}

/** One run after the other, as pictures of a film: the one that is chosen large, all of them below. */
export function StripView({ table, rows, runs, aspect, sheet }: Props) {
  const { marked, sheet: settings } = useRunSet();
  const setChosen = (run: string): void => editSet({ type: 'set.sheet', change: { run } }, 'page');
  const strip = useRef<HTMLUListElement>(null);
  const at = Math.max(
    0,
    rows.findIndex((row) => table.rows[row].id === settings.run),
  );
  const go = (to: number): void => {
    const row = rows[Math.max(0, Math.min(rows.length - 1, to))];
    if (row !== undefined) setChosen(table.rows[row].id);
  };
  useEffect(() => {
    strip.current?.children[at]?.scrollIntoView({ block: 'nearest', inline: 'center' });
  }, [at]);
  if (rows.length === 0) return null;
  const row = rows[at];
  const { id, name } = table.rows[row];
  const isMarked = marked.includes(id);
  const scene = runs.get(id)?.scene;
  const keys: Record<string, () => void> = {
    ArrowLeft: () => go(at - 1),
    ArrowRight: () => go(at + 1),
    Home: () => go(0),
    End: () => go(rows.length - 1),
    m: () => editSet({ type: 'set.mark', runs: [id], on: !isMarked }),
  };
  return (
    <section
      aria-label="Strip"
      // The arrows page wherever the focus is within it.
      onKeyDown={(e) => {
        const act = e.ctrlKey || e.metaKey || e.altKey ? undefined : keys[e.key];
        if (!act) return;
        e.preventDefault();
        act();
      }}
      className="flex min-h-0 flex-1 flex-col gap-3 p-4"
    >
      <div className="flex min-h-0 flex-1 items-center justify-center gap-3">
        <button
          type="button"
          className="mark"
          aria-label="The run before"
          title="The run before (left arrow)"
          disabled={at === 0}
          onClick={() => go(at - 1)}
        >
          <ChevronLeft size={20} />
        </button>
        <figure className="flex h-full min-w-0 flex-1 flex-col items-center justify-center gap-2">
          <div className="flex min-h-0 w-full flex-1 items-center justify-center">
            <div className="max-h-full w-full" style={{ maxWidth: `calc((100vh - 340px) * ${aspect})` }}>
              <RunPicture
                id={id}
                name={name}
                aspect={aspect}
                sheet={sheet}
                className="rounded-lg border border-rule"
              />
            </div>
          </div>
          <figcaption className="flex items-baseline gap-3" aria-live="polite">
            <span className="font-medium">{name}</span>
            <span className="text-soft tabular-nums">{sayLabels(table, row, settings.labels)}</span>
            <span className="text-soft tabular-nums">
              {at + 1} of {rows.length}
            </span>
            <button
              type="button"
              className="mark size-7"
              aria-pressed={isMarked}
              aria-label={`Mark ${name}`}
              title="Mark (M)"
              onClick={keys.m}
            >
              <Bookmark size={15} className={isMarked ? 'fill-accent text-accent' : ''} />
            </button>
            {scene && (
              <a href={`/scene/${scene}`} className="word">
                open its scene
              </a>
            )}
          </figcaption>
        </figure>
        <button
          type="button"
          className="mark"
          aria-label="The next run"
          title="The next run (right arrow)"
          disabled={at === rows.length - 1}
          onClick={() => go(at + 1)}
        >
          <ChevronRight size={20} />
        </button>
      </div>
      <ul ref={strip} aria-label="All runs" className="flex shrink-0 gap-2 overflow-x-auto pb-1">
        {rows.map((one, i) => {
          const run = table.rows[one];
          return (
            <li key={run.id} className="w-28 shrink-0">
              <button
                type="button"
                aria-pressed={i === at}
                aria-label={`Show ${run.name}`}
                tabIndex={i === at ? 0 : -1}
                className={`relative block w-full overflow-hidden rounded-md border ${i === at ? 'border-accent ring-1 ring-accent' : 'border-rule hover:border-soft'}`}
                onClick={() => setChosen(run.id)}
              >
                <RunPicture id={run.id} name="" aspect={aspect} sheet={sheet} />
                {marked.includes(run.id) && (
                  <Bookmark size={14} className="absolute top-1 right-1 fill-accent text-accent" />
                )}
                <span className="block truncate px-1.5 py-0.5 text-xs tabular-nums">
                  {sayLabelValues(table, one, settings.labels) || run.name}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
