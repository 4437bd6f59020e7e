import { useEffect, useMemo, useState } from 'react';
import type { RunSet } from '#core/sets/run-set.ts';
import type { DocumentSaver } from '#web/desks/shared/document-saver.ts';
import { Guard } from '#web/desks/shared/Guard.tsx';
import { NameOfDocument } from '#web/desks/shared/NameOfDocument.tsx';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { SaveNotice } from '#web/desks/shared/SaveNotice.tsx';
import { TopBar } from '#web/desks/shared/TopBar.tsx';
import { UndoRedo } from '#web/desks/shared/UndoRedo.tsx';
import { undoneByKey } from '#web/desks/shared/undo-keys.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import { BatchPanel } from './batch/BatchPanel.tsx';
import { ContactSheet } from './contact/ContactSheet.tsx';
import { LaySideBySide } from './LaySideBySide.tsx';
import { RunsTable } from './RunsTable.tsx';
import { RelationsView } from './relations/RelationsView.tsx';
import { ResponseView } from './response/ResponseView.tsx';
import { SetPanel } from './SetPanel.tsx';
import {
  editSet,
  openSetDesk,
  redoSet,
  undoSet,
  useRunSet,
  useRunTable,
  useSet,
  useShownRows,
} from './set-store.ts';
import { useShots } from './use-shots.ts';

/** How the runs of a set are looked at; the address of the page says which. */
const setViews = [
  { name: 'table', says: 'all that is known of each run' },
  { name: 'strip', says: 'one picture after the other' },
  { name: 'matrix', says: 'pictures by two parameters' },
  { name: 'response', says: 'an output against inputs' },
  { name: 'relations', says: 'how all numbers go together' },
] as const;

type SetView = (typeof setViews)[number]['name'];

function useSetView(): [SetView, (view: SetView) => void] {
  const asked = (): SetView => setViews.find(({ name }) => location.hash === `#${name}`)?.name ?? 'table';
  const [view, setView] = useState(asked);
  useEffect(() => {
    const follow = (): void => setView(asked());
    addEventListener('hashchange', follow);
    return () => removeEventListener('hashchange', follow);
  }, []);
  const show = (to: SetView): void => {
    history.replaceState(null, '', `#${to}`);
    setView(to);
  };
  return [view, show];
}

interface Props {
  id: string;
  document: RunSet;
  revision: number;
  runs: ListedRun[];
}

/** The desk where many runs are looked at together. */
export function SetDesk({ id, document, revision, runs }: Props) {
  const [saver, setSaver] = useState<DocumentSaver<RunSet> | null>(null);
  useEffect(() => {
    const desk = openSetDesk(id, document, revision, runs);
    setSaver(desk.saver);
    const onKey = (event: KeyboardEvent): void => void undoneByKey(event, undoSet, redoSet);
    addEventListener('keydown', onKey);
    return () => {
      removeEventListener('keydown', onKey);
      desk.close();
    };
  }, []);
  if (!saver) return null;
  return (
    <Guard what="The desk" onUndo={undoSet}>
      <Desk id={id} saver={saver} />
    </Guard>
  );
}

function Desk({ id, saver }: { id: string; saver: DocumentSaver<RunSet> }) {
  const { name } = useRunSet();
  const history = useSet((s) => s.history);
  const save = useSet((s) => s.save);
  const runs = useSet((s) => s.runs);
  const byId = useMemo(() => new Map(runs.map((r) => [r.id, r])), [runs]);
  const table = useRunTable();
  const groups = useShownRows(table);
  const rows = useMemo(() => groups.flatMap((g) => g.rows), [groups]);
  const shots = useShots();
  const [view, showView] = useSetView();
  const first = table.rows.find((r) => byId.get(r.id)?.scene);
  return (
    <div className="flex h-screen flex-col overflow-hidden">
      <TopBar
        desk="sheets"
        stageHref={first ? `/scene/${byId.get(first.id)!.scene}` : null}
        title={
          <NameOfDocument
            label="Name of the set"
            name={name}
            save={save.kind}
            onRename={(to) => editSet({ type: 'set.rename', name: to }, 'rename')}
          />
        }
      >
        <UndoRedo history={history} undo={undoSet} redo={redoSet} />
      </TopBar>
      <SaveNotice what="set" save={save} saver={saver} />
      <div className="flex min-h-0 flex-1">
        <aside
          aria-label="The set"
          className="w-[340px] shrink-0 overflow-y-auto border-r border-rule bg-paper"
        >
          <SetPanel id={id} saver={saver} table={table} groups={groups} />
          <LaySideBySide set={id} shots={shots ?? []} />
          <BatchPanel id={id} shown={rows.map((row) => table.rows[row].id)} shots={shots ?? []} />
        </aside>
        <main className="flex min-w-0 flex-1 flex-col">
          <nav
            aria-label="How the runs are looked at"
            className="flex gap-1.5 border-b border-rule px-4 py-2"
          >
            {setViews.map(({ name, says }) => (
              <Pill key={name} on={view === name} title={says} onClick={() => showView(name)}>
                {name}
              </Pill>
            ))}
          </nav>
          {view === 'table' ? (
            <RunsTable table={table} groups={groups} runs={byId} />
          ) : view === 'response' ? (
            <ResponseView table={table} rows={rows} runs={byId} />
          ) : view === 'relations' ? (
            <RelationsView table={table} rows={rows} />
          ) : shots ? (
            <ContactSheet id={id} as={view} table={table} rows={rows} runs={byId} shots={shots} />
          ) : null}
        </main>
      </div>
    </div>
  );
}
