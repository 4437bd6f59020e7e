import { useEffect, useState } from 'react';
import type { RunTable } from '#core/sets/run-table.ts';
import type { SetShot } from '#core/sets/set-view.ts';
import { shownRows } from '#core/sets/shown-rows.ts';
import { Presenter } from '#web/desks/shared/shots/Presenter.tsx';
import type { ListedShot } from '#web/server/listed-shots.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import { shotOfSheet } from '../contact/ContactSheet.tsx';
import { useSheetPictures } from '../contact/use-sheet-pictures.ts';
import { ShownSet } from '../ShownSet.tsx';
import { presentSet, useShownRows } from '../set-store.ts';

interface Props {
  /** Id of the set. */
  id: string;
  /** What is presented. */
  kept: readonly SetShot[];
  table: RunTable;
  runs: ReadonlyMap<string, ListedRun>;
  shots: readonly ListedShot[];
  /** Place of the one that comes first. */
  first: number;
  onDone(): void;
}

/** The shots of a set one after the other, filling the screen, as alive as on the desk, which stays as it is. */
export function PresentSet({ id, kept, table, runs, shots, first, onDone }: Props) {
  const [at, setAt] = useState(first);
  const [isBegun, setBegun] = useState(false);
  const here = kept[at];
  const groups = useShownRows(table);
  useEffect(() => {
    presentSet(here.shown);
    setBegun(true);
  }, [here.id]);
  useEffect(() => () => presentSet(null), []);
  const next = kept[at + 1];
  return (
    <Presenter label="Presenting shots of the set" shots={kept} at={at} onGo={setAt} onDone={onDone}>
      <main
        className="flex min-h-0 flex-1 flex-col bg-paper text-ink"
        data-testid="presented"
        data-shot={here.name}
      >
        {isBegun && (
          <ShownSet id={id} as={here.kind} table={table} groups={groups} runs={runs} shots={shots} />
        )}
      </main>
      {next && (next.kind === 'strip' || next.kind === 'matrix') && (
        <DrawnAhead id={id} shot={next} table={table} shots={shots} />
      )}
    </Presenter>
  );
}

/** Draws the pictures of a contact sheet before it is asked for. */
function DrawnAhead({
  id,
  shot: { shown },
  table,
  shots,
}: Pick<Props, 'id' | 'table' | 'shots'> & { shot: SetShot }) {
  const rows = shownRows(table, shown.view).flatMap((g) => g.rows);
  const ids = rows.map((row) => table.rows[row].id);
  useSheetPictures(id, shotOfSheet(shown.sheet, table, shots), ids, shown.sheet);
  return null;
}
