import type { RunSet } from '#core/sets/run-set.ts';
import type { RunTable } from '#core/sets/run-table.ts';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import type { ListedShot } from '#web/server/listed-shots.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import { useRunSet } from '../set-store.ts';
import { MatrixView } from './MatrixView.tsx';
import { SaveSheet } from './SaveSheet.tsx';
import { SheetSentence } from './SheetSentence.tsx';
import { StripView } from './StripView.tsx';
import { useSheetPictures } from './use-sheet-pictures.ts';

interface Props {
  /** Id of the set. */
  id: string;
  as: 'strip' | 'matrix';
  table: RunTable;
  /** Indices of the rows that are shown. */
  rows: readonly number[];
  runs: ReadonlyMap<string, ListedRun>;
  shots: readonly ListedShot[];
}

/** The shot that a sheet shows: that which was chosen, else one of a run of the set. */
export function shotOfSheet(
  { shot }: RunSet['sheet'],
  table: RunTable,
  shots: readonly ListedShot[],
): ListedShot | null {
  const ofSet = new Set(table.rows.map((r) => r.id));
  return shots.find((s) => s.id === shot) ?? shots.find((s) => ofSet.has(s.run)) ?? shots[0] ?? null;
}

/** Pictures of one shot of all runs that are shown, paged through or laid out. */
export function ContactSheet({ id, as, table, rows, runs, shots }: Props) {
  const { sheet: settings } = useRunSet();
  const shot = shotOfSheet(settings, table, shots);
  const sheet = useSheetPictures(
    id,
    shot,
    rows.map((row) => table.rows[row].id),
    settings,
  );
  const View = as === 'strip' ? StripView : MatrixView;
  return (
    <>
      <div className="flex items-start gap-4 border-b border-rule px-4 py-2.5">
        <SheetSentence table={table} shots={shots} shot={shot} ends={sheet.ends} />
        {sheet.work && (
          <span className="shrink-0 text-sm text-soft tabular-nums" role="status">
            {sheet.work.ahead > 0 ? 'waits for other work' : `${sheet.pictures.size} of ${rows.length} drawn`}
          </span>
        )}
        {shot && <SaveSheet as={as} table={table} rows={rows} shot={shot} sheet={sheet} />}
      </div>
      {sheet.problem && (
        <div className="p-4">
          <ProblemNote problem={sheet.problem} />
        </div>
      )}
      {shot ? (
        <View table={table} rows={rows} runs={runs} aspect={shot.aspect} sheet={sheet} />
      ) : (
        <p className="p-6 text-soft">
          No shot is kept yet. Open the scene of a run, set it up, and press “Keep shot” below its picture:
          all runs are shown like that here.
        </p>
      )}
    </>
  );
}
