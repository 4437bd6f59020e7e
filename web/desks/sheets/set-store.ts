import { useMemo } from 'react';
import { create } from 'zustand';
import { withDifferences } from '#core/model/document-changes.ts';
import { History } from '#core/model/history.ts';
import {
  type RunSet,
  type RunSetEdit,
  runSetEditsSaid,
  runSetForm,
  tableOfSet,
  withRunSetEdit,
} from '#core/sets/run-set.ts';
import type { RunTable } from '#core/sets/run-table.ts';
import { type ShownOfSet, shownOf } from '#core/sets/set-view.ts';
import { type RowGroup, shownRows } from '#core/sets/shown-rows.ts';
import { DocumentSaver, type SaveState } from '#web/desks/shared/document-saver.ts';
import type { ListedRun } from '#web/server/run-sets.ts';

interface SetState {
  history: History<RunSet>;
  /** Every run there is, whether of the set or not. */
  runs: readonly ListedRun[];
  save: SaveState<RunSet>;
  /** In place of what the document says, while shots are presented. */
  presented: ShownOfSet | null;
}

export const useSet = create<SetState>()(() => ({
  history: null as never,
  runs: [],
  save: { kind: 'saved' },
  presented: null,
}));

const asShown = (set: RunSet, presented: ShownOfSet | null): RunSet =>
  presented ? { ...set, ...presented } : set;

/** The set as it is shown. */
export function useRunSet(): RunSet {
  const now = useSet((s) => s.history.now);
  const presented = useSet((s) => s.presented);
  return useMemo(() => asShown(now, presented), [now, presented]);
}

export function setNow(): RunSet {
  const { history, presented } = useSet.getState();
  return asShown(history.now, presented);
}

/**
 * What changes how a set is shown lasts as long as it is presented, while that is so.
 *
 * @param key joins it with the edit before when both carry the same key
 */
export function editSet(edit: RunSetEdit, key: string | null = null): void {
  useSet.setState(({ history, presented }) => {
    const edited = withRunSetEdit(asShown(history.now, presented), edit);
    if (presented && shownEdits.has(edit.type)) return { presented: shownOf(edited) };
    const now = presented ? { ...edited, ...shownOf(history.now) } : edited;
    return { history: history.to(now, runSetEditsSaid[edit.type], key) };
  });
}

const shownEdits: ReadonlySet<RunSetEdit['type']> = new Set([
  'set.view',
  'set.matrix',
  'set.response',
  'set.sheet',
] as const);

/** Shows a state of the set without changing it; null ends that. */
export const presentSet = (presented: ShownOfSet | null): void => useSet.setState({ presented });

export const undoSet = (): void => useSet.setState((s) => ({ history: s.history.undo() }));
export const redoSet = (): void => useSet.setState((s) => ({ history: s.history.redo() }));

/** The table of the set, as its document says. */
export function useRunTable(): RunTable {
  const { runs: ids, pattern, typed, columns, measures } = useRunSet();
  const known = useSet((s) => s.runs);
  return useMemo(
    () => tableOfSet({ ...setNow(), runs: ids, pattern, typed, columns, measures }, known),
    [ids, pattern, typed, columns, measures, known],
  );
}

/** The rows that are shown of a table, by groups. */
export function useShownRows(table: RunTable): RowGroup[] {
  const { view } = useRunSet();
  return useMemo(() => shownRows(table, view), [table, view]);
}

/** Begins the desk of a set; what is edited is saved by itself until it is left. */
export function openSetDesk(
  id: string,
  document: RunSet,
  revision: number,
  runs: readonly ListedRun[],
): { saver: DocumentSaver<RunSet>; close(): void } {
  useSet.setState({ history: History.of(document), runs, save: { kind: 'saved' }, presented: null });
  const saver = new DocumentSaver<RunSet>(
    {
      address: `/api/sets/${id}`,
      form: runSetForm,
      now: () => useSet.getState().history.now,
      adopt: (changes) =>
        useSet.setState((s) => ({
          history: s.history.everywhere((state) => withDifferences(runSetForm, state, changes).document),
        })),
      told: (save) => useSet.setState({ save }),
    },
    document,
    revision,
  );
  return { saver, close: saver.savesAlong(useSet, (s) => s.history.now) };
}
